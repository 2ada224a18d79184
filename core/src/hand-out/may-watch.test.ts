import { mayWatch, type MayWatch, type Openness } from './may-watch';

const [EARLY, NOON, LATE] = [
  '2026-11-30T08:00:00Z',
  '2026-11-30T12:00:00Z',
  '2026-12-04T20:00:00Z',
];
const NEVER: Openness = { takenBackAt: null, fromAt: null, untilAt: null };

it.each<[string, Partial<Openness>, string, MayWatch]>([
  ['with no dates', {}, NOON, 'open'],
  ['before it opens', { fromAt: NOON }, EARLY, 'not-yet'],
  ['at the moment it opens', { fromAt: NOON }, NOON, 'open'],
  ['after it has opened', { fromAt: EARLY }, NOON, 'open'],
  ['before it closes', { untilAt: NOON }, EARLY, 'open'],
  ['at the moment it closes', { untilAt: NOON }, NOON, 'over'],
  ['after it has closed', { untilAt: EARLY }, NOON, 'over'],
  ['between the two', { fromAt: EARLY, untilAt: LATE }, NOON, 'open'],
  ['before the two', { fromAt: NOON, untilAt: LATE }, EARLY, 'not-yet'],
  ['after the two', { fromAt: EARLY, untilAt: NOON }, LATE, 'over'],
  ['where the end comes first', { fromAt: LATE, untilAt: EARLY }, NOON, 'over'],
  ['taken away', { takenBackAt: EARLY }, NOON, 'taken-back'],
  ['taken away, and not open yet', { takenBackAt: EARLY, fromAt: LATE }, NOON, 'taken-back'],
])('%s', (_when, openness, now, expected) => {
  expect(mayWatch({ ...NEVER, ...openness }, Date.parse(now))).toBe(expected);
});
