import { useQuery } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';
import * as z from 'zod';
import { replySchema } from '@under-chalk/core/contract/watch-answers';
import { answerSchema, type Answer } from '@under-chalk/core/interaction/answer';
import { newId } from '../../capture/new-id';
import { codeOf } from '../../data/fetch';
import { useKept } from '../../data/kept-setting';
import { isForLater, useToldAgain } from './use-told-again';
import { fetchOwnAnswers, sendAnswer } from './watch-data';

const givenSchema = replySchema.extend({
  answer: answerSchema,
  state: z.enum(['waits', 'told', 'refused']),
});
/** An answer, how it stands with it, and what was said to it. */
export type Given = z.infer<typeof givenSchema>;

/** What somebody is about to answer. */
const draftSchema = z.object({ text: z.string(), options: z.array(z.number()) });
export type AnswerDraft = z.infer<typeof draftSchema>;
export const NO_ANSWER: AnswerDraft = { text: '', options: [] };

/** An answer as it was written: one that was given on another device is gone on with here. */
const draftFrom = (answer: Answer): AnswerDraft => {
  switch (answer.by) {
    case 'one':
      return { text: '', options: [answer.option] };
    case 'several':
      return { text: '', options: [...answer.options] };
    case 'words':
      return { text: answer.text, options: [] };
    case 'number':
      return { text: String(answer.value), options: [] };
  }
};

const keptSchema = z.object({
  /** Names this device for this link, where there is no name: made with the first answer. */
  visitor: z.string(),
  drafts: z.record(z.string(), draftSchema),
  given: z.record(z.string(), givenSchema),
});
type Kept = z.infer<typeof keptSchema>;
const NOTHING: Kept = { visitor: '', drafts: {}, given: {} };

export interface Answers {
  readonly given: Readonly<Record<string, Given>>;
  readonly draftOf: (interactionId: string) => AnswerDraft;
  readonly write: (interactionId: string, draft: AnswerDraft) => void;
  readonly answer: (interactionId: string, answer: Answer) => void;
}

/**
 * What is answered to a film's questions. Kept in this browser with each key that is pressed, told when it is answered, and told again
 * until it has been heard.
 *
 * @param version {@link Watch.stream}; null: nothing can be told
 * @param named it is an address of one's own: what was answered elsewhere is fetched
 */
export const useAnswers = (token: string, version: string | null, named: boolean): Answers => {
  // A link's token opens the film, and isn't left lying about: this names it as well.
  const key = `answers ${token.slice(0, 8)}`;
  const { kept, latest, change } = useKept(key, keptSchema, () => NOTHING);
  const busy = useRef(false);
  const tell = useCallback(async () => {
    if (busy.current || version === null) return;
    busy.current = true;
    try {
      for (const [interactionId, { answer, state }] of Object.entries(latest().given)) {
        if (state !== 'waits') continue;
        const { visitor } = latest();
        const heard = (part: Partial<Given>) =>
          change((before) => {
            const now = before.given[interactionId];
            // It was answered otherwise meanwhile: that is told next.
            if (!now || now.answer !== answer) return before;
            return { ...before, given: { ...before.given, [interactionId]: { ...now, ...part } } };
          });
        try {
          const reply = await sendAnswer(token, { version, interactionId, visitor, answer });
          heard({ ...reply, state: 'told' });
        } catch (error) {
          if (isForLater(codeOf(error))) return;
          heard({ state: 'refused' });
        }
      }
    } finally {
      busy.current = false;
    }
  }, [change, latest, token, version]);
  useToldAgain(tell);
  const elsewhere = useQuery({
    queryKey: ['own-answers', token],
    queryFn: () => fetchOwnAnswers(token),
    enabled: named && version !== null,
    staleTime: Infinity,
  });
  const before = Object.fromEntries(
    (elsewhere.data ?? []).map(({ interactionId, ...one }): [string, Given] => [
      interactionId,
      { ...one, state: 'told' },
    ]),
  );
  const given = { ...before, ...kept.given };
  return {
    given,
    draftOf: (interactionId) => {
      const there = given[interactionId];
      return kept.drafts[interactionId] ?? (there ? draftFrom(there.answer) : NO_ANSWER);
    },
    write: (interactionId, draft) =>
      change((now) => ({ ...now, drafts: { ...now.drafts, [interactionId]: draft } })),
    answer: (interactionId, answer) => {
      change((now) => ({
        ...now,
        visitor: now.visitor || newId(),
        given: { ...now.given, [interactionId]: { answer, state: 'waits', right: null, says: '' } },
      }));
      void tell();
    },
  };
};
