import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { StyleSheet, View } from 'react-native';
import type { Draft, Timing, WordsJob } from '@under-chalk/core/contract/words';
import { filmTimeFrom } from '@under-chalk/core/film/film';
import { formatTenths } from '@under-chalk/core/time/us';
import { inTakeOrder } from '@under-chalk/core/words/cue';
import { heldToRead } from '@under-chalk/core/words/make-right';
import { baseOf } from '@under-chalk/core/words/language';
import { call, codeOf } from '../../data/client';
import { KEYS } from '../../data/queries';
import type { FilmPlayer } from '../../player/film-player';
import { Button } from '../../ui/button';
import { Notice, ProblemNotice } from '../../ui/notice';
import { ProgressLine } from '../../ui/progress-line';
import { SPACE } from '../../ui/theme';
import type { Captions } from './use-captions';

type State =
  | { readonly is: 'idle' }
  | { readonly is: 'listening'; readonly done: number }
  | { readonly is: 'heard'; readonly timing: Timing }
  | { readonly is: 'drafted'; readonly draft: Draft }
  | { readonly is: 'failed'; readonly code: string; readonly of: ListensFor };

/** To put captions in time with the voice, or to write a draft of them. */
export type ListensFor = 'timeWords' | 'draftWords';

/** How often it is asked how far it is, ms. */
const ASK_MS = 400;

/** The server's listening to the film. */
export interface InTime {
  readonly state: State;
  readonly begin: (what: ListensFor) => Promise<void>;
  readonly stop: () => void;
  readonly let: () => void;
}

const wait = () => new Promise((resolve) => setTimeout(resolve, ASK_MS));

export const useInTime = (lessonId: string, language: string): InTime => {
  const [state, setState] = useState<State>({ is: 'idle' });
  const asked = useRef<{ id: string | null } | null>(null);
  // Nobody waits for it any more.
  useEffect(() => () => void (asked.current = null), []);
  const over = (job: WordsJob, of: ListensFor): State =>
    job.timing
      ? { is: 'heard', timing: job.timing }
      : job.draft
        ? { is: 'drafted', draft: job.draft }
        : job.state === 'called-off'
          ? { is: 'idle' }
          : { is: 'failed', code: job.problem ?? 'unexpected', of };
  return {
    state,
    begin: async (what) => {
      const own: { id: string | null } = { id: null };
      asked.current = own;
      const isWanted = () => asked.current === own;
      setState({ is: 'listening', done: 0 });
      try {
        let job = await call(what, { params: { lessonId }, body: { language } });
        own.id = job.id;
        while (isWanted() && ['waiting', 'working'].includes(job.state)) {
          setState({ is: 'listening', done: job.done });
          await wait();
          const now = await call('wordsJob', { params: { jobId: job.id } }).catch(
            (error: unknown) => {
              if (codeOf(error) !== 'server-unreachable') throw error;
              return null;
            },
          );
          if (now) job = now;
        }
        if (isWanted()) setState(over(job, what));
      } catch (error) {
        if (isWanted()) setState({ is: 'failed', code: codeOf(error), of: what });
      }
    },
    stop: () => {
      const id = asked.current?.id;
      asked.current = null;
      setState({ is: 'idle' });
      if (id) void call('cancelWordsJob', { params: { jobId: id } }).catch(() => undefined);
    },
    let: () => setState({ is: 'idle' }),
  };
};

/** What this server can do with a voice in a language; nothing while that isn't known. */
export const useListeners = (
  language: string,
): { readonly times: boolean; readonly drafts: boolean } => {
  const { data } = useQuery({
    queryKey: KEYS.listeners,
    queryFn: () => call('canListen'),
    staleTime: Infinity,
  });
  const base = baseOf(language);
  return {
    times: data?.timing.includes(base) ?? false,
    drafts: data ? (data.drafts?.includes(base) ?? true) : false,
  };
};

interface Props {
  readonly captions: Captions;
  readonly player: FilmPlayer;
  readonly inTime: InTime;
  /** Captions that were not heard are marked; null: none are. */
  readonly onUnheard: (ids: readonly string[] | null) => void;
}

const several = (count: number, one: string, more: string): string =>
  count === 1 ? `One ${one}` : `${count} ${more}`;

