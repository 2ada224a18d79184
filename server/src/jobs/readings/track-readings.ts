import type { Take, Track } from '@under-chalk/core/lesson/take';
import type { MediaFile } from '@under-chalk/render';
import type { LimitFunction } from 'p-limit';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import type { TakeStore } from '../../store/take-store';
import { heavyWork } from '../heavy-work';
import { runThread } from '../run-thread';
import type { Calm } from './calm';

/** What a thread that reads a track is given. */
export interface TrackWork {
  readonly media: MediaFile;
  readonly track: Track;
  /** It came as a file, and wasn’t recorded here. */
  readonly isForeign: boolean;
}

/** A reading: with the version of how it was done, and the digest of what it was read of. */
export interface Reading {
  readonly version: number;
  readonly of: string;
}

/** A kind of reading. */
export interface ReadingKind<R extends Reading> {
  /** What can’t be done where a track can’t be read, for the log. */
  readonly failing: string;
  /** Of how it is done now: what was read in another way is read anew. */
  readonly version: number;
  /** The tracks of a take that it is a reading of. */
  tracksOf(take: Take): readonly Track[];
  /** What was read of a track; null where nothing was, or of something else than it is now. */
  readingOf(media: MediaStore, track: Track): Promise<R | null>;
  keep(media: MediaStore, track: Track, reading: R): Promise<void>;
}

export interface ReadingParts {
  readonly takes: TakeStore;
  readonly media: MediaStore;
  /** The built thread that reads a track; empty: nothing is read. */
  readonly script: string;
  readonly log: Log;
  /** Shared by kinds of which one is read at a time. */
  readonly inTurn: LimitFunction;
  readonly calm: Calm;
}

/** How it stands with the reading of a track. */
export type ReadingState<R> =
  | { readonly is: 'found'; readonly reading: R }
  /** How much has been looked at, 0 to 1. */
  | { readonly is: 'looking'; readonly share: number }
  /** There is nothing to be read, or it can’t be. */
  | { readonly is: 'none' };

/**
 * Reads tracks one after the other, once they are ready: measured once, and kept with the version of how it is done. What can't be
 * read is not tried again before the next start.
 */
export class TrackReadings<R extends Reading> {
  protected readonly parts: ReadingParts;
  readonly #kind: ReadingKind<R>;
  /** Tracks that are waited for, with how much of each has been looked at. */
  readonly #waiting = new Map<string, number>();
  /** Tracks that couldn't be read as they are. */
  readonly #failed = new Set<string>();
  readonly #over = new Set<Promise<void>>();
  readonly #stopping = new AbortController();

  constructor(kind: ReadingKind<R>, parts: ReadingParts) {
    this.#kind = kind;
    this.parts = parts;
  }

  /** Takes up what hasn't been read yet, or was in another way. */
  async start(): Promise<void> {
    for (const id of await this.parts.takes.inState('ready')) await this.ready(id);
  }

  async close(): Promise<void> {
    this.#stopping.abort(new Error('the server is stopping'));
    await Promise.all(this.#over);
  }

  /** A take has become ready, perhaps with other media than before. Never rejects. */
  async ready(takeId: string): Promise<void> {
    const { takes, media, script, log } = this.parts;
    if (script === '') return;
    try {
      const take = await takes.get(takeId);
      if (take.state !== 'ready') return;
      for (const track of this.#kind.tracksOf(take)) {
        const reading = await this.#kind.readingOf(media, track);
        // It may have other media than the one that couldn't be read.
        this.#failed.delete(track.id);
        if (reading?.version !== this.#kind.version) this.#want(takeId, track.id);
      }
    } catch (error) {
      log.error(`take ${takeId}: could not see whether it is to be read`, error);
    }
  }

  /** How it stands with a track of a take. */
  protected async stateOfTrack(take: Take, track: Track): Promise<ReadingState<R>> {
    const reading = await this.#kind.readingOf(this.parts.media, track);
    if (reading) return { is: 'found', reading };
    const isOver = take.state === 'unusable' || this.#failed.has(track.id);
    if (isOver || this.parts.script === '') return { is: 'none' };
    // Ready since a moment ago: it is wanted before anybody is told of it.
    if (take.state === 'ready') this.#want(take.id, track.id);
    return { is: 'looking', share: this.#waiting.get(track.id) ?? 0 };
  }

  #want(takeId: string, trackId: string): void {
    if (this.#waiting.has(trackId) || this.#stopping.signal.aborted) return;
    this.#waiting.set(trackId, 0);
    const over = this.parts
      .inTurn(() => this.#read(takeId, trackId))
      .finally(() => {
        this.#waiting.delete(trackId);
        this.#over.delete(over);
      });
    this.#over.add(over);
  }

  /** Never rejects. */
  async #read(takeId: string, trackId: string): Promise<void> {
    const { takes, media, script, log, calm } = this.parts;
    const { signal } = this.#stopping;
    try {
      await calm(signal);
      if (signal.aborted) return;
      const take = await takes.get(takeId);
      const track = this.#kind.tracksOf(take).find(({ id }) => id === trackId);
      if (!track) return;
      const isForeign = take.source === 'film';
      const work: TrackWork = { media: media.media(trackId), track, isForeign };
      const onProgress = (share: number) => this.#waiting.set(trackId, share);
      const read = () => runThread<R>(script, work, onProgress, signal);
      await this.#kind.keep(media, track, await heavyWork.run('reading', read, signal));
    } catch (error) {
      if (signal.aborted) return;
      this.#failed.add(trackId);
      log.warn(`take ${takeId}: its ${this.#kind.failing}`, error);
    }
  }
}
