import type { Act } from '../edit/edit';
import { layoutAt } from '../film/sections';
import type { Lesson } from '../lesson/lesson';
import { surfaceOf, trackOf } from '../lesson/take';
import type { FlawKind } from '../picture/reading';
import { lengthOf } from '../time/ranges';
import { formatClock, formatSpoken } from '../time/us';
import type { Check } from './check';
import type { FlawSeen, PicturesSeen } from './pictures-seen';

const IN_WORDS: Readonly<Record<FlawKind, string>> = {
  black: 'is black',
  still: 'stands still',
  torn: 'is torn',
};

/** Shows the other of surface and camera alone for as long; nothing where there is no other. */
const withoutIt = (lesson: Lesson, { of, span, recorded }: FlawSeen): Act[] => {
  const { take } = span;
  const other = of === 'camera' ? surfaceOf(take) : trackOf(take, 'camera');
  if (!other) return [];
  const kind = of === 'camera' ? 'surface' : 'camera';
  const layout = { ...layoutAt(lesson, take, recorded.startUs), kind } as const;
  return [{ do: 'set-layout', takeId: take.id, ...recorded, layout }];
};

const checkOf = (lesson: Lesson, flaws: readonly FlawSeen[]): Check => {
  const [first] = flaws;
  const { is, of, startUs } = first!;
  const what = of === 'camera' ? 'The camera’s picture' : 'The picture';
  const time = is === 'torn' ? '' : ` for ${formatSpoken(lengthOf(first!))}`;
  const sentence =
    flaws.length > 1
      ? `${what} ${IN_WORDS[is]} in ${flaws.length} places, first${time} at ${formatClock(startUs)}.`
      : `${what} ${IN_WORDS[is]}${time} at ${formatClock(startUs)}.`;
  const acts = flaws.flatMap((flaw) => withoutIt(lesson, flaw));
  return {
    ...{ id: 'flaw', verdict: 'look', sentence, atUs: startUs },
    mend:
      acts.length === flaws.length
        ? { words: of === 'camera' ? 'Leave the camera out there' : 'Show the camera there', acts }
        : { words: 'To Tidy', step: 'tidy' },
  };
};

/** Whether a picture is black, torn, or stands still where it wasn't meant to: a line for each way. */
export const flawChecks = (lesson: Lesson, { flaws }: PicturesSeen): Check[] => {
  const ways = new Map<string, FlawSeen[]>();
  for (const flaw of flaws) {
    const way = `${flaw.is} ${flaw.of}`;
    ways.set(way, [...(ways.get(way) ?? []), flaw]);
  }
  return [...ways.values()].map((of) => checkOf(lesson, of));
};
