/**
 * Makes the footage of the demo and the practice voice, with an offline voice and drawn pictures. Run by
 * hand (`npm run demo:media`) when the world changes; what it makes is committed. Needs flite and ffmpeg.
 */
import { createCanvas, GlobalFonts } from '@napi-rs/canvas';
import { drawTeacher, TEACHER_SIZE } from '@under-chalk/paint/practice/teacher';
import { drawScreen, SCREEN_SIZE } from '@under-chalk/paint/practice/tide-table';
import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PRACTICE_SAID, WORLD, type Said } from './world';

const root = process.cwd();
const media = join(root, 'demo', 'media');
const fonts = join(root, 'node_modules', '@expo-google-fonts');
GlobalFonts.registerFromPath(join(fonts, 'bitter/600SemiBold/Bitter_600SemiBold.ttf'), 'Bitter');
GlobalFonts.registerFromPath(
  join(fonts, 'atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf'),
  'Atkinson Hyperlegible',
);
const work = mkdtempSync(join(tmpdir(), 'under-chalk-demo-'));
const ffmpeg = (...args: string[]) =>
  execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args]);

const RATE = 16_000;
const LEAD_SECONDS = 0.8;

/** Speaks sentences with their pauses: samples at 16 kHz, and when each sentence begins, seconds. */
const speak = (said: readonly Said[]): { samples: Float32Array; starts: number[] } => {
  const parts: Float32Array[] = [new Float32Array(RATE * LEAD_SECONDS)];
  const starts: number[] = [];
  let at = parts[0]!.length;
  said.forEach(({ words, pause }, index) => {
    const wav = join(work, `said-${index}.wav`);
    const raw = join(work, `said-${index}.f32`);
    execFileSync('flite', ['-voice', 'slt', '-t', words, '-o', wav]);
    const trim = 'silenceremove=start_periods=1:start_threshold=-45dB,areverse';
    ffmpeg(
      '-i',
      wav,
      '-af',
      `${trim},${trim}`,
      '-ac',
      '1',
      '-ar',
      String(RATE),
      '-f',
      'f32le',
      raw,
    );
    const bytes = readFileSync(raw);
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
    starts.push(at / RATE);
    parts.push(samples, new Float32Array(Math.round(pause * RATE)));
    at += samples.length + Math.round(pause * RATE);
  });
  const samples = new Float32Array(at);
  let place = 0;
  for (const part of parts) {
    samples.set(part, place);
    place += part.length;
  }
  return { samples, starts };
};

/** A room is never silent: a hiss at about −66 dBFS, the same each time. */
const inARoom = (samples: Float32Array): Float32Array => {
  let seed = 7;
  return samples.map((sample) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31;
    return sample * 0.8 + (seed / 2 ** 30 - 1) * 0.0009;
  });
};

const encodeSound = (samples: Float32Array, out: string, ...codec: string[]) => {
  const raw = join(work, 'sound.f32');
  writeFileSync(raw, Buffer.from(samples.buffer));
  ffmpeg('-f', 'f32le', '-ar', String(RATE), '-ac', '1', '-i', raw, ...codec, out);
};

const loudnessAt = (samples: Float32Array, seconds: number): number => {
  const from = Math.max(0, Math.round(seconds * RATE) - 400);
  const part = samples.subarray(from, from + 800);
  return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
};

/** Encodes drawn frames. */
const encodePicture = async (
  size: { width: number; height: number },
  fps: number,
  seconds: number,
  crf: number,
  draw: (context: never, seconds: number) => void,
  out: string,
) => {
  const canvas = createCanvas(size.width, size.height);
  const context = canvas.getContext('2d');
  const encoder = spawn(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba'],
      ...['-s', `${size.width}x${size.height}`, '-r', String(fps), '-i', 'pipe:0'],
      ...['-c:v', 'libx264', '-preset', 'slow', '-tune', 'animation', '-crf', String(crf)],
      ...['-vf', 'scale=out_color_matrix=bt709:out_range=tv', '-colorspace', 'bt709'],
      ...['-pix_fmt', 'yuv420p', '-g', String(fps), '-movflags', '+faststart', out],
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  for (let frame = 0; frame < seconds * fps; frame++) {
    draw(context as never, frame / fps);
    if (!encoder.stdin.write(Buffer.from(canvas.data()))) await once(encoder.stdin, 'drain');
  }
  encoder.stdin.end();
  await once(encoder, 'close');
};

/** Only some of it is made, where footage is named. */
const wanted = process.argv.slice(2);
for (const lesson of WORLD) {
  if (!lesson.footage || (wanted.length > 0 && !wanted.includes(lesson.footage))) continue;
  const { samples, starts } = speak(lesson.said);
  const heard = inARoom(samples);
  const seconds = samples.length / RATE;
  const out = (track: string) => join(media, `${lesson.footage}-${track}.mp4`);
  encodeSound(heard, out('voice'), '-c:a', 'aac', '-b:a', '64k', '-ar', '48000');
  // What is written or turned on a board is no footage: it is made when the demo is seeded.
  if (lesson.surface !== 'board') {
    await encodePicture(
      TEACHER_SIZE,
      15,
      seconds,
      27,
      (context, at) => drawTeacher(context, at, Math.min(1, loudnessAt(samples, at) * 5)),
      out('camera'),
    );
  }
  if (lesson.surface === 'tide-table') {
    await encodePicture(
      SCREEN_SIZE,
      15,
      seconds,
      24,
      (context, at) => drawScreen(context, at),
      out('surface'),
    );
  }
  const facts = {
    startsUs: starts.map((at) => Math.round(at * 1e6)),
    endUs: Math.round(seconds * 1e6),
  };
  writeFileSync(join(media, `${lesson.footage}.json`), `${JSON.stringify(facts)}\n`);
  console.log(`${lesson.footage}: ${seconds.toFixed(1)} s`);
}
if (wanted.length === 0 || wanted.includes('practice')) {
  encodeSound(
    speak(PRACTICE_SAID).samples,
    join(root, 'app', 'public', 'practice', 'voice.mp3'),
    ...['-c:a', 'libmp3lame', '-b:a', '64k', '-ar', '44100'],
  );
}
rmSync(work, { recursive: true });
