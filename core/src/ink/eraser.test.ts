import { boundsOfAll, strokesAt, strokesWithin } from './hit';
import { inkTrackOf, pageAt } from './ink-track';
import type { InkTool } from './pen';
import type { InkRecord } from './record';
import { partlyErased } from './eraser';

const drawn = (
  id: string,
  tool: InkTool,
  ...places: (readonly [number, number])[]
): InkRecord[] => [
  {
    ...{ at: 0, do: 'begin', stroke: id, text: tool === 'text' ? 'Tides' : '' },
    pen: { tool, colour: 'red', width: tool === 'text' ? 0.04 : 0.004, stays: 'wiped' },
  },
  {
    ...{ at: 0, do: 'draw', stroke: id },
    samples: places.map(([x, y], n) => [10, x, y, (n + 1) / 10]),
  },
  { at: 0, do: 'end', stroke: id },
];
const shown = (...records: InkRecord[][]) => pageAt(inkTrackOf(records.flat()), 1_000).strokes;
const across = drawn('stroke-a', 'pen', [0.1, 0.2], [0.5, 0.2], [0.9, 0.2]);

describe('a stroke wiped in part', () => {
  it('is parted where the tip goes through it, between its points too', () => {
    const left = partlyErased(shown(across)[0]!, [0.3, 0.2], 0.018)!;
    expect(left.map(({ points }) => points.map(({ x }) => Number(x.toFixed(3))))).toEqual([
      [0.1, 0.28],
      [0.32, 0.5, 0.9],
    ]);
    // As hard as it was pressed there.
    expect(left[0]!.points[1]!.pressure).toBeCloseTo(0.145);
    expect(left[0]!.pen.colour).toBe('red');
  });
  it('loses its end, and all of it where the tip is large', () => {
    const end = partlyErased(shown(across)[0]!, [0.9, 0.2], 0.098)!;
    expect(end.map(({ points }) => points.at(-1)!.x)).toEqual([expect.closeTo(0.8)]);
    expect(partlyErased(shown(across)[0]!, [0.5, 0.2], 0.6)).toEqual([]);
  });
  it('stays as it is where the tip doesn’t touch it', () =>
    expect(partlyErased(shown(across)[0]!, [0.3, 0.25], 0.02)).toBeNull());
  it('goes on as a line of the hand where it was a shape; words go whole', () => {
    const box = shown(drawn('stroke-box', 'box', [0.2, 0.2], [0.6, 0.4]))[0]!;
    const left = partlyErased(box, [0.6, 0.3], 0.03)!;
    expect(left.every(({ pen }) => pen.tool === 'pen')).toBe(true);
    const all = left.flatMap(({ points }) => points);
    expect(all.some(({ x, y }) => Math.hypot(x - 0.6, y - 0.3) < 0.03)).toBe(false);
    expect(Math.max(...all.map(({ x }) => x))).toBeCloseTo(0.6);
    const words = shown(drawn('stroke-text', 'text', [0.2, 0.2]))[0]!;
    expect(partlyErased(words, [0.22, 0.22], 0.01)).toEqual([]);
  });
});

describe('strokes that are looked for', () => {
  const strokes = shown(across, drawn('stroke-b', 'box', [0.4, 0.1], [0.6, 0.3]));
  const ids = (found: readonly { stroke: { id: string } }[]) =>
    found.map(({ stroke }) => stroke.id);
  it('are those that lie within a rectangle as a whole', () => {
    expect(ids(strokesWithin(strokes, [0.7, 0.4], [0.3, 0]))).toEqual(['stroke-b']);
    expect(ids(strokesWithin(strokes, [0, 0], [1, 1]))).toEqual(['stroke-a', 'stroke-b']);
  });
  it('are those under a tip, the upper ones first', () =>
    expect(ids(strokesAt(strokes, 0.4, 0.2, 0.01))).toEqual(['stroke-b', 'stroke-a']));
  it('lie in one rectangle', () => {
    const { x, y, width, height } = boundsOfAll(strokes)!;
    expect([x, y, x + width, y + height].map((one) => Number(one.toFixed(3)))).toEqual([
      0.1, 0.1, 0.9, 0.3,
    ]);
    expect(boundsOfAll([])).toBeNull();
  });
});
