import type { Decisions } from '@under-chalk/core/edit/decisions';
import { filmOf } from '@under-chalk/core/film/film';
import type { Take } from '@under-chalk/core/lesson/take';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';
import { planFilm } from '../plan/plan-film';
import { beeps, paintedWhole, probe, ssimOf } from '../testing/films';
import { halfSize, makeFootage } from '../testing/footage';
import { PieceCache } from './cache';
import { renderChunk } from './render-chunk';
import { renderFilm } from './render-film';

jest.setTimeout(120_000);

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const size = { widthPx: 640, heightPx: 360 };
const SECONDS = 40;
const take = halfSize(takeOfLength('take-one', s(SECONDS)));
const stretch = (start: number, end: number) => ({
  ...{ takeId: take.id, startUs: s(start), endUs: s(end) },
});
const planOf = (decisions: Partial<Decisions>, of: Take = take) =>
  planFilm(filmOf(lessonOf([of], decisions)), size, 'Tides');
/** Its voice alone: its pictures cost nothing. */
const spoken = { ...take, tracks: take.tracks.filter(({ kind }) => kind === 'voice') };

let folder: string;
let mediaOf: (trackId: string) => MediaFile;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-speed-'));
  mediaOf = await makeFootage(folder, take, SECONDS);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const job = () => ({
  ...{ mediaOf, inkOf: () => null, onFrames: () => undefined },
  pageFile: () => Promise.reject(new Error('no material is shown')),
});
const make = async (decisions: Partial<Decisions>, name: string): Promise<string> => {
  const out = join(folder, `${name}.mp4`);
  const cache = new PieceCache(join(folder, 'cache'));
  await renderFilm({ plan: await planOf(decisions, spoken), mediaOf, cache, out });
  return out;
};
const hundredths = (speed: number) => `at ${speed} hundredths`;

describe('pictures at another speed', () => {
  it.each([75, 150, 400].map((speed) => [hundredths(speed), speed] as const))(
    'are the same by filters alone as painted frame by frame: %s',
    async (name, speed) => {
      // Begins at no whole step of any speed, and pieces begin in the middle of it.
      const plan = await planOf({
        speeds: [{ ...stretch(2.3, SECONDS), speed }],
        cuts: [stretch(0, 5.77)],
      });
      const works = plan.manifest.chunks.map((_, index) => plan.chunkWork(index));
      const work = works[1]!;
      const [a, b] = [join(folder, `${speed}-a.mp4`), join(folder, `${speed}-b.mp4`)];
      // Where a clock ticks it is laid over; nothing else is painted.
      expect([name, work.renderPath]).toEqual([name, speed > 200 ? 'painter' : 'filters']);
      await renderChunk(work, job(), a);
      await paintedWhole(work, job(), b);
      expect(await probe(a, 'stream=nb_frames')).toBe(await probe(b, 'stream=nb_frames'));
      expect(await ssimOf(folder, a, b)).toBeGreaterThan(0.98);
    },
  );

  it('are made anew only in pieces that a change of speed touches', async () => {
    const keysOf = async (decisions: Partial<Decisions>) =>
      (await planOf(decisions)).manifest.chunks.map(({ key }) => key);
    const plain = await keysOf({});
    const faster = await keysOf({ speeds: [{ ...stretch(16, 21.3), speed: 150 }] });
    // 5.3 s in pieces of 2.67: three are touched.
    expect(plain.filter((key) => !faster.includes(key)).length).toBeLessThanOrEqual(3);
    // And what goes by faster is not made anew for what is cut before it, or out of it elsewhere.
    const all = { speeds: [{ ...stretch(0, SECONDS), speed: 150 }] };
    const whole = await keysOf(all);
    const cut = await keysOf({ ...all, cuts: [stretch(7.3, 9.1)] });
    expect(cut.filter((key) => !whole.includes(key)).length).toBeLessThanOrEqual(3);
  });
});

