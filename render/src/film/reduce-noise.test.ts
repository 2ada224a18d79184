import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeRecordedSound } from '../ffmpeg/recorded-sound';
import { run, type MediaFile } from '../ffmpeg/run';
import { reduceNoiseInPart, reduceNoiseInTrack } from './reduce-noise';

jest.setTimeout(120_000);
const RATE = 48_000;
const SECONDS = 40;
let folder: string;

/** Words of some tones with pauses between them, over hiss, as a track of a take. */
const noisy = async (name: string, channels: string, hiss = 0.02): Promise<MediaFile> => {
  const path = join(folder, `${name}.mp4`);
  const said =
    '0.3*(sin(2*PI*t*210)+0.5*sin(2*PI*t*430)+0.3*sin(2*PI*t*1700))*gt(sin(2*PI*t*0.8)\\,0)';
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `aevalsrc=${said}:s=48000:d=${SECONDS}`],
    ...['-f', 'lavfi', '-i', `anoisesrc=r=48000:a=${hiss}:seed=4:d=${SECONDS}`],
    ...['-filter_complex', `amix=normalize=0,pan=stereo|${channels}`],
    ...['-c:a', 'aac', '-b:a', '192k', path],
  ]);
  return { path, demuxer: 'mov' };
};

const samplesOf = async (media: MediaFile): Promise<Float32Array> => {
  const decoder = decodeRecordedSound(media, { rate: RATE, channels: 2 });
  const parts: Buffer[] = [];
  decoder.stdout.on('data', (part: Buffer) => parts.push(part));
  await decoder.ended;
  const bytes = Buffer.concat(parts);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};
const db = (samples: Float32Array, from: number, to: number) => {
  const part = samples.subarray(Math.round(from * RATE) * 2, Math.round(to * RATE) * 2);
  return 10 * Math.log10(part.reduce((sum, one) => sum + one * one, 0) / part.length);
};

const noiseReduced = async (media: MediaFile, reduction: 'gently' | 'firmly') => {
  const path = join(folder, `reduced-${reduction}-${media.path.split('/').at(-1)}`);
  const told: number[] = [];
  await reduceNoiseInTrack({ media, reduction }, SECONDS * 1e6, path, (share) => told.push(share));
  expect(told).toEqual([...told].sort((a, b) => a - b));
  expect(told.at(-1)).toBeCloseTo(1, 1);
  return { path, demuxer: 'mov' as const };
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-noise-reduced-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

it('takes the room from under a voice that stays where it was, to the sample', async () => {
  const media = await noisy('both', 'c0=c0|c1=c0');
  const [before, after] = [
    await samplesOf(media),
    await samplesOf(await noiseReduced(media, 'firmly')),
  ];
  expect(Math.abs(after.length - before.length)).toBeLessThan(2 * 2_048);
  for (const pause of [0.7, 20.7, 35.7]) {
    expect(db(before, pause, pause + 0.5) - db(after, pause, pause + 0.5)).toBeGreaterThan(14);
  }
  expect(Math.abs(db(before, 0.1, 0.5) - db(after, 0.1, 0.5))).toBeLessThan(0.3);
  // Where it fits best is where it was.
  const fits = (shift: number) => {
    let sum = 0;
    for (let at = 10 * RATE; at < 12 * RATE; at++)
      sum += before[at * 2]! * after[(at + shift) * 2]!;
    return sum;
  };
  const best = Array.from({ length: 61 }, (_, at) => at - 30).sort((a, b) => fits(b) - fits(a))[0];
  expect(best).toBe(0);
});

it('is as loud when only one channel has the voice', async () => {
  const media = await noisy('one', 'c0=c0|c1=0*c0');
  const [before, after] = [
    await samplesOf(media),
    await samplesOf(await noiseReduced(media, 'gently')),
  ];
  expect(Math.abs(db(before, 0.1, 0.5) - db(after, 0.1, 0.5))).toBeLessThan(0.3);
});

it('gives a part of it before all is there that is as it will be', async () => {
  const media = await noisy('part', 'c0=c0|c1=c0');
  const whole = await samplesOf(await noiseReduced(media, 'gently'));
  const part = await reduceNoiseInPart({ media, reduction: 'gently' }, 20_000_000, 24_000_000);
  expect(part).toHaveLength(4 * RATE);
  let [own, apart] = [0, 0];
  part.forEach((sample, at) => {
    own += sample ** 2;
    apart += (sample - whole[(20 * RATE + at) * 2]!) ** 2;
  });
  expect(10 * Math.log10(own / apart)).toBeGreaterThan(25);
  // At its very beginning and end too.
  for (const [from, to] of [
    [0, 1_000_000],
    [39_500_000, 41_000_000],
  ] as const) {
    const end = await reduceNoiseInPart({ media, reduction: 'gently' }, from, to);
    expect(end).toHaveLength(((to - from) * RATE) / 1e6);
  }
});

it('leaves nothing where it can’t, and stops when it is called off', async () => {
  const broken = { path: join(folder, 'gone.mp4'), demuxer: 'mov' as const };
  await expect(
    reduceNoiseInTrack({ media: broken, reduction: 'gently' }, 1e6, join(folder, 'x.mp4')),
  ).rejects.toThrow('ffmpeg');
  const media = await noisy('stopped', 'c0=c0|c1=c0');
  const stop = new AbortController();
  const work = reduceNoiseInTrack(
    { media, reduction: 'gently', signal: stop.signal },
    SECONDS * 1e6,
    join(folder, 'y.mp4'),
    () => stop.abort(new Error('enough')),
  );
  await expect(work).rejects.toThrow('enough');
});
