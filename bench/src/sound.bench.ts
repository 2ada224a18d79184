/**
 * Sound: how near a film comes to its loudness, and its takes to one another; how much of a room is taken from under a voice, and
 * what that costs a voice that has none; whether pieces join; and what one cut costs in the sound of an hour, against making all
 * of it, and that against a plain transcode in the same run.
 */
import { filmOf, type Film } from '@under-chalk/core/film/film';
import { NoiseListener } from '@under-chalk/core/sound/noise-reduction/noise-profile';
import { NoiseReducer } from '@under-chalk/core/sound/noise-reduction/noise-reducer';
import type { NoiseReduction } from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { levelsIn, TARGET_LUFS, type LoudnessOf } from '@under-chalk/core/sound/levelling';
import { NO_SPEECH } from '@under-chalk/core/sound/ducking';
import { aboveNoise, powerOf } from '@under-chalk/core/testing/above-noise';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { SOUND_ENCODER } from '@under-chalk/render/ffmpeg/encoder';
import { run, type MediaFile } from '@under-chalk/render/ffmpeg/run';
import { renderSound } from '@under-chalk/render/film/render-sound';
import {
  PACKET,
  planSound,
  PRE_ROLL,
  soundText,
  type SoundPiece,
} from '@under-chalk/render/plan/sound';
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SENTENCES } from './words/said';

const MOST = {
  lufsError: 0.5,
  takeSpreadLu: 1,
  cleanLossDb: 0.5,
  joinErrorDbfs: -60,
  reexport: 0.05,
};
const LEAST_GAIN_DB = 2;
const RATE = 48_000;
const HOUR = 3_600;
const VOICES = [
  // How loud each is recorded, dB.
  ['rms', -22],
  ['slt', 0],
  ['awb', 9],
] as const;
const s = (seconds: number) => Math.round(seconds * 1_000_000);
const rounded = (value: number, by = 100) => Math.round(value * by) / by;

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-sound-'));
const floats = (bytes: Buffer) =>
  new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
const decoded = async (path: string, filters = 'anull') =>
  floats(
    await run('ffmpeg', [
      ...['-i', path, '-af', filters, '-ac', '1', '-ar', String(RATE), '-f', 'f32le', 'pipe:1'],
    ]),
  );

/** Sentences in a voice, with the room's own quiet before and after them. */
const said = async (voice: string): Promise<string> => {
  const [words, path] = [join(folder, `${voice}.said.wav`), join(folder, `${voice}.wav`)];
  execFileSync('flite', ['-voice', voice, '-t', SENTENCES.slice(0, 12).join(' '), '-o', words]);
  await run('ffmpeg', ['-i', words, '-ar', String(RATE), '-c:a', 'pcm_f32le', path]);
  return path;
};

/** What the meter of EBU R 128 says of a file, LUFS, in stereo as films have it. */
const lufsOf = async (path: string): Promise<number> => {
  const meter =
    'aresample=48000,aformat=channel_layouts=stereo,ebur128=metadata=1:framelog=verbose';
  const text = await run('ffmpeg', [
    ...[
      '-i',
      path,
      '-map',
      '0:a:0',
      '-af',
      `${meter},ametadata=mode=print:key=lavfi.r128.I:file=-`,
    ],
    ...['-f', 'null', '-'],
  ]);
  return Number([...text.toString('latin1').matchAll(/r128\.I=(\S+)/g)].at(-1)![1]);
};

/** The sound of a film as a file. */
const soundOf = async (
  pieces: readonly SoundPiece[],
  mediaOf: (trackId: string) => MediaFile,
  name: string,
): Promise<string> => {
  const path = join(folder, `${name}.aac`);
  const parts: Buffer[] = [];
  for (const piece of pieces) parts.push(await renderSound(piece, ({ id }) => mediaOf(id)));
  await writeFile(path, Buffer.concat(parts));
  return path;
};