const doubtWords = (confidence: number, doubtful: number): string => {
  const marked =
    doubtful === 0
      ? 'No words are marked as uncertain'
      : doubtful === 1
        ? 'One uncertain word is marked'
        : `${doubtful} uncertain words are marked`;
  return `Confidence: ${confidence}%. ${marked}.`;
};

/** How far the listening is, and what came of it: nothing is moved before it is said so. */
export const InTimePanel = ({ captions, player, inTime, onUnheard }: Props) => {
  const { state } = inTime;
  const { film } = captions;
  if (state.is === 'idle') return null;
  if (state.is === 'failed') {
    return (
      <ProblemNotice code={state.code}>
        <Button small label="Try again" onPress={() => void inTime.begin(state.of)} />
        <Button small label="Never mind" onPress={inTime.let} />
      </ProblemNotice>
    );
  }
  if (state.is === 'listening') {
    return (
      <View style={styles.listening}>
        <ProgressLine done={state.done} doing="Listening to the film" leftUs={null} />
        <Button small label="Stop listening" onPress={inTime.stop} />
      </View>
    );
  }
  if (state.is === 'drafted') {
    const { cues, confidence, doubtful, spelled } = state.draft;
    const own =
      spelled.length > 0
        ? ` Spelled as in your course: ${spelled.slice(0, 8).join(', ')}${spelled.length > 8 ? ' and others' : ''}.`
        : '';
    const put = () => {
      captions.writeLaidOut(
        cues,
        captions.cues.map(({ id }) => id),
      );
      inTime.let();
    };
    return cues.length === 0 ? (
      <Notice
        tone="warn"
        title="The speech isn’t clear enough for a draft."
        text="Nothing was changed. Type the captions, or paste your script and put it in time with the voice."
      >
        <Button small label="Close" onPress={inTime.let} />
      </Notice>
    ) : (
      <Notice
        title={`A draft of ${cues.length === 1 ? 'one caption' : `${cues.length} captions`}.`}
        text={`A machine wrote it: check every word. ${doubtWords(confidence, doubtful)}${own}`}
      >
        <Button small label="Never mind" onPress={inTime.let} />
        <Button small kind="main" label="Mend this draft" onPress={put} />
      </Notice>
    );
  }
  const { cues, unsaid, unwritten } = state.timing;
  const use = () => {
    // What was mended meanwhile keeps its new words.
    const now = new Map(captions.cues.map((cue) => [cue.id, cue]));
    const heard = new Map(
      cues.filter(({ id, text }) => now.get(id)?.text === text).map((cue) => [cue.id, cue]),
    );
    const all = captions.cues.map((cue) => heard.get(cue.id) ?? cue);
    captions.write(
      heldToRead(film, all.sort(inTakeOrder)).filter((cue) => now.get(cue.id) !== cue),
    );
    onUnheard(unsaid.length > 0 ? unsaid : null);
    inTime.let();
  };
  const places = unwritten.map(({ takeId, startUs }) =>
    filmTimeFrom(film, { takeId, takeUs: startUs }),
  );
  const said = [
    `${several(cues.length, 'caption was', 'captions were')} heard.`,
    ...(unsaid.length > 0
      ? [`${several(unsaid.length, 'was', 'were')} not heard in the film.`]
      : []),
    ...(unwritten.length > 0
      ? [
          `At ${several(unwritten.length, 'place', 'places').toLowerCase()} something is said that isn’t written.`,
        ]
      : []),
  ];
  return (
    <Notice tone={unsaid.length + unwritten.length > 0 ? 'warn' : 'good'} title={said.join(' ')}>
      {places.slice(0, 6).map((filmUs) => (
        <Button
          key={filmUs}
          small
          label={formatTenths(filmUs)}
          spoken={`Go to ${formatTenths(filmUs)}, where something is said that isn’t written`}
          onPress={() => void player.seek(filmUs)}
        />
      ))}
      <Button small label="Leave them as they are" onPress={inTime.let} />
      <Button
        small
        kind="main"
        label="Use these times"
        disabled={cues.length === 0}
        onPress={use}
      />
    </Notice>
  );
};

const styles = StyleSheet.create({
  listening: { gap: SPACE.small, alignItems: 'flex-start' },
});
