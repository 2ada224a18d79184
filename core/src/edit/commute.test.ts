import * as fc from 'fast-check';
import { RESTING_ARRANGEMENT } from '../lesson/arrangement';
import { NEW_DECISIONS, type Decisions } from '../lesson/lesson';
import { inOrder } from '../plan/point';
import { applyEdit } from './apply-edit';
import { conflict } from './conflict';
import { editSchema, kindOfEdit, type Edit } from './edit';

/** Few takes, points and times, so that two edits often meet. */
const TAKES = ['take-one', 'take-two'];
const takeId = fc.constantFrom(...TAKES);
const pointId = fc.constantFrom('point-one', 'point-two');
const atUs = fc.integer({ min: 0, max: 9 }).map((step) => step * 100);
const ends = fc
  .tuple(atUs, fc.integer({ min: 1, max: 5 }))
  .map(([startUs, steps]) => ({ startUs, endUs: startUs + steps * 100 }));
const stretch = <T extends string>(name: T) =>
  fc.tuple(takeId, ends).map(([id, range]) => ({ do: name, takeId: id, ...range }));
const arrangement = fc
  .constantFrom('camera' as const, 'side' as const, 'surface' as const)
  .map((kind) => ({ ...RESTING_ARRANGEMENT, kind }));
const rank = fc.constantFrom(0, 1, 2);
const about = <T extends string>(name: T) => fc.record({ do: fc.constant(name), pointId });
const flub = <T extends string>(name: T) => fc.record({ do: fc.constant(name), takeId, atUs });

/** Some edit of each kind. A kind that is missing here does not compile. */
const OF_KIND: { [Name in Edit['do']]: fc.Arbitrary<Extract<Edit, { do: Name }>> } = {
  plan: fc.record({
    do: fc.constant('plan' as const),
    set: fc.oneof(
      fc.record({ title: fc.constantFrom('a', 'b') }),
      fc.record({ unit: fc.constantFrom('1', '2'), title: fc.constantFrom('a', 'b') }),
    ),
  }),
  'place-take': fc.record({
    do: fc.constant('place-take' as const),
    takeId,
    at: fc.constantFrom(null, 0, 1),
  }),
  'leave-out-take': fc.record({ do: fc.constant('leave-out-take' as const), takeId }),
  trim: stretch('trim' as const),
  cut: stretch('cut' as const),
  restore: stretch('restore' as const),
  arrange: fc
    .tuple(stretch('arrange' as const), arrangement)
    .map(([edit, how]) => ({ ...edit, arrangement: how })),
  soften: fc.record({ do: fc.constant('soften' as const), changeUs: fc.constantFrom(0, 500) }),
  'shape-frame': fc.record({
    do: fc.constant('shape-frame' as const),
    shape: fc.constantFrom('16:9' as const, '1:1' as const),
  }),
  'set-point': fc.record({
    do: fc.constant('set-point' as const),
    point: fc.record({
      id: pointId,
      text: fc.constantFrom('tide', 'chart'),
      show: fc.constant(''),
      words: fc.constant(''),
      rank,
    }),
  }),
  'move-point': fc
    .tuple(about('move-point' as const), rank)
    .map(([edit, to]) => ({ ...edit, rank: to })),
  'remove-point': about('remove-point' as const),
  'tick-point': fc
    .tuple(about('tick-point' as const), takeId, atUs)
    .map(([edit, id, at]) => ({ ...edit, takeId: id, atUs: at })),
  'untick-point': about('untick-point' as const),
  'mark-flub': flub('mark-flub' as const),
  'unmark-flub': flub('unmark-flub' as const),
  crop: fc.record({
    do: fc.constant('crop' as const),
    takeId,
    crop: fc.constantFrom(null, { x: 0, y: 0, width: 0.5, height: 1 }),
  }),
};

const anyEdit: fc.Arbitrary<Edit> = fc.oneof(...(Object.values(OF_KIND) as fc.Arbitrary<Edit>[]));

/**
 * Placing decides where a take stands among the others, and two such decisions don't stand in either order:
 * places are numbers still, and not ranks.
 */
const isPlacing = ({ do: name }: Edit) => name === 'place-take' || name === 'leave-out-take';

/** Decisions as they matter: cut by cut and moment by moment, whatever the order of their lists. */
const meaning = (decisions: Decisions) => {
  const moments = TAKES.flatMap((id) =>
    Array.from({ length: 20 }, (_, step) => {
      const at = step * 100 + 50;
      const here = (one: { takeId: string; startUs: number; endUs: number }) =>
        one.takeId === id && one.startUs <= at && at < one.endUs;
      return [
        decisions.cuts.some(here),
        decisions.arranged.find(here)?.arrangement.kind ?? 'resting',
      ];
    }),
  );
  const { plan, placed, frame, changeUs } = decisions;
  // Of these lists the order means nothing.
  const sorted = (list: readonly unknown[]) => list.map((item) => JSON.stringify(item)).sort();
  const points = inOrder(decisions.points);
  const lists = [decisions.ticks, decisions.flubs, decisions.crops].map(sorted);
  return { plan, placed, frame, changeUs, moments, points, lists };
};

const base = TAKES.reduce<Decisions>(
  (decisions, id) => applyEdit(decisions, { do: 'place-take', takeId: id, at: null }),
  NEW_DECISIONS,
);
const after = (start: Decisions, ...edits: Edit[]) => edits.reduce(applyEdit, start);
const SEED = { seed: 11, numRuns: 2_000 };

it('edits that do not conflict come to the same in either order', () => {
  let free = 0;
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 3 }), anyEdit, anyEdit, (before, a, b) => {
      if (conflict(a, b) || (isPlacing(a) && isPlacing(b))) return;
      free++;
      const start = after(base, ...before.filter((edit) => !isPlacing(edit)));
      expect(meaning(after(start, a, b))).toEqual(meaning(after(start, b, a)));
    }),
    SEED,
  );
  expect(free).toBeGreaterThan(1_000);
});

it('says the same whichever of the two came first, and no edit conflicts with itself', () =>
  fc.assert(
    fc.property(anyEdit, anyEdit, (a, b) => {
      expect(conflict(a, b)).toBe(conflict(b, a));
      expect(conflict(a, { ...a })).toBe(false);
    }),
    SEED,
  ));

it('every kind passes its own border, changes its own slice alone, and has a name in words', () =>
  fc.assert(
    fc.property(anyEdit, (edit) => {
      expect(editSchema.parse(edit)).toEqual(edit);
      const { slice, inWords, touches } = kindOfEdit(edit);
      const done = after(base, edit);
      const changed = (Object.keys(done) as (keyof Decisions)[]).filter(
        (name) => done[name] !== base[name],
      );
      expect(changed.filter((name) => name !== slice)).toEqual([]);
      expect(touches(edit).length).toBeGreaterThan(0);
      expect(inWords(edit)).toMatch(/^[a-z].*[^.]$/);
    }),
    SEED,
  ));
