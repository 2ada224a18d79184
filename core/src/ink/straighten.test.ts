import type { XY } from './page';
import { straightened } from './straighten';

/** A hand that is not quite steady: the same one each time. */
const unsteady = (points: readonly XY[], by: number): XY[] => {
  let seed = 7;
  const shake = () => {
    seed = (seed * 16_807) % 2_147_483_647;
    return (seed / 2_147_483_647 - 0.5) * 2 * by;
  };
  return points.map(([x, y]) => [x + shake(), y + shake()]);
};
const along = (corners: readonly XY[], steps = 20): XY[] =>
  corners.flatMap(([x, y], index): XY[] => {
    const before = corners[index - 1];
    if (!before) return [[x, y]];
    return Array.from({ length: steps }, (_, n): XY => {
      const share = (n + 1) / steps;
      return [before[0] + (x - before[0]) * share, before[1] + (y - before[1]) * share];
    });
  });
const box: XY[] = [
  [0.2, 0.1],
  [0.6, 0.1],
  [0.6, 0.3],
  [0.2, 0.3],
  [0.2, 0.11],
];
const round = (turns: number, steps = 60): XY[] =>
  Array.from({ length: steps + 1 }, (_, n): XY => {
    const turn = (n / steps) * 2 * Math.PI * turns;
    return [0.4 + 0.2 * Math.cos(turn), 0.2 + 0.1 * Math.sin(turn)];
  });
const tool = (path: readonly XY[]) => straightened(path, 0.05)?.tool ?? null;

it('tells lines, boxes and ellipses of an unsteady hand, and what is none of them', () => {
  expect(
    tool(
      unsteady(
        along([
          [0.1, 0.1],
          [0.7, 0.4],
        ]),
        0.004,
      ),
    ),
  ).toBe('line');
  expect(tool(unsteady(along(box), 0.006))).toBe('box');
  expect(tool(unsteady(round(1), 0.006))).toBe('ellipse');
  expect(tool(unsteady(round(0.5), 0.004))).toBeNull();
  // A letter is a letter: a W, an S, and an eight.
  expect(
    tool(
      along([
        [0.1, 0.1],
        [0.15, 0.3],
        [0.2, 0.1],
        [0.25, 0.3],
        [0.3, 0.1],
      ]),
    ),
  ).toBeNull();
  const eight = Array.from({ length: 80 }, (_, n): XY => {
    const turn = (n / 79) * 2 * Math.PI;
    return [0.4 + 0.1 * Math.sin(2 * turn), 0.3 + 0.15 * Math.cos(turn)];
  });
  expect(tool(eight)).toBeNull();
});

it('takes a dot, and a stroke that is too short, for what they are', () => {
  expect(straightened([[0.5, 0.5]], 0.05)).toBeNull();
  expect(
    straightened(
      along([
        [0.5, 0.5],
        [0.52, 0.5],
      ]),
      0.05,
    ),
  ).toBeNull();
});

it('levels what is nearly level, and upright what is nearly that', () => {
  expect(
    straightened(
      [
        [0.1, 0.2],
        [0.7, 0.22],
      ],
      0.05,
    )!.to[1],
  ).toBe(0.2);
  expect(
    straightened(
      [
        [0.3, 0.1],
        [0.31, 0.5],
      ],
      0.05,
    )!.to[0],
  ).toBe(0.3);
  expect(
    straightened(
      [
        [0.1, 0.1],
        [0.5, 0.4],
      ],
      0.05,
    )!.to,
  ).toEqual([0.5, 0.4]);
});

it('is not misled by a hand that rests at the end', () => {
  const rests = Array.from({ length: 200 }, (): XY => [0.2, 0.11]);
  const found = straightened([...along(box), ...rests], 0.05)!;
  expect(found.tool).toBe('box');
  expect(found.from[0]).toBeCloseTo(0.2, 2);
  expect(found.to[1]).toBeCloseTo(0.3, 2);
});
