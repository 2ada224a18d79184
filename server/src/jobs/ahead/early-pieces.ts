import { destinationOf } from '@under-chalk/core/destination/destination';
import { isLeftAlone } from '@under-chalk/core/pointer/look';
import type { Id } from '@under-chalk/core/lesson/take';
import { PieceCache } from '@under-chalk/render';
import type { Config, Shipped } from '../../config';
import type { Log } from '../../log';
import type { DestinationStore } from '../../store/destination-store';
import { freeBytes } from '../../store/free-bytes';
import type { LessonStore } from '../../store/lesson-store';
import type { TakeStore } from '../../store/take-store';
import { heavyWork } from '../heavy-work';
import { runThread } from '../run-thread';
import type { FootageSoFar } from '../ingest/footage-so-far';
import { workAhead, type MadeAhead, type WorkAhead } from './work-ahead';

/** A recorder that was at ease isn't known to be any more after this long: it tells every five seconds. */
const EASE_MS = 12_000;
/** Pieces are made when so much more has been recorded, µs: a thread is started for them. */
const ROUND_US = 12_000_000;
/** So much of the film is gone through once more: what was decided about it meanwhile. */
const AGAIN_FRAMES = 300;
/** Less room than this is left to what is recorded, bytes. */
const ROOM_BYTES = 2_000_000_000;

interface Round {
  readonly takeId: Id;
  readonly stop: AbortController;
  readonly over: Promise<void>;
}

/** How far a take has been gone through. */
interface Reached {
  readonly untilUs: number;
  readonly untilFrame: number;
}

interface EarlyParts {
  readonly takes: TakeStore;
  readonly lessons: LessonStore;
  readonly destinations: DestinationStore;
  readonly config: Config;
  readonly shipped: Shipped;
  readonly log: Log;
  /** What has come of a track that is being recorded; null where that isn't known. */
  readonly soFar: (trackId: Id) => FootageSoFar | null;
  /** Whether nobody waits for a film. */
  readonly isIdle: () => boolean;
}

/**
 * Has the pieces of a film made while it is recorded, so that an untouched lesson is nearly all there at the stop: one piece after the
 * other, giving way to everything, and only while its recorder says that it leaves nothing out. One take at a time.
 */
export class EarlyPieces {
  readonly #parts: EarlyParts;
  readonly #reached = new Map<Id, Reached>();
  #round: Round | null = null;
  #ease: NodeJS.Timeout | null = null;
  #closed = false;

  constructor(parts: EarlyParts) {
    this.#parts = parts;
  }

  /** Its recorder has left nothing out since it told last: what is made may go on. */
  atEase(takeId: Id): void {
    if (this.#closed) return;
    if (this.#round && this.#round.takeId !== takeId) return;
    if (this.#ease) clearTimeout(this.#ease);
    this.#ease = setTimeout(() => void this.stop(takeId), EASE_MS);
    this.#ease.unref();
    if (this.#round) return;
    const stop = new AbortController();
    const over = this.#make(takeId, stop.signal)
      .catch((error: unknown) => {
        if (!stop.signal.aborted)
          this.#parts.log.warn(`take ${takeId}: nothing is made of it while it is recorded`, error);
      })
      .finally(() => {
        this.#round = null;
      });
    this.#round = { takeId, stop, over };
  }

  /** Its recorder is busy, or the take has ended: nothing more is made of it. */
  async stop(takeId: Id): Promise<void> {
    const round = this.#round;
    if (round?.takeId !== takeId) return;
    round.stop.abort(new Error('the recorder is busy, or has stopped'));
    await round.over;
  }

  /** A take has ended: it isn't taken up again. */
  async end(takeId: Id): Promise<void> {
    await this.stop(takeId);
    this.#reached.delete(takeId);
  }

  /** Resolves when nothing is being made. */
  async whenIdle(): Promise<void> {
    await this.#round?.over;
  }

  async close(): Promise<void> {
    this.#closed = true;
    if (this.#ease) clearTimeout(this.#ease);
    if (this.#round) await this.stop(this.#round.takeId);
  }

  /** What has come of a take; null while there is too little that is new. */
  async #come(takeId: Id): Promise<Map<Id, FootageSoFar> | null> {
    const footage = new Map<Id, FootageSoFar>();
    for (const { id } of await this.#parts.takes.tracksOf(takeId)) {
      const come = this.#parts.soFar(id);
      if (come) footage.set(id, come);
    }
    const untilUs = Math.max(
      0,
      ...[...footage.values()].map(({ fragments }) => fragments.at(-1)!.untilUs),
    );
    return untilUs < (this.#reached.get(takeId)?.untilUs ?? 0) + ROUND_US ? null : footage;
  }

  async #make(takeId: Id, signal: AbortSignal): Promise<void> {
    const { takes, lessons, destinations, config, shipped, isIdle } = this.#parts;
    const { folders, cacheBytes } = config;
    if (!isIdle() || (await takes.get(takeId)).state !== 'recording') return;
    const footage = await this.#come(takeId);
    if (!footage || (await freeBytes(folders.home)) < ROOM_BYTES) return;
    const { lesson } = await lessons.view(await takes.lessonOf(takeId));
    // A pointer in what is captured is found when it is over.
    if (!isLeftAlone(lesson.decisions.screenPointer)) return;
    const places = (await destinations.all()).destinations;
    const { untilFrame = 0 } = this.#reached.get(takeId) ?? {};
    const work: WorkAhead = {
      ...{ lesson, takeId, footage, folders, shipped },
      size: destinationOf(places, lesson.decisions.plan.destinationId).size,
      fromFrame: Math.max(0, untilFrame - AGAIN_FRAMES),
    };
    signal.throwIfAborted();
    const make = () =>
      shipped.aheadScript
        ? runThread<MadeAhead>(shipped.aheadScript, work, () => undefined, signal)
        : workAhead(work, signal);
    const made = await heavyWork.run('piece', make, signal);
    const untilUs = Math.max(
      ...[...footage.values()].map(({ fragments }) => fragments.at(-1)!.untilUs),
    );
    this.#reached.set(takeId, { untilUs, untilFrame: made.untilFrame });
    await new PieceCache(folders.chunks).prune(cacheBytes);
  }
}
