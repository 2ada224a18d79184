import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { Recorder } from '../../capture/recorder';
import type { Recovery } from '../../capture/recorder-messages';
import { usePart } from '../../data/live-value';
import { Notice } from '../../ui/notice';

const WHAT: Record<TrackKind, string> = {
  surface: 'The picture of what is shown',
  camera: 'The camera’s picture',
  voice: 'The voice',
  'computer-sound': 'The computer’s sound',
};

/** What happened to a track whose encoder failed, in words. */
export const recoveryWords = (
  kind: TrackKind,
  recovery: Recovery,
): { title: string; text: string } => {
  if (recovery === 'gone') {
    return {
      title: `${WHAT[kind]} can’t be recorded any more.`,
      text: 'Everything until now is safe, and the rest of the take goes on. Stop when it suits you, and record another stretch.',
    };
  }
  return {
    title: `${WHAT[kind]} stumbled for a moment, and goes on.`,
    text:
      recovery === 'simpler'
        ? 'It is recorded in a simpler form from here on. Up to a second may be missing.'
        : 'Up to a second may be missing; mark it as a flub if it mattered.',
  };
};

/** Tells at once of an encoder that failed in the middle of the take. */
export const RecoveredNotices = ({ recorder }: { recorder: Recorder }) => {
  const recovered = usePart(recorder, (view) => view.recovered);
  return (Object.entries(recovered) as [TrackKind, Recovery][]).map(([kind, recovery]) => (
    <Notice
      key={kind}
      tone={recovery === 'gone' ? 'bad' : 'warn'}
      urgent
      {...recoveryWords(kind, recovery)}
    />
  ));
};
