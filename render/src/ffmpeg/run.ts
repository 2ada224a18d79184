import { spawn, type ChildProcessByStdio } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { toSecondsText, type Us } from '@under-chalk/core/time/us';
import { limited, type Limits } from './limited';
import { watchWork } from './work-clock';

/** How a file is opened: never by guessing its format, and nothing but files and pipes. */
export type Demuxer = 'mov' | 'matroska';

/** A media file on this machine. */
export interface MediaFile {
  readonly path: string;
  readonly demuxer: Demuxer;
  /** Its edit lists are not obeyed: they would have it shown in a million pieces. */
  readonly ignoreEdits?: boolean;
}

/** Options that make ffmpeg open one file and nothing else, to stand before `-i`. */
export const openOptions = (media: MediaFile): string[] => [
  '-protocol_whitelist',
  'file,pipe',
  '-f',
  media.demuxer,
  ...(media.ignoreEdits ? ['-ignore_editlist', '1'] : []),
];

/**
 * Options that begin to read at a timestamp of the file itself, to stand before `-i`. A plain `-ss` is
 * counted from where the file's first stream begins, which need not be 0.
 */
export const seekTo = (us: Us): string[] => ['-seek_timestamp', '1', '-ss', toSecondsText(us)];

/**
 * Filter that turns a sound track into samples whose number is their recorded time: sample 0 is time 0,
 * gaps are silent, and where the samples have drifted 15 ms away from their timestamps some are left out
 * or silence comes in. Stretching (`async` above 1) is not used: ffmpeg's overshoots by most of a second
 * when it begins.
 *
 * @param rate samples a second
 * @param firstSample number of the first sample that comes out
 */
export const onTheClock = (rate: number, firstSample = 0): string =>
  // Resampled first: the second counts `first_pts` in samples of what comes in.
  `aresample=${rate},aresample=${rate}:async=1:min_hard_comp=0.015:first_pts=${firstSample}`;

/** ffmpeg ended with an error. `tail` is the end of what it wrote. */
export class FfmpegError extends Error {
  readonly tail: string;
  constructor(program: string, code: number | null, tail: string) {
    super(`${program} ended with ${code ?? 'a signal'}: ${tail.trim().split('\n').at(-1) ?? ''}`);
    this.name = 'FfmpegError';
    this.tail = tail;
  }
}

/** ffmpeg was ended because it worked or stood still for longer than it may; what it waited for a processor doesn't count. */
export class FfmpegTimeout extends Error {
  constructor(program: string, why: string) {
    super(`${program} was ended: ${why}`);
    this.name = 'FfmpegTimeout';
  }
}

/** A running ffmpeg. Its output must be read, or it stands still. */
export interface Running {
  readonly stdin: Writable;
  readonly stdout: Readable;
  /** Processes when it ends: rejects with FfmpegError, or with the signal's reason when aborted. */
  readonly ended: Promise<void>;
  kill(): void;
  /** Time that it had worked or stood still when it was looked at last, ms (`work-clock`); 0 where it has no limit. */
  countedMs(): number;
}

const TAIL_BYTES = 4_000;

/**
 * Starts ffmpeg or ffprobe with arguments as they are; no shell is involved. It ends with this process,
 * however that ends.
 *
 * @param signal ends the process when aborted
 */
export const start = (
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  signal?: AbortSignal,
  limits: Limits = {},
): Running => {
  const quiet =
    program === 'ffmpeg' ? ['-hide_banner', '-nostdin', '-loglevel', 'error', '-y'] : [];
  const [command, ...rest] = limited([program, ...quiet, ...args], limits);
  const child: ChildProcessByStdio<Writable, Readable, Readable> = spawn(command!, rest, {
    stdio: ['pipe', 'pipe', 'pipe'],
  });
  let tail = '';
  child.stderr.setEncoding('utf8');
  child.stderr.on('data', (text: string) => {
    tail = (tail + text).slice(-TAIL_BYTES);
  });
  // A reader that ends early (head of a pipe) is no error of ours; the exit code tells.
  child.stdin.on('error', () => undefined);
  const kill = () => void child.kill('SIGKILL');
  let late: FfmpegTimeout | null = null;
  const clock = watchWork(child.pid, limits, (limit) => {
    const [why, ms] =
      limit === 'deadline' ? ['ran', limits.deadlineMs!] : ['was silent', limits.quietMs!];
    late = new FfmpegTimeout(program, `it ${why} for ${Math.round(ms / 1000)} s`);
    kill();
  });
  if (limits.quietMs !== undefined)
    for (const out of [child.stdout, child.stderr]) out.on('data', () => clock.heard());
  const ended = new Promise<void>((resolve, reject) => {
    child.once('error', (error) => {
      clock.stop();
      reject(error);
    });
    // What is not read to its end never closes; the process itself is over all the same.
    child.once('exit', () => {
      clock.stop();
    });
    child.once('close', (code) => {
      signal?.removeEventListener('abort', kill);
      if (signal?.aborted) reject(signal.reason as Error);
      else if (late) reject(late);
      else if (code === 0) resolve();
      else reject(new FfmpegError(program, code, tail));
    });
  });
  // Whoever waits for it is told; whoever has stopped waiting must not end the process by it.
  ended.catch(() => undefined);
  if (signal?.aborted) kill();
  else signal?.addEventListener('abort', kill, { once: true });
  return {
    stdin: child.stdin,
    stdout: child.stdout,
    ended,
    countedMs: () => clock.countedMs(),
    kill() {
      kill();
      // Nobody reads on: what is left in the pipe must not keep it open.
      child.stdout.destroy();
    },
  };
};

/**
 * Writes to a running ffmpeg, and waits while it has no room for more.
 *
 * @throws FfmpegError why it ended, when it has ended before: a broken pipe would not tell
 */
export const feed = async ({ stdin, ended }: Running, bytes: Uint8Array): Promise<void> => {
  if (!stdin.destroyed && stdin.write(bytes)) return;
  if (!stdin.destroyed) {
    await new Promise<void>((resolve) => {
      const goOn = () => {
        stdin.off('drain', goOn);
        stdin.off('close', goOn);
        resolve();
      };
      stdin.on('drain', goOn);
      stdin.on('close', goOn);
    });
  }
  if (!stdin.destroyed) return;
  await ended;
  throw new Error('ffmpeg ended before it had been given everything');
};

/** Runs to the end and gives what it wrote to standard output. */
export const run = async (
  program: 'ffmpeg' | 'ffprobe',
  args: readonly string[],
  signal?: AbortSignal,
  limits: Limits = {},
): Promise<Buffer> => {
  const running = start(program, args, signal, limits);
  running.stdin.end();
  const parts: Buffer[] = [];
  running.stdout.on('data', (part: Buffer) => parts.push(part));
  await running.ended;
  return Buffer.concat(parts);
};
