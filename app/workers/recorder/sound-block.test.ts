import { inForm, type Block } from './sound-block';

/** A block of channels, each given as its samples. */
const blockOf = (sampleRate: number, ...channels: number[][]): Block => ({
  planes: new Float32Array(channels.flat()),
  frames: channels[0]!.length,
  channels: channels.length,
  sampleRate,
  lengthUs: (channels[0]!.length * 1e6) / sampleRate,
});

it('leaves a block as it is that has the form already', () => {
  const block = blockOf(48_000, [0.1, 0.2]);
  expect(inForm(block, { sampleRate: 48_000, channels: 1 })).toBe(block);
});

it('gives one channel to both sides, and takes the mean of two', () => {
  const two = inForm(blockOf(48_000, [0.5, -0.25]), { sampleRate: 48_000, channels: 2 });
  expect([...two.planes]).toEqual([0.5, -0.25, 0.5, -0.25]);
  const one = inForm(blockOf(48_000, [0.5, 0], [0.25, -1]), { sampleRate: 48_000, channels: 1 });
  expect([...one.planes]).toEqual([0.375, -0.5]);
});

it('keeps the length when the rate is another', () => {
  const block = blockOf(24_000, [0, 0.5, 1, 0.5]);
  const twice = inForm(block, { sampleRate: 48_000, channels: 1 });
  expect([...twice.planes]).toEqual([0, 0.25, 0.5, 0.75, 1, 0.75, 0.5, 0.5]);
  expect(twice).toMatchObject({ frames: 8, lengthUs: block.lengthUs });
  const half = inForm(twice, { sampleRate: 24_000, channels: 1 });
  expect([...half.planes]).toEqual([0, 0.5, 1, 0.5]);
});
