import { LEVEL_STEP_US } from './level-line';
import { snapped } from './snap';

const line = Uint8Array.from({ length: 200 }, (_, step) => (step >= 50 && step < 54 ? 20 : 80));

it('goes to where it is quiet close by, and on a frame', () => {
  const near = snapped(line, 48 * LEVEL_STEP_US);
  expect(near).toBeGreaterThanOrEqual(50 * LEVEL_STEP_US);
  expect(near).toBeLessThan(54 * LEVEL_STEP_US);
  expect((near * 30) / 1e6).toBeCloseTo(Math.round((near * 30) / 1e6), 3);
});
it('stays where it was put where nothing close by is quieter, or nothing was heard', () => {
  expect(snapped(line, 2_000_000)).toBe(2_000_000);
  expect(snapped(null, 1_010_000)).toBe(1_000_000);
  expect(snapped(line, 52 * LEVEL_STEP_US)).toBe(1_033_333);
  expect(snapped(line, 10)).toBe(0);
});
