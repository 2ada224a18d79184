import { filmOf } from '@under-chalk/core/film/film';
import type { LoudnessOf } from '@under-chalk/core/sound/levelling';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run, type MediaFile } from '../ffmpeg/run';
import { planFilm } from '../plan/plan-film';
import { PieceCache } from './cache';
import { renderFilm } from './render-film';

jest.setTimeout(180_000);
const size = { widthPx: 320, heightPx: 180 };
const SECONDS = 24;
const [quiet, loud] = ['take-quiet', 'take-loud'].map((id) =>
  takeOfLength(id, SECONDS * 1_000_000, ['voice']),
) as [ReturnType<typeof takeOfLength>, ReturnType<typeof takeOfLength>];
let folder: string;

/** What the meter of EBU R 128 says of a part of a file: integrated loudness, and the highest true peak. */
const meter = async (path: string, from = 0, lasts = 10_000) => {
  const args = ['-hide_banner', '-nostats', '-ss', String(from), '-t', String(lasts), '-i', path];
  const text = (
    await run('ffmpeg', [
      ...args,
      ...['-map', '0:a:0', '-af', 'ebur128=peak=true:metadata=1,ametadata=mode=print:file=-'],
      ...['-f', 'null', '-'],
    ])
  ).toString('latin1');
  const all = (key: string) =>
    [...text.matchAll(new RegExp(`lavfi\\.r128\\.${key}=(\\S+)`, 'g'))].map((one) =>
      Number(one[1]),
    );
  const peaks = [...all('true_peaks_ch0'), ...all('true_peaks_ch1')];
  return { lufs: all('I').at(-1)!, peakDbtp: 20 * Math.log10(Math.max(...peaks)) };
};

/** Something like a voice: tones that come and go in words, with sharp beginnings. */
const voice = async (name: string, amplitude: number): Promise<MediaFile> => {
  const path = join(folder, `${name}.mp4`);
  const words =
    '(0.6*sin(2*PI*t*(170+30*sin(2*PI*t*0.7)))*(0.5+0.5*sin(2*PI*t*2.3))' +
    '+0.3*sin(2*PI*t*1130)*(0.5+0.5*sin(2*PI*t*3.1))+2.4*exp(-90*mod(t\\,0.7))*sin(2*PI*t*400))';
  const source = `aevalsrc=${amplitude}*${words}:s=48000:d=${SECONDS}`;
  await run('ffmpeg', ['-f', 'lavfi', '-i', source, '-c:a', 'aac', '-b:a', '192k', path]);
  return { path, demuxer: 'mov' };
};

const files = new Map<string, MediaFile>();
let loudnessOf: LoudnessOf;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-levelled-'));
  files.set('take-quiet-voice', await voice('quiet', 0.05));
  files.set('take-loud-voice', await voice('loud', 0.24));
  const measured = new Map<string, { lufs: number }>();
  for (const [id, { path }] of files) {
    // As the film has it: in stereo.
    const wav = join(folder, `${id}.wav`);
    await run('ffmpeg', ['-i', path, '-ac', '2', '-ar', '48000', '-c:a', 'pcm_f32le', wav]);
    measured.set(id, { lufs: (await meter(wav)).lufs });
  }
  loudnessOf = (trackId) => measured.get(trackId) ?? null;
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const make = async (
  name: string,
  known?: LoudnessOf,
  cuts: { startUs: number; endUs: number }[] = [],
) => {
  const out = join(folder, `${name}.mp4`);
  const cutOut = cuts.map((one) => ({ takeId: quiet.id, ...one }));
  const film = filmOf(lessonOf([quiet, loud], { cuts: cutOut }));
  const plan = await planFilm(film, size, 'Tides', { loudnessOf: known });
  const mediaOf = (trackId: string) => files.get(trackId)!;
  await renderFilm({ plan, mediaOf, cache: new PieceCache(join(folder, 'cache')), out });
  return { out, sound: plan.manifest.sound.map(({ key }) => key) };
};

