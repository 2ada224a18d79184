import type { Take, Track } from '@under-chalk/core/lesson/take';
import { FINDER_VERSION, screenOf, type PointerState } from '@under-chalk/core/pointer/found';
import type { MediaFile } from '@under-chalk/render';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import type { TakeStore } from '../../store/take-store';
import { runThread } from '../run-thread';
import type { PointerReading } from './find-pointer';
import { keepReading, readingOf } from './kept-pointer';

export interface PointerWork {
  readonly media: MediaFile;
  readonly track: Track;
}

interface Looking {
  readonly takeId: string;
  share: number;
}

interface ReadingParts {
  readonly takes: TakeStore;
  readonly media: MediaStore;
  /** The built thread (`pointer-thread`); empty: nothing is looked for. */
  readonly script: string;
  readonly log: Log;
}

/**
 * Looks for the pointer in captured screens, one after the other, once they are ready: a reading, measured once and kept
 * with the version of how it is done. What can't be read is not tried again before the next start.
 */
export class PointerReadings {
  readonly #parts: ReadingParts;
  /** Takes that have been looked at, or couldn't be. */
  readonly #seen = new Set<string>();
  #waiting: string[] = [];
  #looking: Looking | null = null;
  /** The looking for one after another, for whoever waits until it is over. */
  #over: Promise<void> = Promise.resolve();
  readonly #stopping = new AbortController();

  constructor(parts: ReadingParts) {
    this.#parts = parts;
  }

  /** Takes up what hasn't been looked at yet, or was in another way. */
  async start(): Promise<void> {
    for (const id of await this.#parts.takes.inState('ready')) await this.ready(id);
  }

  async close(): Promise<void> {
    this.#stopping.abort(new Error('the server is stopping'));
    await this.#over;
  }

  /** A take has become ready, perhaps with other pictures than before. Never rejects. */
  async ready(takeId: string): Promise<void> {
    const { takes, media, script, log } = this.#parts;
    if (script === '' || this.#waiting.includes(takeId)) return;
    try {
      const take = await takes.get(takeId);
      const track = take.state === 'ready' ? screenOf(take) : undefined;
      const reading = track && (await readingOf(media, track));
      if (!track || reading?.version === FINDER_VERSION) this.#seen.add(takeId);
      else {
        this.#seen.delete(takeId);
        this.#waiting.push(takeId);
      }
    } catch (error) {
      log.error(`take ${takeId}: could not see whether its pointer is to be found`, error);
    }
    this.#next();
  }

  /** How it stands with the pointer of a take. */
  async stateOf(take: Take): Promise<PointerState> {
    const track = screenOf(take);
    const reading = track && (await readingOf(this.#parts.media, track));
    if (reading) {
      const { of: _of, ...found } = reading;
      return { is: 'found', found };
    }
    if (!track || take.state === 'unusable' || this.#seen.has(take.id)) return { is: 'none' };
    if (this.#parts.script === '') return { is: 'none' };
    return {
      is: 'looking',
      share: this.#looking?.takeId === take.id ? this.#looking.share : 0,
    };
  }

  #next(): void {
    if (this.#looking || this.#stopping.signal.aborted) return;
    const takeId = this.#waiting.shift();
    if (takeId === undefined) return;
    this.#looking = { takeId, share: 0 };
    this.#over = this.#look(this.#looking).then(() => {
      this.#looking = null;
      this.#next();
    });
  }

  /** Never rejects. */
  async #look(looking: Looking): Promise<void> {
    const { takes, media, script, log } = this.#parts;
    const { signal } = this.#stopping;
    const { takeId } = looking;
    try {
      const track = screenOf(await takes.get(takeId));
      if (!track || signal.aborted) return;
      const work: PointerWork = { media: media.media(track.id), track };
      const onProgress = (share: number) => {
        looking.share = share;
      };
      const reading = await runThread<PointerReading>(script, work, onProgress, signal);
      await keepReading(media, track, reading);
    } catch (error) {
      if (signal.aborted) return;
      log.warn(`take ${takeId}: its pointer can’t be looked for`, error);
    }
    this.#seen.add(takeId);
  }
}
