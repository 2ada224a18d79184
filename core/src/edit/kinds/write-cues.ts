import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { formatClock } from '../../time/us';
import { cueSchema, inCueOrder, languageSchema } from '../../words/cue';
import { always, kindOf } from '../kind';
import { cuesSlice } from '../slices/cues';

/** Most cues in one edit: what was pasted for an hour is a few of them, in one press. */
export const MOST_CUES_AT_ONCE = 200;

const several = (count: number): string => (count === 1 ? 'a caption' : `${count} captions`);

/** Writes captions in a language, anew or in place of those with the same ids, and takes others away. */
export const writeCues = kindOf({
  schema: z
    .object({
      do: z.literal('write-cues'),
      language: languageSchema,
      cues: z.array(cueSchema).max(MOST_CUES_AT_ONCE).readonly(),
      gone: z.array(idSchema).max(MOST_CUES_AT_ONCE).readonly(),
    })
    .refine(({ cues, gone }) => cues.length + gone.length > 0, 'it says nothing')
    .refine(({ cues, gone }) => {
      const ids = [...cues.map(({ id }) => id), ...gone];
      return new Set(ids).size === ids.length;
    }, 'each of them once'),
  slice: cuesSlice,
  apply: (before, { language, cues, gone }) => {
    const named = new Set([...cues.map(({ id }) => id), ...gone]);
    const kept = before.filter((one) => one.language !== language || !named.has(one.cue.id));
    return [...kept, ...cues.map((cue) => ({ language, cue }))].sort(inCueOrder);
  },
  touches: ({ language, cues, gone }) => [
    ...cues.map((cue) => ({ slot: `cue ${language} ${cue.id}`, value: cue })),
    ...gone.map((id) => ({ slot: `cue ${language} ${id}`, value: null })),
  ],
  isUndoable: always,
  inWords: ({ cues, gone }) =>
    cues.length === 0
      ? `took away ${several(gone.length)}`
      : cues.length === 1
        ? `wrote a caption at ${formatClock(cues[0]!.startUs)}`
        : `wrote ${several(cues.length)}`,
});
