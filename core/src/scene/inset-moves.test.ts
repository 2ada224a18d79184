import * as fc from 'fast-check';
import { insetSchema, DEFAULT_LAYOUT, type Inset } from '../lesson/layout';
import { insetAt, insetRect } from './geometry';
import { atGuides, nudged, sized } from './inset-moves';

const shapes = { cameraAspect: 4 / 3, frameAspect: 16 / 9 };
const { inset } = DEFAULT_LAYOUT;
const middle = (of: Inset) => {
  const { x, y, width, height } = insetRect(of, shapes.cameraAspect, shapes.frameAspect);
  return { x: x + width / 2, y: y + height / 2 };
};
const at = (x: number, y: number) => insetAt(inset, x, y, shapes.cameraAspect, shapes.frameAspect);

it('is drawn to thirds, to the middle and to the margins, when it is near', () => {
  const thirds = atGuides(at(1 / 3 + 0.008, 0.5 - 0.01), shapes);
  expect(middle(thirds.inset)).toEqual({ x: expect.closeTo(1 / 3), y: expect.closeTo(0.5) });
  expect(thirds.guides).toEqual([
    { axis: 'x', at: 1 / 3 },
    { axis: 'y', at: 0.5 },
  ]);
  const corner = atGuides({ ...inset, placeX: 0.99, placeY: 0.01 }, shapes);
  expect(corner.inset).toMatchObject({ placeX: expect.closeTo(1), placeY: expect.closeTo(0) });
  const { x, width } = insetRect({ ...inset, placeX: 1 }, 4 / 3, 16 / 9);
  expect(corner.guides[0]).toEqual({ axis: 'x', at: x + width });
});

it('is left alone between them', () => {
  const free = at(0.42, 0.42);
  const { inset: left, guides } = atGuides(free, shapes);
  expect(guides).toEqual([]);
  expect(middle(left)).toEqual({ x: expect.closeTo(0.42), y: expect.closeTo(0.42) });
});

it('grows and shrinks round its middle, within its sizes and inside of the frame', () => {
  const free = at(0.5, 0.5);
  expect(middle(sized(free, 1.5, shapes))).toEqual({
    ...{ x: expect.closeTo(0.5), y: expect.closeTo(0.5) },
  });
  expect(sized(free, 1.5, shapes).size).toBeCloseTo(inset.size * 1.5);
  expect([sized(free, 99, shapes).size, sized(free, 0.01, shapes).size]).toEqual([0.6, 0.12]);
});

it('never leaves what an inset can be, whatever is done to it', () => {
  const step = fc.oneof(
    fc
      .tuple(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
      )
      .map(
        ([x, y]) =>
          (of: Inset) =>
            nudged(of, x, y, shapes),
      ),
    fc
      .double({ min: 0.01, max: 20, noNaN: true })
      .map((by) => (of: Inset) => sized(of, by, shapes)),
    fc.constant((of: Inset) => atGuides(of, shapes).inset),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
      const after = steps.reduce((of, one) => one(of), inset);
      expect(insetSchema.safeParse(after).success).toBe(true);
    }),
  );
});
