import { NO_POINTER, pointingAt, pointingIn, PointerTrail } from './path';
import { inkRecordSchema, type InkRecord } from '../ink/record';

/** A pointer that goes along a path, told every 16 ms. */
const along = (
  fromUs: number,
  toUs: number,
  place: (us: number) => readonly [x: number, y: number],
): InkRecord => {
  const samples: [number, number, number][] = [];
  for (let us = fromUs; us <= toUs; us += 16_000) {
    samples.push([us === fromUs ? 0 : 16_000, ...place(us)]);
  }
  return { at: fromUs, do: 'point', samples };
};
const pathOf = (...records: InkRecord[]) => {
  expect(records.every((record) => inkRecordSchema.safeParse(record).success)).toBe(true);
  const trail = new PointerTrail();
  records.forEach((record) => trail.add(record));
  return trail.path();
};

it('is nowhere before it comes and after it has gone', () => {
  const path = pathOf(
    along(1_000_000, 2_000_000, () => [0.2, 0.1]),
    { at: 2_500_000, do: 'away' },
    along(4_000_000, 4_100_000, () => [0.6, 0.3]),
  );
  expect([0, 999_999, 2_500_000, 3_999_999].map((us) => pointingAt(path, us))).toEqual([
    ...[null, null, null, null],
  ]);
  expect(pointingAt(path, 2_400_000)).toMatchObject({ x: expect.closeTo(0.2), press: null });
  // It stays where it is while it tells nothing.
  expect(pointingAt(path, 60_000_000)?.x).toBeCloseTo(0.6);
  expect(pointingAt(NO_POINTER, 5)).toBeNull();
});

it('takes jitter out, and comes neither late nor early, and cuts no corner', () => {
  const speed = 0.4; // Widths a second.
  const straight = (us: number) => (us / 1e6) * speed;
  const noise = (us: number) => (Math.round(us / 16_000) % 2 === 0 ? 0.003 : -0.003);
  const path = pathOf(along(0, 2_000_000, (us) => [straight(us) + noise(us), 0.2 + noise(us)]));
  for (let us = 200_000; us < 1_800_000; us += 7_000) {
    const { x, y } = pointingAt(path, us)!;
    // Less than a quarter of the jitter is left, at the very place where it was.
    expect(Math.abs(x - straight(us))).toBeLessThan(0.0008);
    expect(Math.abs(y - 0.2)).toBeLessThan(0.0008);
  }
  // Round a circle of a tenth of the width in half a second: its size stays.
  const turn = (us: number) => (us / 500_000) * 2 * Math.PI;
  const round = pathOf(
    along(0, 1_500_000, (us) => [0.5 + 0.1 * Math.cos(turn(us)), 0.3 + 0.1 * Math.sin(turn(us))]),
  );
  for (let us = 200_000; us < 1_300_000; us += 9_000) {
    const { x, y } = pointingAt(round, us)!;
    expect(Math.hypot(x - 0.5, y - 0.3)).toBeGreaterThan(0.096);
    expect(Math.hypot(x - 0.5, y - 0.3)).toBeLessThan(0.102);
  }
});

it('rests where it was left until shortly before it is told to be elsewhere', () => {
  const path = pathOf(
    along(0, 160_000, () => [0.1, 0.1]),
    along(2_000_000, 2_160_000, () => [0.5, 0.1]),
  );
  expect(pointingAt(path, 1_500_000)).toMatchObject({ x: expect.closeTo(0.1, 5), restsSinceUs: 0 });
  expect(pointingAt(path, 1_860_000)?.x).toBeCloseTo(0.1, 2);
  expect(pointingAt(path, 2_150_000)?.x).toBeCloseTo(0.5, 2);
  expect(pointingAt(path, 3_000_000)?.restsSinceUs).toBe(2_000_000);
});

it('knows what is pressed, and for how long', () => {
  const path = pathOf(
    { at: 100_000, do: 'press', x: 0.3, y: 0.2 },
    { at: 400_000, do: 'release' },
    { at: 900_000, do: 'press', x: 0.4, y: 0.2 },
    { at: 950_000, do: 'press', x: 0.5, y: 0.2 },
    { at: 990_000, do: 'away' },
  );
  expect(path.presses.map(({ atUs, untilUs, x }) => [atUs, untilUs, x])).toEqual([
    [100_000, 400_000, 0.3],
    [900_000, 950_000, 0.4],
    [950_000, 990_000, 0.5],
  ]);
  expect(pointingAt(path, 500_000)?.press?.atUs).toBe(100_000);
});

it('tells when something is seen to move', () => {
  const path = pathOf(
    along(1_000_000, 1_500_000, (us) => [us / 1e7, 0.1]),
    along(1_900_000, 2_000_000, (us) => [us / 1e7, 0.1]),
    along(9_000_000, 9_000_000, () => [0.9, 0.1]),
    { at: 9_500_000, do: 'away' },
  );
  expect(pointingIn(path, 500_000)).toEqual([
    { startUs: 930_000, endUs: expect.closeTo(2_500_000, -5) },
    { startUs: 8_930_000, endUs: 10_000_000 },
  ]);
});

it('takes records of a later time that come early for what they are', () => {
  const path = pathOf(
    { at: 500_000, do: 'point', samples: [[0, 0.1, 0.1]] },
    { at: 400_000, do: 'point', samples: [[0, 0.2, 0.1]] },
  );
  expect(path.runs[0]!.moves.map(({ atUs }) => atUs)).toEqual([500_000, 500_000]);
});
