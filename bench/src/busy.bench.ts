/**
 * A busy machine: four processes keep the cores busy at normal priority while ten kinds of film are imported, cut and exported, and
 * one lesson is recorded. Every film has to come out right: as long as it should be, picture and sound at their places after a cut.
 */
import { run } from '@under-chalk/render/ffmpeg/run';
import {
  choosePractice,
  openBrowser,
  planLesson,
  recordFor,
  startRecording,
  stopRecording,
} from '@under-chalk/e2e/browser';
import { flashesAt, probe, tonesAt } from '@under-chalk/e2e/media';
import { RealServer } from '@under-chalk/e2e/server';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inspect } from 'node:util';

const HOGS = 4;
const SECONDS = 6;
/** The picture is white, and a tone of 1 kHz sounds, from here on for 0.2 s. */
const MARKS_S = [1, 4];
const CUT_S = [2, 3] as const;
/** A part of the frame that every kind of film covers, also an upright one. */
const MIDDLE = { x: 0.45, y: 0.45, width: 0.1, height: 0.1 };
const RECORDED_S = 10;
/** Nothing here takes so long, however busy the machine is, s. */
const MOST_S = 1_800;

const x264 = (...more: string[]) => [
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', ...more],
];
const AAC = ['-c:a', 'aac'];
/** The film of this name says that it is to be turned upright. */
const TURNED = 'a phone, upright';
/** How many pictures a second the film of a name has, where they aren't 30. */
const RATES: Readonly<Record<string, string>> = {
  '60 a second': '60',
  '23.976 a second': '24000/1001',
};
const KINDS: readonly (readonly [name: string, file: string, args: readonly string[]])[] = [
  [TURNED, 'mov', [...x264('-bf', '0'), ...AAC]],
  ['a phone, variable rate', 'mp4', [...x264(), ...AAC, '-fps_mode', 'vfr']],
  ['B-frames', 'mp4', [...x264('-bf', '3', '-g', '60'), ...AAC]],
  ['60 a second', 'mp4', [...x264(), ...AAC]],
  ['23.976 a second', 'mov', [...x264('-bf', '3'), ...AAC]],
  ['VP8 with Vorbis', 'webm', ['-c:v', 'libvpx', '-b:v', '1M', '-c:a', 'libvorbis']],
  ['VP9 with Opus', 'webm', ['-c:v', 'libvpx-vp9', '-cpu-used', '8', '-c:a', 'libopus']],
  ['MKV with AC-3', 'mkv', [...x264(), '-c:a', 'ac3']],
  ['MPEG-4 with MP3', 'mkv', ['-c:v', 'mpeg4', '-c:a', 'libmp3lame']],
  ['mono, 22 kHz', 'mp4', [...x264(), ...AAC, '-ac', '1', '-ar', '22050']],
];

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
const server = await RealServer.start({ home: join(folder, 'home') });
const hogs: ReturnType<typeof spawn>[] = [];
let refused = 0;
const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const answer = await server.ask<T & { code?: string }>(method, path, body);
  if (typeof answer.code !== 'string') return answer;
  refused++;
  throw new Error(`${method} ${path}: ${answer.code}`);
};

const makeFilm = async (name: string, file: string, args: readonly string[]): Promise<void> => {
  const on = MARKS_S.map((at) => `between(t,${at},${at + 0.199})`).join('+');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `testsrc2=s=640x360:r=${RATES[name] ?? 30}:d=${SECONDS}`],
    ...['-f', 'lavfi', '-i', `aevalsrc='0.5*sin(2*PI*1000*t)*(${on})':s=48000:d=${SECONDS}`],
    ...['-vf', `drawbox=color=white:t=fill:enable='${on}'`, ...args, '-y', file],
  ]);
  if (name !== TURNED) return;
  const lying = `${file}.lying.mov`;
  await rename(file, lying);
  await run('ffmpeg', ['-i', lying, '-c', 'copy', '-metadata:s:v', 'rotate=90', file]);
};

/** Whether all of some times are where they should be, within a frame or two of a film. */
const areAt = (times: readonly number[], wanted: readonly number[]): boolean =>
  times.length === wanted.length &&
  times.every((at, index) => Math.abs(at - wanted[index]!) < 0.075);

/** Exports a lesson, and returns the film's file. */
const exported = async (lessonId: string): Promise<string> => {
  const { id } = await ask<FilmRow>('POST', `/api/lessons/${lessonId}/films`, { size: '720p' });
  for (const until = Date.now() + MOST_S * 1000; Date.now() < until;) {
    const film = (await ask<FilmRow[]>('GET', `/api/lessons/${lessonId}/films`)).find(
      (one) => one.id === id,
    )!;
    if (film.state === 'failed') throw new Error(`not made: ${film.problem}`);
    if (film.state === 'done') {
      const out = join(folder, `${lessonId}.mp4`);
      const answer = await fetch(`${server.url}/api/films/${id}/file`);
      await writeFile(out, Buffer.from(await answer.arrayBuffer()));
      return out;
    }
    await new Promise((resolve) => setTimeout(resolve, 1_000));
  }
  throw new Error('the film is not done');
};

