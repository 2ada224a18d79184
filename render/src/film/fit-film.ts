import type { Fitted } from '@under-chalk/core/destination/fitted';
import type { Us } from '@under-chalk/core/time/us';
import { mkdtemp, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { run } from '../ffmpeg/run';
import { checkFilm } from './check-film';

/** An hour takes a quarter of one or so. */
const LIMITS = { deadlineMs: 6 * 3_600_000, memoryBytes: 8e9, background: true };
/** Progress is read this often, ms. */
const TELL_MS = 500;
/** Where it came out too large, it is encoded again with so much less; this often at most. */
const LESS = 0.94;
const TRIES = 3;

export interface FitJob {
  /** The finished film, an MP4. */
  readonly film: string;
  readonly frames: number;
  readonly filmUs: Us;
  readonly fitted: Fitted;
  readonly mostBytes: number;
  /** The MP4 to write; it appears when it is whole. */
  readonly out: string;
  /** Told how much is done, 0 to 1. */
  readonly onProgress?: (done: number) => void;
  readonly signal?: AbortSignal;
}

/** How far an encoder has come, µs, by what it has written down of it; 0: nothing yet. */
const reached = async (path: string): Promise<Us> => {
  const told = await readFile(path, 'utf8').catch(() => '');
  return Number(/.*out_time_us=(\d+)/s.exec(told)?.[1] ?? 0);
};

/** A film came out larger than it may be, however little it was given. */
export class FitError extends Error {
  constructor(bytes: number, mostBytes: number) {
    super(`it has ${bytes} bytes, and ${mostBytes} at most`);
    this.name = 'FitError';
  }
}

/**
 * Encodes a finished film once more so that its file has at most so many bytes: in two passes, so that bits go where they are
 * needed. Chapters, words and cover go along.
 *
 * @throws FitError; FfmpegError; FilmCheckError; the signal's reason
 */
export const fitFilm = async (job: FitJob): Promise<void> => {
  const { film, frames, filmUs, fitted, mostBytes, out, onProgress, signal } = job;
  const folder = await mkdtemp(join(dirname(out), 'join-'));
  const told = join(folder, 'told.txt');
  const { widthPx, heightPx } = fitted.size;
  let [from, share] = [0, 0.4];
  let furthest = 0;
  // One that has to be tried again stands still meanwhile, and doesn't go back.
  const tell = (done: number) => {
    furthest = Math.max(furthest, done);
    onProgress?.(furthest);
  };
  const timer = setInterval(() => {
    void reached(told).then((us) => tell(from + share * Math.min(1, us / filmUs)));
  }, TELL_MS);
  const pass = async (number: 1 | 2, pictureBits: number, rest: readonly string[]) => {
    await rm(told, { force: true });
    await run(
      'ffmpeg',
      [
        ...['-progress', told, '-protocol_whitelist', 'file', '-f', 'mov', '-i', film],
        ...['-map', '0:v:0', '-c:v:0', 'libx264', '-preset', 'fast', '-pix_fmt', 'yuv420p'],
        ...['-b:v:0', String(pictureBits), '-pass', String(number)],
        ...['-passlogfile', join(folder, 'pass')],
        ...['-filter:v:0', `scale=${widthPx}:${heightPx}:flags=lanczos,setsar=1`, ...rest],
      ],
      signal,
      LIMITS,
    );
  };
  try {
    await pass(1, fitted.pictureBits, ['-an', '-sn', '-f', 'null', '-']);
    const whole = join(folder, 'film.mp4');
    let { pictureBits } = fitted;
    for (let tries = 1; ; tries++) {
      [from, share] = [0.4, 0.58];
      await pass(2, pictureBits, [
        ...['-map', '0:a:0', '-c:a', 'aac', '-b:a', String(fitted.soundBits)],
        ...['-map', '0:s?', '-c:s', 'copy', '-disposition:s', '0'],
        ...['-map', '0:v:1?', '-c:v:1', 'copy'],
        ...['-disposition:v:1', 'attached_pic', '-map_metadata', '0', '-map_chapters', '0'],
        ...['-video_track_timescale', '30000', '-movflags', '+faststart', '-f', 'mp4', whole],
      ]);
      const { size: bytes } = await stat(whole);
      if (bytes <= mostBytes) break;
      if (tries === TRIES) throw new FitError(bytes, mostBytes);
      pictureBits = Math.floor(pictureBits * Math.min(LESS, (mostBytes / bytes) * LESS));
    }
    await checkFilm(whole, frames, signal);
    await rename(whole, out);
    tell(1);
  } finally {
    clearInterval(timer);
    await rm(folder, { recursive: true, force: true });
  }
};
