import {
  FfmpegTimeout,
  openOptions,
  start,
  type Limits,
  type MediaFile,
} from '@under-chalk/render';
import { toSecondsText, type Us } from '@under-chalk/core/time/us';
import { rename, rm, stat } from 'node:fs/promises';
import { createInterface } from 'node:readline';
import { forceToDisk } from '../../store/force-to-disk';

/** Nothing is taken for stuck while it gets on, however slowly; what doesn't is ended. */
const STUCK_MS = 20_000;
/** The index goes to the front in the end: a copy of the whole, of which nothing is told, at this speed at least. */
const COPIED_PER_MS = 10_000;
const STREAM_LIMITS: Limits = { deadlineMs: 12 * 3_600_000, memoryBytes: 6e9 };
const TELLS_PROGRESS = ['frame', 'total_size', 'out_time_us'];

/** What a stream is made from, and how. */
export interface StreamJob {
  /** Files of one stream each, or of several of which `stream` is taken. */
  readonly inputs: readonly MediaFile[];
  readonly stream: number;
  /** Taken from every timestamp, µs. */
  readonly originUs: Us;
  /** Options of the codec. */
  readonly codec: readonly string[];
  /** Filter graph from `[0:…]`, `[1:…]` to `[out]`; null: the stream as it is. */
  readonly graph: string | null;
  readonly background: boolean;
  readonly limits: (step: Limits) => Limits;
  /** Told how much has been made, 0 to 1: by its length where that is known, else by the bytes to be copied. */
  readonly tell: (share: number) => void;
  readonly lengthUs: Us | null;
}

/**
 * Makes a file with one stream of others, on the clock of the take: timestamps stay as they are but for the
 * origin. It appears when it is whole and on the disk; its name is forced there by whoever relies on it.
 *
 * @param draft a name that nothing else is written to
 * @throws FfmpegError, FfmpegTimeout; or the signal's reason
 */
export const makeStream = async (
  job: StreamJob,
  draft: string,
  out: string,
  signal: AbortSignal,
): Promise<void> => {
  const sizes = await Promise.all(job.inputs.map(async ({ path }) => (await stat(path)).size));
  const bytes = sizes.reduce((sum, size) => sum + size, 0);
  const stuckMs = STUCK_MS + bytes / COPIED_PER_MS;
  const [measure, all] =
    job.lengthUs === null
      ? (['total_size', bytes] as const)
      : (['out_time_us', job.lengthUs] as const);
  const shift = job.originUs === 0 ? [] : ['-itsoffset', toSecondsText(-job.originUs)];
  try {
    const ffmpeg = start(
      'ffmpeg',
      [
        '-copyts',
        ...job.inputs.flatMap((input) => [...openOptions(input), ...shift, '-i', input.path]),
        ...(job.graph === null
          ? ['-map', `0:${job.stream}`]
          : ['-filter_complex', job.graph, '-map', '[out]']),
        ...['-map_metadata', '-1', '-map_chapters', '-1', ...job.codec],
        ...[
          '-avoid_negative_ts',
          'disabled',
          '-movflags',
          '+faststart',
          '-max_muxing_queue_size',
          '4000',
        ],
        ...['-progress', 'pipe:1', '-stats_period', '1', '-f', 'mp4', draft],
      ],
      signal,
      { ...job.limits({ ...STREAM_LIMITS, quietMs: stuckMs }), background: job.background },
    );
    ffmpeg.stdin.end();
    await watchProgress(ffmpeg, stuckMs, (told) => {
      const made = Number(told.get(measure));
      if (all > 0 && made > 0) job.tell(Math.min(1, made / all));
    });
    await forceToDisk(draft);
    await rename(draft, out);
  } finally {
    await rm(draft, { force: true });
  }
};

/** Waits for its end, and ends it when it tells of itself and still gets nowhere. */
const watchProgress = async (
  ffmpeg: ReturnType<typeof start>,
  stuckMs: number,
  tell: (told: ReadonlyMap<string, string>) => void,
): Promise<void> => {
  const told = new Map<string, string>();
  let lastAtMs = 0;
  let stuck = false;
  for await (const line of createInterface({ input: ffmpeg.stdout })) {
    const [name = '', value = ''] = line.split('=');
    if (!TELLS_PROGRESS.includes(name)) continue;
    const nowMs = ffmpeg.countedMs();
    if (told.get(name) !== value) lastAtMs = nowMs;
    told.set(name, value);
    tell(told);
    if (nowMs - lastAtMs > stuckMs) {
      stuck = true;
      ffmpeg.kill();
    }
  }
  await ffmpeg.ended.catch((error: unknown) => {
    throw stuck ? new FfmpegTimeout('ffmpeg', 'it got nowhere') : error;
  });
};
