import { trackKindSchema, type TrackKind } from '@under-chalk/core/lesson/take';
import { asSentence } from '@under-chalk/core/text/as-sentence';
import { listed } from '@under-chalk/core/text/listed';
import type { Recorder } from '../../capture/recorder';
import type { Recovery } from '../../capture/recorder-messages';
import { usePart } from '../../data/live-value';
import { Notice } from '../../ui/notice';

const WHAT: Record<TrackKind, string> = {
  surface: 'the picture of what is shown',
  camera: 'the camera’s picture',
  voice: 'the voice',
  'computer-sound': 'the computer’s sound',
  ink: 'what you write',
};

/** The gravest first, as they are told. */
const RECOVERIES: readonly Recovery[] = ['gone', 'simpler', 'again'];

/** While the take goes on. */
const TEXT: Record<Recovery, string> = {
  gone: 'Everything until now is safe, and the rest of the take goes on. Stop when it suits you, and record another stretch.',
  simpler: 'From here on it is recorded in a simpler form. Up to a second may be missing.',
  again: 'Up to a second may be missing; mark it as a flub if it mattered.',
};

/** Looked back on. */
const TEXT_OVER: Record<Recovery, string> = {
  gone: 'What had been recorded until then is there. Record that stretch again if it is needed.',
  simpler: 'From there on it was recorded in a simpler form. Up to a second may be missing.',
  again: 'Up to a second may be missing: listen to it in Tidy.',
};

/** What happened to tracks whose encoders failed, in words. */
export const recoveryWords = (
  kinds: readonly TrackKind[],
  recovery: Recovery,
  over: boolean,
): { title: string; text: string } => {
  const names = kinds.map((kind) => WHAT[kind]);
  const all = listed(names);
  const many = names.length > 1;
  if (over) {
    const what = recovery === 'gone' ? 'broke off before the end.' : 'stumbled for a moment.';
    return { title: asSentence(`${all} ${what}`), text: TEXT_OVER[recovery] };
  }
  const what =
    recovery === 'gone'
      ? 'can’t be recorded any more.'
      : `stumbled for a moment, and ${many ? 'go' : 'goes'} on.`;
  return { title: asSentence(`${all} ${what}`), text: TEXT[recovery] };
};

interface Props {
  readonly recorder: Recorder;
  /** The take has ended: it is told as what was. */
  readonly over?: boolean;
}

/** Tells at once of encoders that failed in the middle of the take; of several alike in one notice. */
export const RecoveredNotices = ({ recorder, over = false }: Props) => {
  const recovered = usePart(recorder, (view) => view.recovered);
  return RECOVERIES.map((recovery) => {
    // In one order always, whichever of them failed first.
    const kinds = trackKindSchema.options.filter((kind) => recovered[kind] === recovery);
    return kinds.length > 0 ? (
      <Notice
        key={recovery}
        tone={recovery === 'gone' ? 'bad' : 'warn'}
        urgent={!over}
        {...recoveryWords(kinds, recovery, over)}
      />
    ) : null;
  });
};