interface Outcome {
  readonly name: string;
  readonly right: boolean;
  readonly lost: boolean;
  readonly why: string;
}

/** What is wrong with a film. Measured when all are there: it holds up this process, and the connections that it keeps. */
type Measured = () => string[];

/** What `fetch` says of why it failed, and of its connection. */
const causeOf = (error: unknown): string =>
  error instanceof Error && error.cause instanceof Error ? inspect(error.cause) : '';

const outcomeOf = async (name: string, work: () => Promise<Measured>): Promise<() => Outcome> => {
  try {
    const measured = await work();
    return () => {
      const wrong = measured();
      return { name, right: wrong.length === 0, lost: false, why: wrong.join(', ') };
    };
  } catch (error) {
    return () => ({ name, right: false, lost: true, why: `${String(error)} ${causeOf(error)}` });
  }
};

const imported = (name: string, file: string, index: number) =>
  outcomeOf(name, async () => {
    const [id, take] = [`lesson-${index}`, `take-${index}`];
    await ask('POST', '/api/lessons', { id, title: name });
    await ask('POST', `/api/lessons/${id}/takes`, {
      ...{ id: take, source: 'film', practice: false },
      tracks: [
        { id: `${take}-surface`, kind: 'surface' },
        { id: `${take}-voice`, kind: 'voice' },
      ],
    });
    const bytes = await readFile(file);
    for (const kind of ['surface', 'voice']) await server.send(`${take}-${kind}`, bytes);
    await ask('POST', `/api/takes/${take}/stop`, {});
    const { problem } = await server.takeWhen(id, MOST_S, 1_000);
    const [startUs, endUs] = CUT_S.map((at) => at * 1e6) as [number, number];
    await server.edit(id, { do: 'cut', takeId: take, startUs, endUs });
    const film = await exported(id);
    const wanted = [MARKS_S[0]!, MARKS_S[1]! - (CUT_S[1] - CUT_S[0])];
    return () => {
      const [flashes, tones] = [flashesAt(film, MIDDLE), tonesAt(film, 1_000)];
      const frames = Number(probe(film).video!['nb_frames']);
      return [
        ...(problem === null ? [] : [`incomplete: ${problem}`]),
        ...(areAt(flashes, wanted) ? [] : [`flashes at ${flashes.join(' ')}`]),
        ...(areAt(tones, wanted) ? [] : [`tones at ${tones.join(' ')}`]),
        ...(Math.abs(frames / 30 - (SECONDS - 1)) < 0.1 ? [] : [`${frames} frames`]),
      ];
    };
  });

const recorded = () =>
  outcomeOf('a recording', async () => {
    const { page, close } = await openBrowser({});
    const id = await planLesson(page, server.url, 'On a busy machine');
    await choosePractice(page);
    await startRecording(page);
    await recordFor(page, RECORDED_S);
    await stopRecording(page);
    const { durationUs, problem } = await server.takeWhen(id, MOST_S, 1_000);
    await close();
    const film = await exported(id);
    return () => {
      const frames = Number(probe(film).video!['nb_frames']);
      return [
        ...(durationUs >= RECORDED_S * 1e6 ? [] : [`${durationUs} µs recorded`]),
        ...(problem === null ? [] : [`incomplete: ${problem}`]),
        ...(Math.abs(frames / 30 - durationUs / 1e6) < 0.1 ? [] : [`${frames} frames`]),
        ...(probe(film).audio ? [] : ['no sound']),
      ];
    };
  });

try {
  const files: string[] = [];
  for (const [index, [name, ending, args]] of KINDS.entries()) {
    const file = join(folder, `${index}.${ending}`);
    await makeFilm(name, file, args);
    files.push(file);
  }
  for (let index = 0; index < HOGS; index++)
    hogs.push(spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }));
  const began = Date.now();
  const measured = await Promise.all([
    ...KINDS.map(([name], index) => imported(name, files[index]!, index)),
    recorded(),
  ]);
  const seconds = Math.round((Date.now() - began) / 1000);
  for (const hog of hogs) hog.kill('SIGKILL');
  const outcomes = measured.map((outcome) => outcome());
  console.table(outcomes);
  const result = {
    ...{ name: 'busy', tried: outcomes.length },
    right: outcomes.filter(({ right }) => right).length,
    lost: outcomes.filter(({ lost }) => lost).length,
    refused,
    endedByClock: server.logged.split('FfmpegTimeout').length - 1,
    seconds,
  };
  console.table([result]);
  await mkdir(join(process.cwd(), 'bench', 'results'), { recursive: true });
  await writeFile(join(process.cwd(), 'bench/results/busy.json'), `${JSON.stringify(result)}\n`);
  if (result.right < result.tried) process.exitCode = 1;
} finally {
  for (const hog of hogs) hog.kill('SIGKILL');
  await server.remove();
  await rm(folder, { recursive: true, force: true });
}
