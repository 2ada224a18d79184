import { filmOf } from '@under-chalk/core/film/film';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';
import { PACKET, planSound, PRE_ROLL, type SoundPiece } from '../plan/sound';
import { adtsPackets } from './adts';
import { renderSound } from './render-sound';

jest.setTimeout(120_000);

const SECONDS = 70;
const RATE = 48_000;
const take = takeOfLength('take-one', SECONDS * 1e6, ['voice']);
let folder: string;
let media: MediaFile;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-sound-'));
  const path = join(folder, 'voice.mp4');
  // Something like a voice: tones that come and go in words, with breath under it.
  const voice =
    '0.25*sin(2*PI*t*(180+40*sin(2*PI*t*0.7)))*(0.55+0.45*sin(2*PI*t*2.3))' +
    '+0.08*sin(2*PI*t*1130)*(0.5+0.5*sin(2*PI*t*3.1))+0.01*(random(0)-0.5)';
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `aevalsrc=${voice}:s=${RATE}:d=${SECONDS}`],
    ...['-c:a', 'aac', '-b:a', '192k', path],
  ]);
  media = { path, demuxer: 'mov' };
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Samples of the first channel of packets as a browser would play them, the first packet left out. */
const heard = async (packets: Buffer, name: string): Promise<Float32Array> => {
  const path = join(folder, `${name}.aac`);
  await writeFile(path, packets);
  const pcm = await run('ffmpeg', [
    ...['-f', 'aac', '-i', path, '-ac', '1', '-f', 'f32le', 'pipe:1'],
  ]);
  return new Float32Array(pcm.buffer, pcm.byteOffset, pcm.length / 4).slice(PACKET);
};

const rms = (samples: Float32Array, from = 0, to = samples.length): number => {
  let sum = 0;
  for (let at = from; at < to; at++) sum += samples[at]! ** 2;
  return Math.sqrt(sum / (to - from));
};
const decibels = (level: number) => 20 * Math.log10(level);
const difference = (a: Float32Array, b: Float32Array) =>
  Float32Array.from({ length: Math.min(a.length, b.length) }, (_, at) => a[at]! - b[at]!);

it('joins without a gap: pieces are heard as what was made in one pass', async () => {
  const pieces = planSound(filmOf(lessonOf([take])));
  expect(pieces.length).toBeGreaterThan(2);
  const parts: Buffer[] = [];
  for (const piece of pieces) parts.push(await renderSound(piece, () => media));
  const packets = pieces.reduce((sum, piece) => sum + piece.packets, 0);
  const whole: SoundPiece = {
    packets,
    preRoll: PRE_ROLL - 1,
    stretches: [
      { ...pieces[0]!.stretches[0]!, at: PRE_ROLL * PACKET, from: 0, length: SECONDS * RATE },
    ],
  };
  const inPieces = await heard(Buffer.concat(parts), 'pieces');
  const inOne = await heard(await renderSound(whole, () => media), 'one');
  expect(inPieces).toHaveLength(inOne.length);
  const apart = difference(inPieces, inOne);
  expect(decibels(rms(inOne))).toBeGreaterThan(-20);
  expect(decibels(rms(apart))).toBeLessThan(-60);
  // At each join no more than elsewhere: not even for some milliseconds.
  let join = -1;
  for (const { packets: kept } of pieces.slice(0, -1)) {
    join += kept;
    const at = join * PACKET;
    expect(decibels(rms(apart, at - 2 * PACKET, at + 2 * PACKET))).toBeLessThan(-55);
  }
  // And it is the recording, to the sample.
  const recorded = await run('ffmpeg', [
    ...['-i', media.path, '-ac', '1', '-f', 'f32le', 'pipe:1'],
  ]);
  const source = new Float32Array(recorded.buffer, recorded.byteOffset, recorded.length / 4);
  const noise = decibels(rms(difference(inPieces, source), RATE, (SECONDS - 1) * RATE));
  expect(noise).toBeLessThan(decibels(rms(source)) - 25);
});

it('is silent where something was cut, to within a packet, and loud beside it', async () => {
  const film = filmOf(
    lessonOf([take], { cuts: [{ takeId: take.id, startUs: 10_000_000, endUs: 13_033_333 }] }),
  );
  const parts: Buffer[] = [];
  for (const piece of planSound(film)) parts.push(await renderSound(piece, () => media));
  const samples = await heard(Buffer.concat(parts), 'cut');
  expect(samples.length).toBeGreaterThanOrEqual(film.frames * 1_600);
  expect(samples.length - film.frames * 1_600).toBeLessThan(PACKET);
  expect(rms(samples, 9.5 * RATE, 9.9 * RATE)).toBeGreaterThan(0.05);
  expect(rms(samples, 10.1 * RATE, 10.5 * RATE)).toBeGreaterThan(0.05);
  // No click: where the fades meet it is quiet for a moment.
  let quietest = 1;
  for (let at = 9.97 * RATE; at < 10.03 * RATE; at += 48) {
    quietest = Math.min(quietest, rms(samples, Math.round(at), Math.round(at) + 48));
  }
  expect(quietest).toBeLessThan(0.01);
});

it('divides ADTS into frames, and tells of what is none', () => {
  const frame = (length: number) => {
    const bytes = Buffer.alloc(length, 7);
    bytes.writeUInt16BE(0xfff1, 0);
    bytes.writeUIntBE((length << 5) & 0xffffff, 3, 3);
    return bytes;
  };
  const packets = adtsPackets(Buffer.concat([frame(9), frame(700), frame(8_000)]));
  expect(packets.map(({ length }) => length)).toEqual([9, 700, 8_000]);
  expect(() => adtsPackets(Buffer.concat([frame(9), Buffer.alloc(20)]))).toThrow(RangeError);
  expect(() => adtsPackets(frame(700).subarray(0, 600))).toThrow(RangeError);
});

it('presses are heard where they were, also over the border of a piece and where nobody speaks', async () => {
  const silent = takeOfLength('take-silent', 30e6, ['surface']);
  const grid = planSound(filmOf(lessonOf([take])));
  const border = (grid[0]!.packets - 1) * PACKET;
  // One in the middle of a piece, one that begins just before the next piece does.
  const at = [2 * RATE, border - 400];
  const clicksOf = () => at.map((sample) => ({ atUs: (sample * 1e6) / RATE, level: 0.8 }));
  const pieces = planSound(filmOf(lessonOf([silent])), clicksOf);
  const parts: Buffer[] = [];
  for (const piece of pieces.slice(0, 2)) parts.push(await renderSound(piece, () => media));
  const samples = await heard(Buffer.concat(parts), 'clicks');
  for (const sample of at) {
    const around = samples.subarray(sample - 960, sample + 1_920);
    const loudest = around.reduce(
      (most, one, index) => (Math.abs(one) > Math.abs(around[most]!) ? index : most),
      0,
    );
    // To within the encoder's own smearing.
    expect(Math.abs(loudest - 960)).toBeLessThan(240);
    expect(Math.abs(around[loudest]!)).toBeGreaterThan(0.2);
  }
  expect(rms(samples, 3 * RATE, 5 * RATE)).toBeLessThan(0.0005);
  // Without presses the same sound has the same name as ever.
  expect(
    planSound(filmOf(lessonOf([take]))).every(({ stretches }) =>
      stretches.every((one) => !('clicks' in one)),
    ),
  ).toBe(true);
});