const levelling = async () => {
  const files = new Map<string, MediaFile>();
  const measured = new Map<string, { lufs: number }>();
  const takes = await Promise.all(
    VOICES.map(async ([voice, db]) => {
      const path = join(folder, `${voice}.mp4`);
      const louder = `volume=${db}dB,alimiter=limit=0.98:level=0`;
      await run('ffmpeg', [
        '-i',
        await said(voice),
        '-af',
        louder,
        '-c:a',
        'aac',
        '-b:a',
        '160k',
        path,
      ]);
      const seconds = (await decoded(path)).length / RATE;
      const take = takeOfLength(`take-${voice}`, s(seconds), ['voice']);
      files.set(take.tracks[0]!.id, { path, demuxer: 'mov' });
      measured.set(take.tracks[0]!.id, { lufs: await lufsOf(path) });
      return take;
    }),
  );
  const loudnessOf: LoudnessOf = (id) => measured.get(id) ?? null;
  const heard = async (film: Film, name: string) => {
    const levels = levelsIn(film.lesson.decisions, loudnessOf, NO_SPEECH);
    const pieces = planSound(film, undefined, levels);
    return lufsOf(await soundOf(pieces, (id) => files.get(id)!, name));
  };
  const whole = await heard(filmOf(lessonOf(takes)), 'all');
  const each: number[] = [];
  for (const take of takes) each.push(await heard(filmOf(lessonOf([take])), take.id));
  return {
    lufsError: rounded(Math.abs(whole - TARGET_LUFS)),
    takeSpreadLu: rounded(Math.max(...each) - Math.min(...each)),
    spreadBeforeLu: rounded(
      Math.max(...[...measured.values()].map(({ lufs }) => lufs)) -
        Math.min(...[...measured.values()].map(({ lufs }) => lufs)),
    ),
  };
};

const noiseReduced = (samples: Float32Array, reduction: NoiseReduction): Float32Array => {
  const listener = new NoiseListener();
  listener.next(samples);
  const cleaner = new NoiseReducer(listener.finish(), reduction);
  const parts = [cleaner.next(samples), cleaner.finish()];
  return Float32Array.from([...parts[0]!, ...parts[1]!]);
};

const ROOMS = {
  hiss: 'anoisesrc=c=white:r=48000:seed=3',
  air: 'anoisesrc=c=pink:r=48000:seed=3',
  fan: 'anoisesrc=c=brown:r=48000:seed=3,highpass=f=60',
  hum: 'aevalsrc=0.5*sin(2*PI*50*t)+0.3*sin(2*PI*100*t)+0.3*sin(2*PI*150*t+1)+0.2*sin(2*PI*250*t):s=48000',
};

const reduction = async () => {
  const gains: number[] = [];
  let [loss, took, heard] = [0, 0, 0];
  for (const [voice] of VOICES) {
    const pure = await decoded(await said(voice));
    const power = powerOf(pure);
    const seconds = Math.ceil(pure.length / RATE) + 1;
    for (const source of Object.values(ROOMS)) {
      const noise = floats(
        await run('ffmpeg', [
          '-f',
          'lavfi',
          '-t',
          String(seconds),
          '-i',
          source,
          '-f',
          'f32le',
          'pipe:1',
        ]),
      );
      const loud = Math.sqrt(power / powerOf(noise.subarray(0, pure.length)));
      // The last is as good as clean: nothing is to be gained, and nothing lost.
      for (const below of [10, 20, 40]) {
        const factor = loud * 10 ** (-below / 20);
        const before = pure.map((one, at) => one + factor * noise[at]!);
        for (const how of ['gently', 'firmly'] as const) {
          const began = performance.now();
          const after = noiseReduced(before, how);
          took += performance.now() - began;
          heard += pure.length / RATE;
          const gain = aboveNoise(after, pure) - aboveNoise(before, pure);
          if (below < 40) gains.push(gain);
          else loss = Math.max(loss, -gain);
        }
      }
    }
  }
  return {
    snrGainDb: rounded(gains.reduce((sum, gain) => sum + gain, 0) / gains.length),
    leastGainDb: rounded(Math.min(...gains)),
    cleanLossDb: rounded(loss),
    noiseReductionMsAMinute: Math.round((took / heard) * 60),
  };
};

