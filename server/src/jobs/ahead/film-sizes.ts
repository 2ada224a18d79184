import type { ToldSize } from '@under-chalk/core/contract/films';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { PieceCache } from '@under-chalk/render';
import type { Config, Shipped } from '../../config';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import { planOfLesson } from '../film-work';
import { heavyWork } from '../heavy-work';
import { madeSoFar } from '../made-so-far';
import type { Calm } from '../readings/calm';
import { runThread } from '../run-thread';
import { makeSample, type SampleWork } from './make-sample';

/** Nobody wants to know any more what they haven't asked for so long, ms. */
const WANTED_MS = 10_000;

interface Round {
  readonly key: string;
  readonly stop: AbortController;
  readonly over: Promise<void>;
  wanted: NodeJS.Timeout;
}

interface SizesParts {
  readonly media: MediaStore;
  readonly config: Config;
  readonly shipped: Shipped;
  readonly log: Log;
  readonly calm: Calm;
  /** Whether nobody waits for a film. */
  readonly isIdle: () => boolean;
}

/**
 * How large films get before they are made: by pieces of them that are there, and where those are too few, by some that are made to know
 * it, for as long as somebody asks. One film at a time, giving way to everything.
 */
export class FilmSizes {
  readonly #parts: SizesParts;
  readonly #cache: PieceCache;
  /** What couldn't be found out: it isn't tried again before something changes. */
  readonly #failed = new Set<string>();
  #round: Round | null = null;
  #closed = false;

  constructor(parts: SizesParts) {
    this.#parts = parts;
    this.#cache = new PieceCache(parts.config.folders.chunks);
  }

  /** Of a lesson as it is now. Asked for, it is begun. @throws AppError `footage-missing` */
  async told(lesson: Lesson, size: PictureSize): Promise<ToldSize> {
    const key = JSON.stringify([lesson.id, lesson.revision, lesson.takes.length, size]);
    if (this.#round?.key === key) {
      this.#round.wanted.refresh();
      return { made: null, looking: true };
    }
    const { plan, film } = await planOfLesson(lesson, size, this.#parts.media);
    const made = await madeSoFar(plan.manifest.chunks, film.durationUs, lesson, this.#cache);
    const can = film.frames > 0 && !this.#failed.has(key) && this.#parts.isIdle() && !this.#closed;
    if (made || !can) return { made, looking: false };
    if (this.#round?.key !== key) this.#begin(key, lesson, size);
    return { made: null, looking: true };
  }

  /** Somebody waits for a film: nothing is made beside it. */
  stop(): void {
    this.#round?.stop.abort(new Error('a film is being made'));
  }

  async close(): Promise<void> {
    this.#closed = true;
    this.stop();
    await this.#round?.over;
  }

  #begin(key: string, sampled: Lesson, size: PictureSize): void {
    this.stop();
    const before = this.#round?.over;
    const stop = new AbortController();
    const wanted = setTimeout(() => stop.abort(new Error('nobody asks any more')), WANTED_MS);
    wanted.unref();
    const { config, shipped, log } = this.#parts;
    const make = async () => {
      await before;
      await this.#parts.calm(stop.signal);
      stop.signal.throwIfAborted();
      const work: SampleWork = { sampled, size, folders: config.folders, shipped };
      const sample = (): Promise<unknown> =>
        shipped.aheadScript
          ? runThread(shipped.aheadScript, work, () => undefined, stop.signal)
          : makeSample(work, stop.signal);
      await heavyWork.run('size', sample, stop.signal);
      await this.#cache.prune(config.cacheBytes);
    };
    const over = make()
      .catch((error: unknown) => {
        if (stop.signal.aborted) return;
        this.#failed.add(key);
        log.warn(`how large a film of lesson ${sampled.id} gets can’t be told`, error);
      })
      .finally(() => {
        clearTimeout(wanted);
        if (this.#round?.stop === stop) this.#round = null;
      });
    this.#round = { key, stop, over, wanted };
  }
}
