import * as fc from 'fast-check';
import { at, clear, freeAround, join, lay, ofTake, type Laid, type Timeline } from './timeline';

interface Stretch extends Laid {
  readonly value: string;
}

const STEPS = 24;
const stretch: fc.Arbitrary<Stretch> = fc
  .tuple(
    fc.constantFrom('a', 'b', 'c'),
    fc.nat(STEPS - 2),
    fc.integer({ min: 1, max: 8 }),
    fc.constantFrom('x', 'y'),
  )
  .map(([takeId, from, length, value]) => ({
    takeId,
    startUs: from,
    endUs: Math.min(STEPS, from + length),
    value,
  }));
const change = fc.tuple(fc.constantFrom('lay' as const, 'clear' as const), stretch);

/** The same kept moment by moment: slow, and plainly right. */
const slow = (changes: readonly ['lay' | 'clear', Stretch][]) => {
  const moments = new Map<string, string>();
  for (const [what, { takeId, startUs, endUs, value }] of changes) {
    for (let us = startUs; us < endUs; us++) {
      if (what === 'lay') moments.set(`${takeId} ${us}`, value);
      else moments.delete(`${takeId} ${us}`);
    }
  }
  return moments;
};
const fast = (changes: readonly ['lay' | 'clear', Stretch][]) =>
  changes.reduce<Timeline<Stretch>>(
    (timeline, [what, one]) => (what === 'lay' ? lay(timeline, one) : clear(timeline, one)),
    [],
  );
const isInOrder = (timeline: Timeline<Laid>) =>
  timeline.every((one, index) => {
    const before = timeline[index - 1];
    if (one.endUs <= one.startUs) return false;
    if (!before) return true;
    return (
      before.takeId < one.takeId || (before.takeId === one.takeId && before.endUs <= one.startUs)
    );
  });
const SEED = { seed: 3, numRuns: 1_000 };

it('is what a moment-by-moment account is, sorted and disjoint', () =>
  fc.assert(
    fc.property(fc.array(change, { maxLength: 14 }), (changes) => {
      const timeline = fast(changes);
      const moments = slow(changes);
      expect(isInOrder(timeline)).toBe(true);
      for (const takeId of ['a', 'b', 'c', 'd']) {
        for (let us = 0; us < STEPS; us++) {
          expect(at(timeline, takeId, us)?.value).toBe(moments.get(`${takeId} ${us}`));
        }
        expect(ofTake(timeline, takeId)).toEqual(timeline.filter((one) => one.takeId === takeId));
      }
    }),
    SEED,
  ));

it('joins what touches, and only that', () =>
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 12 }), (stretches) => {
      const same = stretches.map((one) => ({ ...one, value: 'x' }));
      const timeline = same.reduce<Timeline<Stretch>>(join, []);
      expect(isInOrder(timeline)).toBe(true);
      const moments = slow(same.map((one) => ['lay', one]));
      const count = timeline.reduce((sum, one) => sum + one.endUs - one.startUs, 0);
      expect(count).toBe(moments.size);
      timeline.forEach((one, index) => {
        const before = timeline[index - 1];
        if (before?.takeId === one.takeId) expect(before.endUs).toBeLessThan(one.startUs);
      });
    }),
    SEED,
  ));

it('knows what lies free round a moment', () => {
  const timeline = [
    { takeId: 'a', startUs: 5, endUs: 8, value: 'x' },
    { takeId: 'b', startUs: 2, endUs: 4, value: 'x' },
    { takeId: 'b', startUs: 10, endUs: 12, value: 'x' },
  ];
  expect(freeAround(timeline, 'b', 6)).toEqual({ startUs: 4, endUs: 10 });
  expect(freeAround(timeline, 'b', 1)).toEqual({ startUs: 0, endUs: 2 });
  expect(freeAround(timeline, 'b', 20)).toEqual({ startUs: 12, endUs: Number.POSITIVE_INFINITY });
  expect(freeAround(timeline, 'c', 3)).toEqual({ startUs: 0, endUs: Number.POSITIVE_INFINITY });
});

it('grows with the logarithm of its length, but for one copy of it', () => {
  // Counted, and not timed: how often a stretch is looked at.
  let looked = 0;
  const counted = (startUs: number): Laid => ({
    get takeId() {
      looked++;
      return 'a';
    },
    startUs,
    endUs: startUs + 1,
  });
  for (const [length, most] of [
    [1_000, 40],
    [100_000, 60],
  ] as const) {
    const timeline = Array.from({ length }, (_, index) => counted(index * 2));
    looked = 0;
    at(timeline, 'a', length);
    expect(looked).toBeLessThan(most);
    looked = 0;
    lay(timeline, { takeId: 'a', startUs: length, endUs: length + 3 });
    expect(looked).toBeLessThan(most);
  }
});