it('brings a quiet take and a loud one to one level, and lets no peak be over the ceiling', async () => {
  const asRecorded = await make('as-recorded');
  const [before, after] = [
    await meter(asRecorded.out, 0, SECONDS),
    await meter(asRecorded.out, SECONDS + 1),
  ];
  expect(after.lufs - before.lufs).toBeGreaterThan(12);
  const { out } = await make('levelled', loudnessOf);
  const whole = await meter(out);
  expect(Math.abs(whole.lufs + 16)).toBeLessThan(0.5);
  expect(whole.peakDbtp).toBeLessThan(-1);
  const parts = [await meter(out, 0.5, SECONDS - 1), await meter(out, SECONDS + 0.5, SECONDS - 1)];
  expect(Math.abs(parts[0]!.lufs - parts[1]!.lufs)).toBeLessThan(1);
  // Without the limiter peaks would be over it: what was brought up is sharp.
  const [{ lufs }] = [loudnessOf('take-quiet-voice')!];
  const quietPeak = (await meter(files.get('take-quiet-voice')!.path)).peakDbtp;
  expect(quietPeak - 3 - 16 - lufs!).toBeGreaterThan(-1);
});

it('makes no other sound anew for a cut', async () => {
  const whole = await make('whole', loudnessOf);
  const cut = await make('cut', loudnessOf, [{ startUs: 14_000_000, endUs: 15_000_000 }]);
  const anew = cut.sound.filter((key) => !whole.sound.includes(key));
  // The two that the cut lies in, and the one that it moves against the next take.
  expect(anew.length).toBeLessThanOrEqual(3);
  expect(whole.sound.length).toBeGreaterThan(4);
  expect(Math.abs((await meter(cut.out)).lufs + 16)).toBeLessThan(0.5);
});

it('lowers what the computer plays while somebody speaks, at another speed too', async () => {
  const both = takeOfLength('take-both', SECONDS * 1_000_000, ['voice', 'computer-sound']);
  const tone = (name: string, source: string): Promise<MediaFile> => {
    const path = join(folder, `${name}.mp4`);
    const args = ['-f', 'lavfi', '-i', `aevalsrc=${source}:s=48000:d=${SECONDS}`];
    return run('ffmpeg', [...args, '-c:a', 'aac', '-b:a', '192k', path]).then(() => ({
      ...{ path, demuxer: 'mov' as const },
    }));
  };
  files.set('take-both-computer-sound', await tone('plays', '0.2*sin(2*PI*2500*t)'));
  // Low, so that it can be told from what is played.
  files.set('take-both-voice', await tone('speaks', '0.2*between(t\\,8\\,12)*sin(2*PI*150*t)'));
  const speechOf = () => [{ startUs: 8_000_000, endUs: 12_000_000 }];
  const speeds = [{ takeId: both.id, startUs: 9_000_000, endUs: 15_000_000, speed: 150 }];
  const film = filmOf(lessonOf([both], { speeds, duckingDb: 10 }));
  const known: LoudnessOf = () => ({ lufs: null });
  const plan = await planFilm(film, size, 'Tides', { loudnessOf: known, speechOf });
  const out = join(folder, 'both.mp4');
  const mediaOf = (trackId: string) => files.get(trackId)!;
  await renderFilm({ plan, mediaOf, cache: new PieceCache(join(folder, 'cache')), out });
  const playsAt = async (from: number) => {
    const pcm = await run('ffmpeg', [
      ...['-ss', String(from), '-t', '0.4', '-i', out, '-af', 'highpass=f=1500:poles=2'],
      ...['-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1'],
    ]);
    const samples = new Float32Array(pcm.buffer, pcm.byteOffset, Math.floor(pcm.length / 4));
    const mean = samples.reduce((sum, one) => sum + one * one, 0) / samples.length;
    return 10 * Math.log10(mean);
  };
  const before = await playsAt(4);
  expect(Math.abs((await playsAt(8.4)) - before + 10)).toBeLessThan(1);
  // Eleven seconds of what was recorded, half as fast again from the ninth on.
  expect(Math.abs((await playsAt(9 + 2 / 1.5 - 0.2)) - before + 10)).toBeLessThan(1);
  expect(Math.abs((await playsAt(9 + 5 / 1.5)) - before)).toBeLessThan(1);
});
