import { inkTrackOf } from '../ink/ink-track';
import { inkRecordSchema } from '../ink/record';
import { FIRST_LOOK, LEFT_AS_IT_IS } from './look';
import { CLICK_US, clickSamples, clicksIn } from './click-sound';

test('a click is short and soft: it comes in, goes out, and is nowhere louder than it may be', () => {
  const samples = clickSamples(48_000);
  expect(samples).toHaveLength((CLICK_US * 48) / 1_000);
  const loudest = Math.max(...samples.map(Math.abs));
  expect(loudest).toBeCloseTo(0.5, 5);
  expect(Math.abs(samples[0]!)).toBe(0);
  expect(Math.abs(samples.at(-1)!)).toBeLessThan(0.001);
  // Nearly all of it is over within 20 ms.
  const energy = (of: Float32Array) => of.reduce((sum, one) => sum + one * one, 0);
  expect(energy(samples.subarray(0, 960)) / energy(samples)).toBeGreaterThan(0.99);
});

test('presses are heard as the lesson has it: those that were told and those that were seen, in order', () => {
  const records = [
    { at: 3_000_000, do: 'press', x: 0.5, y: 0.3 },
    { at: 3_100_000, do: 'release' },
  ].map((record) => inkRecordSchema.parse(record));
  const ink = inkTrackOf(records);
  const seen = { runs: [], presses: [{ atUs: 1_000_000, x: 0, y: 0, untilUs: 1_100_000 }] };
  const clicks = (pointer: number | undefined, screen: number | undefined) =>
    clicksIn(
      {
        pointer: { ...FIRST_LOOK, clicks: pointer },
        screenPointer: { ...LEFT_AS_IT_IS, clicks: screen },
      },
      () => ink,
      () => seen,
    )('take-one');
  expect(clicks(undefined, 0)).toEqual([]);
  expect(clicks(0.3, undefined)).toEqual([{ atUs: 3_000_000, level: 0.3 }]);
  expect(clicks(0.3, 0.8)).toEqual([
    { atUs: 1_000_000, level: 0.8 },
    { atUs: 3_000_000, level: 0.3 },
  ]);
});
