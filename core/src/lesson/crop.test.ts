import { layOut } from '../scene/geometry';
import { DEFAULT_LAYOUT } from './layout';
import { cropBetween, cropSchema, LEAST_CROP, moveEdge, pinched, UNCROPPED } from './crop';
import { takeOfLength } from '../testing/lessons';
import { trackOf } from './take';

describe('a crop', () => {
  it('lies between two corners, drawn in any direction', () => {
    const whole = { x: 0.2, y: 0.1, width: expect.closeTo(0.6), height: expect.closeTo(0.4) };
    expect(cropBetween({ x: 0.2, y: 0.1 }, { x: 0.8, y: 0.5 })).toEqual(whole);
    expect(cropBetween({ x: 0.8, y: 0.5 }, { x: 0.2, y: 0.1 })).toEqual(whole);
  });
  it('stays inside the picture and is never too small', () => {
    for (const [a, b] of [
      [
        { x: -1, y: -1 },
        { x: 2, y: 2 },
      ],
      [
        { x: 0.99, y: 0.2 },
        { x: 1.2, y: 0.9 },
      ],
      [
        { x: 0.5, y: 0.99 },
        { x: 0.53, y: 1 },
      ],
    ] as const) {
      expect(cropSchema.safeParse(cropBetween(a, b)).success).toBe(true);
    }
    expect(cropBetween({ x: 0.5, y: 0.5 }, { x: 0.505, y: 0.505 })).toBeNull();
  });
  it('has edges that move one by one and can’t cross', () => {
    expect(moveEdge(UNCROPPED, 'left', 0.1)).toEqual({ x: 0.1, y: 0, width: 0.9, height: 1 });
    expect(moveEdge(UNCROPPED, 'left', -0.1)).toEqual(UNCROPPED);
    expect(moveEdge(UNCROPPED, 'bottom', -2).height).toBe(LEAST_CROP);
    expect(moveEdge(UNCROPPED, 'top', 2).y).toBeCloseTo(1 - LEAST_CROP);
    expect(moveEdge(UNCROPPED, 'right', -0.25).width).toBe(0.75);
  });
  it('fills the frame with the part, in its own shape', () => {
    const surface = trackOf(takeOfLength('take-one', 1e6), 'surface');
    const left = { x: 0, y: 0, width: 0.5, height: 1 };
    const placed = layOut(DEFAULT_LAYOUT, surface, undefined, 16 / 9, left);
    expect(placed.surface).toMatchObject({ from: left, to: { x: 0.25, width: 0.5, height: 1 } });
    const middle = { x: 0.25, y: 0.25, width: 0.5, height: 0.5 };
    const same = layOut(DEFAULT_LAYOUT, surface, undefined, 16 / 9, middle);
    expect(same.surface).toMatchObject({ from: middle, to: { x: 0, y: 0, width: 1, height: 1 } });
  });
});

it('is pinched with what is between the fingers staying there, and never leaves the picture', () => {
  const closer = pinched(UNCROPPED, 2, { x: 0.75, y: 0.5 });
  expect(closer).toEqual({ x: 0.375, y: 0.25, width: 0.5, height: 0.5 });
  expect(pinched(closer, 0.5, { x: 0.75, y: 0.5 })).toEqual(UNCROPPED);
  for (const times of [0, 0.1, 0.9, 3, 1_000]) {
    for (const at of [
      { x: 0, y: 0 },
      { x: 1, y: 0.3 },
      { x: 7, y: -2 },
    ]) {
      expect(cropSchema.safeParse(pinched(closer, times, at)).success).toBe(true);
    }
  }
});
