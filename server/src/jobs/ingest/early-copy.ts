import { samplesIn, timescaleIn, type SampleFacts } from '@under-chalk/core/mp4/fragments';
import type { Medium } from '@under-chalk/core/lesson/medium';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import type { Loudness } from '@under-chalk/core/sound/levelling';
import {
  boxesOf,
  feed,
  onTheClock,
  openOptions,
  start,
  type FootageMark,
  type MediaFile,
  type Running,
} from '@under-chalk/render';
import { createHash } from 'node:crypto';
import { open, rm, type FileHandle } from 'node:fs/promises';
import { forceToDisk } from '../../store/force-to-disk';
import type { FootageSoFar, WholeFragment } from './footage-so-far';
import { LoudnessMeter } from '../readings/loudness';
import { levelsOf, LEVEL_SOUND } from './level-line';
import type { PacketTimes } from './probe';

/** A recorded track, copied into a file that can be sought in. */
export interface EarlyCopy {
  readonly media: MediaFile;
  readonly times: PacketTimes;
  /** Levels over time, of a sound track. */
  readonly levels: LevelLine | null;
  /** How loud a sound track is on the whole; null where that isn't known. */
  readonly loudness: Loudness | null;
  /** How much of what came in is in it, and SHA-256 of that, hexadecimal. */
  readonly wholeBytes: number;
  readonly digest: string;
  /** What it is known by up to the end of each of its fragments. */
  readonly marks: readonly FootageMark[];
}

/** How a track is copied. */
export interface CopyJob {
  /** Where it comes in. */
  readonly incoming: string;
  readonly medium: Medium;
  /** Options of the codec. */
  readonly copy: readonly string[];
  /** Where the copy is made: it is whole when {@link EarlyCopying.finish} says so. */
  readonly draft: string;
  /** Told why it was given up. */
  readonly onGivenUp: (why: unknown) => void;
}

const READ_BYTES = 1 << 20;
/** The description of a fragment of some seconds is a few thousand bytes long. */
const MOST_MOOF_BYTES = 4 << 20;
/** Longer than any take, ms. */
const DEADLINE_MS = 48 * 3_600_000;

const readAt = async (file: FileHandle, from: number, end: number): Promise<Buffer> => {
  const bytes = Buffer.alloc(end - from);
  await file.read(bytes, 0, bytes.length, from);
  return bytes;
};

/** The times of packets, in one pass over the fragments that hold them. */
class TimesSoFar {
  readonly #timescale: number;
  #count = 0;
  #endUs = 0;
  #lastKeyUs = 0;
  #longestKeyGapUs = 0;

  /** @param timescale ticks in a second */
  constructor(timescale: number) {
    this.#timescale = timescale;
  }