describe('a voice at another speed', () => {
  it.each([50, 150])('comes when its picture does: at %i hundredths', async (speed) => {
    const path = await make({ speeds: [{ ...stretch(4, 34), speed }] }, `voice-${speed}`);
    const film = filmOf(lessonOf([take], { speeds: [{ ...stretch(4, 34), speed }] }));
    expect(Number(await probe(path, 'format=duration'))).toBeCloseTo(film.durationUs / 1e6, 1);
    const ratio = 100 / speed;
    const at = (recorded: number) =>
      recorded < 4
        ? recorded
        : recorded < 34
          ? 4 + (recorded - 4) * ratio
          : 4 + 30 * ratio + recorded - 34;
    const found = (await beeps(path)).filter((one) => one > 0.5);
    const expected = Array.from({ length: SECONDS - 1 }, (_, index) => at(index + 1));
    expect(found).toHaveLength(expected.length);
    // To within half a frame, to which its borders are laid, and a few milliseconds.
    found.forEach((one, index) => expect(Math.abs(one - expected[index]!)).toBeLessThan(0.022));
  });

  it('fades out where it goes by too fast, is silent, and comes back at its own speed', async () => {
    const path = await make({ speeds: [{ ...stretch(8.5, 32.5), speed: 400 }] }, 'fast');
    // 8.5 s as recorded, 6 s of film for 24, and the rest.
    expect(Number(await probe(path, 'format=duration'))).toBeCloseTo(22, 1);
    const found = await beeps(path);
    const inside = found.filter((at) => at > 8.95 && at < 14.05);
    expect(inside).toEqual([]);
    // The voice after it stands where it should: the beep of 33 s half a second after its end.
    const after = found.filter((at) => at > 14.2).map((at) => at - 14.5);
    after.forEach((at, index) => expect(Math.abs(at - 0.5 - index)).toBeLessThan(0.02));
    expect(after).toHaveLength(7);
  });

  it('is the same whichever pieces it is made in: what is cut elsewhere moves no sample of it', async () => {
    const speeds = [{ ...stretch(0, SECONDS), speed: 150 }];
    const keysOf = async (decisions: Partial<Decisions>) =>
      (await planOf(decisions)).manifest.sound.map(({ key }) => key);
    const whole = await keysOf({ speeds });
    const cut = await keysOf({ speeds, cuts: [stretch(30.2, 31.4)] });
    expect(whole.length).toBeGreaterThan(2);
    // The first pieces of 10.7 s of the film lie before what was cut.
    expect(cut.slice(0, 1)).toEqual(whole.slice(0, 1));
  });

  it('has no hole in a tone that goes on, and keeps its pitch', async () => {
    const tone = join(folder, 'tone.mp4');
    await run('ffmpeg', [
      ...['-f', 'lavfi', '-i', `sine=frequency=220:sample_rate=48000:duration=${SECONDS}`],
      ...['-c:a', 'aac', '-b:a', '192k', tone],
    ]);
    const toned = takeOfLength('take-tone', s(SECONDS), ['voice']);
    const speeds = [{ takeId: toned.id, startUs: 0, endUs: s(SECONDS), speed: 150 }];
    const out = join(folder, 'toned.mp4');
    await renderFilm({
      plan: await planFilm(filmOf(lessonOf([toned], { speeds })), size, ''),
      ...{ mediaOf: () => ({ path: tone, demuxer: 'mov' }), cache: new PieceCache(folder), out },
    });
    const pcm = await run('ffmpeg', [
      ...['-i', out, '-vn', '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1'],
    ]);
    const samples = new Float32Array(pcm.buffer, pcm.byteOffset, pcm.length / 4);
    let crossings = 0;
    let least = Infinity;
    const [from, to] = [48_000, 24 * 48_000];
    for (let at = from; at < to; at++) if (samples[at - 1]! < 0 && samples[at]! >= 0) crossings++;
    for (let at = from; at < to; at += 960) {
      let sum = 0;
      for (let more = 0; more < 960; more++) sum += samples[at + more]! ** 2;
      least = Math.min(least, Math.sqrt(sum / 960));
    }
    expect(Math.abs(crossings / ((to - from) / 48_000) / 220 - 1)).toBeLessThan(0.01);
    // 0.125 is the tone's peak; where blocks meet in it, it is a little lower for a moment.
    expect(least).toBeGreaterThan(0.05);
  });
});
