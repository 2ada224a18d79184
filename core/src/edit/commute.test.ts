import { RESTING_ARRANGEMENT } from '../lesson/arrangement';
import { NEW_DECISIONS, type Decisions } from '../lesson/lesson';
import { applyEdit } from './apply-edit';
import { inOrder } from '../plan/point';
import { conflict } from './conflict';
import type { Edit } from './edit';

/** Repeatable chance, 0 to 1. */
const chance = (seed: number) => () => {
  seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31;
  return seed / 2 ** 31;
};

const TAKES = ['take-one', 'take-two'];
const POINTS = ['point-one', 'point-two'];
const POINT = { id: 'point-one', text: '', show: '', words: '', rank: 0 };

/** Some edit of any kind, about few takes and times, so that two of them often meet. */
const anyEdit = (random: () => number): Edit => {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const takeId = pick(TAKES);
  const startUs = Math.floor(random() * 10) * 100;
  const endUs = startUs + 100 + Math.floor(random() * 5) * 100;
  return pick<Edit>([
    { do: 'plan', set: { title: pick(['a', 'b']) } },
    { do: 'plan', set: { unit: pick(['1', '2']) } },
    { do: 'cut', takeId, startUs, endUs },
    { do: 'restore', takeId, startUs, endUs },
    { do: 'trim', takeId, startUs, endUs },
    { do: 'soften', changeUs: pick([0, 500]) },
    { do: 'set-point', point: { ...POINT, id: pick(POINTS), text: pick(['tide', 'chart']) } },
    { do: 'move-point', pointId: pick(POINTS), rank: pick([1, 2, 3]) },
    { do: 'remove-point', pointId: pick(POINTS) },
    { do: 'tick-point', pointId: pick(POINTS), takeId, atUs: startUs },
    { do: 'untick-point', pointId: pick(POINTS) },
    { do: 'mark-flub', takeId, atUs: startUs },
    { do: 'unmark-flub', takeId, atUs: startUs },
    { do: 'crop', takeId, crop: pick([null, { x: 0, y: 0, width: 0.5, height: 1 }]) },
    { do: 'shape-frame', shape: pick(['16:9', '1:1']) },
    {
      do: 'arrange',
      takeId,
      startUs,
      endUs,
      arrangement: { ...RESTING_ARRANGEMENT, kind: pick(['camera', 'side', 'surface']) },
    },
  ]);
};

/** Decisions as they matter: cut by cut and moment by moment, whatever the order of their lists. */
const meaning = (decisions: Decisions) => {
  const moments = TAKES.flatMap((takeId) =>
    Array.from({ length: 20 }, (_, step) => {
      const at = step * 100 + 50;
      const here = (stretch: { takeId: string; startUs: number; endUs: number }) =>
        stretch.takeId === takeId && stretch.startUs <= at && at < stretch.endUs;
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
  (decisions, takeId) => applyEdit(decisions, { do: 'place-take', takeId, at: null }),
  NEW_DECISIONS,
);

it('edits that do not conflict come to the same in either order', () => {
  const random = chance(11);
  let free = 0;
  for (let time = 0; time < 1_200; time++) {
    const start = [anyEdit(random), anyEdit(random)].reduce(applyEdit, base);
    const [a, b] = [anyEdit(random), anyEdit(random)];
    if (conflict(a, b)) continue;
    free++;
    expect({ a, b, is: meaning([a, b].reduce(applyEdit, start)) }).toEqual({
      a,
      b,
      is: meaning([b, a].reduce(applyEdit, start)),
    });
  }
  expect(free).toBeGreaterThan(600);
});

it('says the same whichever of the two came first', () => {
  const random = chance(5);
  for (let time = 0; time < 2_000; time++) {
    const [a, b] = [anyEdit(random), anyEdit(random)];
    expect([a, b, conflict(a, b)]).toEqual([a, b, conflict(b, a)]);
  }
});