  #us(ticks: number): number {
    return Math.round((ticks / this.#timescale) * 1e6);
  }

  /** Adds a whole fragment. @returns when its first sample begins, and when all that has come ends */
  add(samples: readonly SampleFacts[]): { startUs: number; untilUs: number } {
    for (const { at, duration, key } of samples) {
      this.#count++;
      this.#endUs = Math.max(this.#endUs, this.#us(at + duration));
      if (!key) continue;
      this.#longestKeyGapUs = Math.max(this.#longestKeyGapUs, this.#us(at) - this.#lastKeyUs);
      this.#lastKeyUs = this.#us(at);
    }
    return { startUs: this.#us(samples[0]?.at ?? 0), untilUs: this.#endUs };
  }

  /** What recorders write has no picture that is shown before the one it is decoded after. */
  times(): PacketTimes {
    const longestKeyGapUs = Math.max(this.#longestKeyGapUs, this.#endUs - this.#lastKeyUs);
    return {
      endUs: this.#endUs,
      longestKeyGapUs,
      count: this.#count,
      hasDuration: true,
      leading: 0,
    };
  }
}

/**
 * Copies a recorded track into the file it will be played from while it still comes in, a whole fragment after
 * another, so that after the stop only the last seconds are left to be done. What is not as the recorder writes it
 * is given up here, and made at the end.
 */
export class EarlyCopying {
  readonly #job: CopyJob;
  readonly #hash = createHash('sha256');
  #ffmpeg: Running | null = null;
  #levels: Promise<LevelLine | null> = Promise.resolve(null);
  /** Listens to a sound track; it is done without where it fails. */
  #meter: LoudnessMeter | null = null;
  #times: TimesSoFar | null = null;
  readonly #fragments: WholeFragment[] = [];
  /** Up to where it has been copied, bytes of what came in. */
  #at = 0;
  #givenUp = false;
  /** One feeding after another. */
  #turn: Promise<void> = Promise.resolve();

  constructor(job: CopyJob) {
    this.#job = job;
  }

  /** Copies what has come since. Never rejects. */
  feed(): Promise<void> {
    this.#turn = this.#turn.then(() => this.#feed()).catch((error: unknown) => this.#giveUp(error));
    return this.#turn;
  }

  /** What has been copied of it; null where nothing has, or it was given up. */
  soFar(): FootageSoFar | null {
    if (this.#givenUp || this.#fragments.length === 0) return null;
    return { path: this.#job.incoming, fragments: [...this.#fragments] };
  }

  async #feed(): Promise<void> {
    if (this.#givenUp) return;
    const file = await open(this.#job.incoming, 'r').catch(() => null);
    if (!file) return;
    try {
      const { size } = await file.stat();
      const samples: SampleFacts[] = [];
      const come: Omit<WholeFragment, 'digest'>[] = [];
      let from = this.#at;
      let head: Buffer | null = null;
      for await (const box of boxesOf(file, size, this.#at)) {
        const after = box.at + box.length;
        if (box.name === 'moov' && !this.#times) {
          head = await readAt(file, box.at + box.headerBytes, after);
        } else if (box.name === 'moof') {
          const timescale = head && timescaleIn(head);
          if (timescale) this.#times ??= new TimesSoFar(timescale);
          const moof =
            box.length > MOST_MOOF_BYTES
              ? null
              : await readAt(file, box.at + box.headerBytes, after);
          const told = moof && samplesIn(moof);
          if (!told || !this.#times) return await this.#giveUp('a fragment of another form');
          samples.push(...told);
          from = box.at;
        } else if (box.name === 'mdat') {
          if (this.#times) {
            come.push({ from, end: after, ...this.#times.add(samples.splice(0)) });
          }
        } else if (this.#at > 0) return await this.#giveUp(`a ${box.name} between fragments`);
      }
      for (const fragment of come) await this.#copy(file, fragment);
    } finally {
      await file.close();
    }
  }

  async #copy(file: FileHandle, fragment: Omit<WholeFragment, 'digest'>): Promise<void> {
    this.#ffmpeg ??= this.#start();
    while (this.#at < fragment.end) {
      const bytes = await readAt(file, this.#at, Math.min(fragment.end, this.#at + READ_BYTES));
      this.#hash.update(bytes);
      await feed(this.#ffmpeg, bytes);
      await this.#meter?.feed(bytes).catch(() => this.#dropMeter());
      this.#at += bytes.length;
    }
    this.#fragments.push({ ...fragment, digest: this.#hash.copy().digest('hex') });
  }

  #start(): Running {
    const { medium, copy, draft } = this.#job;
    const sound = medium === 'sound';
    const heard = `${onTheClock(LEVEL_SOUND.rate)},asetpts=N/SR/TB`;
    const ffmpeg = start(
      'ffmpeg',
      [
        ...['-copyts', ...openOptions({ path: 'pipe:0', demuxer: 'mov' }), '-i', 'pipe:0'],
        ...['-map', '0:0', '-map_metadata', '-1', '-map_chapters', '-1', ...copy],
        ...['-avoid_negative_ts', 'disabled', '-f', 'mp4', draft],
        ...(sound ? ['-map', '0:a:0', '-af', heard] : []),
        ...(sound ? ['-ac', String(LEVEL_SOUND.channels), '-f', 'f32le', 'pipe:1'] : []),
      ],
      undefined,
      { deadlineMs: DEADLINE_MS, memoryBytes: 3e9 },
    );
    if (sound) {
      this.#levels = levelsOf(ffmpeg).catch(() => null);
      this.#meter = new LoudnessMeter('mov', { deadlineMs: DEADLINE_MS, memoryBytes: 3e9 });
    } else ffmpeg.stdout.resume();
    return ffmpeg;
  }

  #dropMeter(): void {
    this.#meter?.drop();
    this.#meter = null;
  }

  async #loudness(): Promise<Loudness | null> {
    const lufs = await this.#meter?.end().catch(() => undefined);
    return lufs === undefined ? null : { lufs };
  }

  /**
   * Copies what is left, and ends. Null when nothing has come, or it could not be copied.
   *
   * @param signal breaks it off
   */
  async finish(signal: AbortSignal): Promise<EarlyCopy | null> {
    const breakOff = () => {
      this.#ffmpeg?.kill();
      this.#meter?.drop();
    };
    signal.addEventListener('abort', breakOff, { once: true });
    try {
      await this.feed();
      if (signal.aborted || this.#givenUp || !this.#ffmpeg || !this.#times) {
        await this.drop();
        return null;
      }
      this.#ffmpeg.stdin.end();
      const [levels, loudness] = await Promise.all([this.#levels, this.#loudness()]);
      await this.#ffmpeg.ended;
      await forceToDisk(this.#job.draft);
      const media: MediaFile = { path: this.#job.draft, demuxer: 'mov' };
      return {
        media,
        times: this.#times.times(),
        ...{ levels, loudness },
        wholeBytes: this.#at,
        digest: this.#hash.digest('hex'),
        marks: this.#fragments.map(({ untilUs, digest }) => ({ untilUs, digest })),
      };
    } catch (error) {
      if (!signal.aborted) this.#job.onGivenUp(error);
      await this.drop();
      return null;
    } finally {
      signal.removeEventListener('abort', breakOff);
    }
  }

  async #giveUp(why: unknown): Promise<void> {
    this.#job.onGivenUp(why);
    await this.#end();
  }

  async #end(): Promise<void> {
    this.#givenUp = true;
    this.#dropMeter();
    this.#ffmpeg?.kill();
    await this.#ffmpeg?.ended.catch(() => undefined);
    await rm(this.#job.draft, { force: true });
  }

  /** Ends it, and removes what was made. */
  async drop(): Promise<void> {
    this.#ffmpeg?.kill();
    await this.#turn;
    await this.#end();
  }
}