/** Pieces against what is made in one pass: what is left of the one without the other, dBFS. */
const joining = async () => {
  const path = join(folder, 'joined.mp4');
  await run('ffmpeg', ['-i', await said('slt'), '-c:a', 'aac', '-b:a', '192k', path]);
  const seconds = Math.floor((await decoded(path)).length / RATE);
  const take = takeOfLength('take-joined', s(seconds), ['voice']);
  const mediaOf = (): MediaFile => ({ path, demuxer: 'mov' });
  const pieces = planSound(filmOf(lessonOf([take])));
  const whole: SoundPiece = {
    packets: pieces.reduce((sum, { packets }) => sum + packets, 0),
    preRoll: PRE_ROLL - 1,
    stretches: [
      { ...pieces[0]!.stretches[0]!, at: PRE_ROLL * PACKET, from: 0, length: seconds * RATE },
    ],
  };
  const inPieces = await decoded(await soundOf(pieces, mediaOf, 'pieces'));
  const inOne = await decoded(await soundOf([whole], mediaOf, 'one'));
  const apart = inOne.map((one, at) => one - (inPieces[at] ?? 0));
  return {
    pieces: pieces.length,
    joinErrorDbfs: rounded(10 * Math.log10(powerOf(apart) + 1e-20), 10),
  };
};

const hour = async () => {
  const [part, path] = [join(folder, 'part.mp4'), join(folder, 'hour.mp4')];
  await run('ffmpeg', [
    '-i',
    await said('slt'),
    '-t',
    '64',
    '-af',
    'apad=whole_dur=64',
    '-c:a',
    'aac',
    part,
  ]);
  await run('ffmpeg', ['-stream_loop', '-1', '-i', part, '-t', String(HOUR), '-c', 'copy', path]);
  const take = takeOfLength('take-hour', s(HOUR), ['voice']);
  const film = (cuts: { takeId: string; startUs: number; endUs: number }[]) =>
    planSound(filmOf(lessonOf([take], { cuts })));
  const make = async (pieces: readonly SoundPiece[]) => {
    const began = performance.now();
    for (const piece of pieces) await renderSound(piece, () => ({ path, demuxer: 'mov' }));
    return performance.now() - began;
  };
  const began = performance.now();
  await run('ffmpeg', [
    '-i',
    path,
    '-ac',
    '2',
    ...SOUND_ENCODER,
    '-f',
    'adts',
    join(folder, 'floor.aac'),
  ]);
  const floorMs = performance.now() - began;
  const all = film([]);
  const allMs = await make(all);
  const made = new Set(all.map(soundText));
  const fresh = film([{ takeId: take.id, startUs: s(1_800), endUs: s(1_803.3) }]).filter(
    (piece) => !made.has(soundText(piece)),
  );
  const freshMs = await make(fresh);
  return {
    hourMs: Math.round(allMs),
    ratio: rounded(allMs / floorMs),
    reexportRatio: rounded(freshMs / allMs, 10_000),
  };
};

try {
  const report = {
    name: 'sound',
    ...(await levelling()),
    ...(await reduction()),
    ...(await joining()),
    ...(await hour()),
    most: MOST,
  };
  console.log(JSON.stringify(report, null, 2));
  const out = join(process.env['UNDER_CHALK_ROOT']!, 'bench/results');
  await mkdir(out, { recursive: true });
  await writeFile(join(out, 'sound.json'), `${JSON.stringify(report, null, 2)}\n`);
  const met =
    report.lufsError <= MOST.lufsError &&
    report.takeSpreadLu <= MOST.takeSpreadLu &&
    report.leastGainDb >= 0 &&
    report.snrGainDb >= LEAST_GAIN_DB &&
    report.cleanLossDb <= MOST.cleanLossDb &&
    report.joinErrorDbfs <= MOST.joinErrorDbfs &&
    report.reexportRatio <= MOST.reexport;
  if (!met) process.exitCode = 1;
} finally {
  await rm(folder, { recursive: true, force: true });
}
