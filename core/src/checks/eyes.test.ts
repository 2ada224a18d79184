import { areEyesShut, availabilityOf, type EyeOutline, type FaceSeen } from './eyes';

/** An eye 30 px wide, so many px open. */
const eye = (open: number, left = 0): EyeOutline => [
  [left, 50],
  [left + 10, 50 - open / 2],
  [left + 20, 50 - open / 2],
  [left + 30, 50],
  [left + 20, 50 + open / 2],
  [left + 10, 50 + open / 2],
];
const face = (high: number, one: number, other: number): FaceSeen => ({
  high,
  eyes: [eye(one), eye(other, 60)],
});

it('tells how far an eye is open, however the head is held', () => {
  expect(availabilityOf(eye(9))).toBeCloseTo(0.3);
  expect(availabilityOf(eye(0))).toBe(0);
  const turned = eye(9).map(([x, y]) => [-y, x]) as unknown as EyeOutline;
  expect(availabilityOf(turned)).toBeCloseTo(0.3);
});

it('tells of the face that the picture is of, and of none that is too small to be told of', () => {
  expect(areEyesShut([])).toBe(false);
  expect(areEyesShut([face(0.4, 9, 9)])).toBe(false);
  expect(areEyesShut([face(0.4, 3, 3)])).toBe(true);
  // One that winks looks at us.
  expect(areEyesShut([face(0.4, 3, 10)])).toBe(false);
  expect(areEyesShut([face(0.1, 1, 1)])).toBe(false);
  // Somebody behind.
  expect(areEyesShut([face(0.2, 1, 1), face(0.5, 9, 9)])).toBe(false);
});
