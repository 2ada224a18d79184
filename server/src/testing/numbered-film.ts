import { run } from '@under-chalk/render';
import { spawn } from 'node:child_process';
import { once } from 'node:events';

/**
 * Films whose every picture carries its number and known colours, and whose sound beeps at each whole
 * second: what comes out of the mill can be held against what went in.
 */

/** Bits of a number, drawn as squares along the top. */
const BITS = 10;
/** Colours of the squares along the bottom. */
export const PATCHES = [
  [200, 60, 50],
  [60, 170, 80],
  [60, 80, 190],
  [128, 128, 128],
  [225, 225, 225],
  [30, 30, 30],
] as const;

export const WIDTH = 320;
export const HEIGHT = 180;
/** Heights of the two rows, as fractions. */
const NUMBER_ROW = 0.4;
const PATCH_ROW = 0.6;

const drawNumbered = (number: number, width: number, height: number): Buffer => {
  const frame = Buffer.alloc(width * height * 3, 110);
  const row = (top: number, bottom: number, colourAt: (share: number) => readonly number[]) => {
    const line = Buffer.alloc(width * 3);
    for (let x = 0; x < width; x++) line.set(colourAt(x / width), x * 3);
    for (let y = top; y < bottom; y++) line.copy(frame, y * width * 3);
  };
  row(0, Math.round(height * NUMBER_ROW), (share) => {
    const bit = Math.floor(share * BITS);
    return number & (1 << bit) ? [235, 235, 235] : [20, 20, 20];
  });
  row(
    Math.round(height * PATCH_ROW),
    height,
    (share) => PATCHES[Math.floor(share * PATCHES.length)]!,
  );
  return frame;
};

/** Writes numbered pictures without loss. @returns when they are on the disk */
export const writeNumbered = async (
  path: string,
  {
    fps,
    seconds,
    width = WIDTH,
    height = HEIGHT,
  }: { fps: string; seconds: number; width?: number; height?: number },
): Promise<void> => {
  const [top = 30, bottom = 1] = fps.split('/').map(Number);
  const encoder = spawn(
    'ffmpeg',
    [
      ...['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', `${width}x${height}`],
      ...['-r', fps, '-i', 'pipe:0', '-c:v', 'ffv1', path],
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const closed = once(encoder, 'close');
  for (let number = 0; number < Math.round((seconds * top) / bottom); number++) {
    if (!encoder.stdin.write(drawNumbered(number, width, height)))
      await once(encoder.stdin, 'drain');
  }
  encoder.stdin.end();
  await closed;
};

/** Input options of a sound that beeps for 40 ms at each whole second. */
export const beeping = (rate: number, seconds: number): string[] => [
  ...['-f', 'lavfi', '-t', String(seconds), '-i'],
  String.raw`aevalsrc=if(lt(mod(t\,1)\,0.04)\,0.5*sin(2*PI*1000*t)\,0):s=${rate}`,
];

export interface Seen {
  /** The number on each frame. */
  readonly numbers: readonly number[];
  /** Colours of the patches in the middle of the film, 0 to 255. */
  readonly patches: readonly (readonly number[])[];
  /** When the beeps begin, seconds. */
  readonly beeps: readonly number[];
  readonly soundSeconds: number;
}

/** Reads a film of 16:9 whose pictures fill the frame. */
export const readNumbered = async (path: string): Promise<Seen> => {
  const pixels = await run('ffmpeg', [
    ...['-i', path, '-map', '0:v:0', '-fps_mode', 'passthrough', '-vf'],
    `scale=${WIDTH}:${HEIGHT}:flags=area+accurate_rnd+full_chroma_int:in_color_matrix=bt709:in_range=tv,format=rgb24`,
    ...['-f', 'rawvideo', 'pipe:1'],
  ]);
  const frameBytes = WIDTH * HEIGHT * 3;
  const colourAt = (frame: number, x: number, y: number) => {
    const sum = [0, 0, 0];
    for (let dy = -3; dy <= 3; dy++) {
      for (let dx = -3; dx <= 3; dx++) {
        const at = frame * frameBytes + ((y + dy) * WIDTH + x + dx) * 3;
        for (let channel = 0; channel < 3; channel++) sum[channel]! += pixels[at + channel]!;
      }
    }
    return sum.map((channel) => channel / 49);
  };
  const frames = pixels.length / frameBytes;
  const numbers = Array.from({ length: frames }, (_, frame) => {
    let number = 0;
    for (let bit = 0; bit < BITS; bit++) {
      const x = Math.round(((bit + 0.5) * WIDTH) / BITS);
      if (colourAt(frame, x, Math.round((HEIGHT * NUMBER_ROW) / 2))[0]! > 128) number |= 1 << bit;
    }
    return number;
  });
  const middle = Math.floor(frames / 2);
  const patches = PATCHES.map((_, index) =>
    colourAt(
      middle,
      Math.round(((index + 0.5) * WIDTH) / PATCHES.length),
      Math.round((HEIGHT * (1 + PATCH_ROW)) / 2),
    ),
  );
  const samples = await run('ffmpeg', [
    ...['-i', path, '-vn', '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1'],
  ]);
  const beeps: number[] = [];
  let quiet = 4_800;
  for (let at = 0; at * 4 < samples.length; at++) {
    if (Math.abs(samples.readFloatLE(at * 4)) > 0.1) {
      if (quiet >= 4_800) beeps.push(at / 48_000);
      quiet = 0;
    } else quiet++;
  }
  return { numbers, patches, beeps, soundSeconds: samples.length / 4 / 48_000 };
};
