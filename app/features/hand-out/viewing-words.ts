import type { Watched, WatchedByStudent } from '@under-chalk/core/contract/watched';
import { formatClock } from '@under-chalk/core/time/us';
import { mostRepeated } from '@under-chalk/core/watched/seconds';

/** So much of a film is all of it: the last words are often left. */
const ALL = 0.95;

const people = (count: number): string => (count === 1 ? 'one' : String(count));

/** How many have watched the second that most have watched. */
export const viewersOf = ({ curve }: Watched): number => Math.max(0, ...curve.watched);

/** The stretch that most have gone back to, in words; null where hardly anybody has. */
const goneBackTo = (watched: Watched): string | null => {
  const stretch = mostRepeated(watched.curve);
  if (!stretch) return null;
  const [from, to] = stretch;
  const chapter = watched.chapters.findLast(({ startUs }) => startUs <= from * 1e6)?.title;
  const place = `${formatClock(from * 1e6)} to ${formatClock(to * 1e6)}`;
  const many = Math.max(...watched.curve.again.slice(from, to));
  return `${many === 1 ? 'One has' : `${many} have`} watched ${place}${chapter ? ` (${chapter})` : ''} more than once.`;
};

/** What is to be said of how a film is watched, a sentence each. */
export const watchedInWords = (watched: Watched): string[] => {
  const viewers = viewersOf(watched);
  if (viewers === 0) return ['Nobody has watched it yet as it is now.'];
  const { students, others } = watched;
  const whole = students.filter(({ share }) => share >= ALL).length;
  const begun = students.filter(({ share }) => share > 0).length;
  return [
    ...(students.length === 0
      ? []
      : begun === 0
        ? ['Nobody that it is for has begun it.']
        : [
            `${begun} of ${students.length} have begun it${whole === 0 ? '' : `, ${people(whole)} watched all of it`}.`,
          ]),
    ...(others > 0
      ? [
          `It was played on ${others === 1 ? 'one page' : `${others} pages`} by somebody without a name.`,
        ]
      : []),
    ...[goneBackTo(watched)].filter((sentence) => sentence !== null),
  ];
};

/** How much of it one of them has watched. */
export const shareInWords = ({ share, furthestUs }: WatchedByStudent): string | null =>
  furthestUs === null
    ? null
    : share >= ALL
      ? 'Watched all of it'
      : `Watched ${Math.max(1, Math.round(share * 100))} %, as far as ${formatClock(furthestUs)}`;
