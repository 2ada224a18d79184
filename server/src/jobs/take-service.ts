import { AppError } from '@under-chalk/core/errors/errors';
import type { Take } from '@under-chalk/core/lesson/take';
import { FfmpegTimeout, isDiskFull } from '@under-chalk/render';
import type { Log } from '../log';
import type { MediaStore } from '../store/media-store';
import type { TakeStore } from '../store/take-store';
import { heavyWork, type Purpose } from './heavy-work';
import type { FootageSoFar } from './ingest/footage-so-far';
import { EarlyCopies } from './ingest/early-copies';
import { ingestTake } from './ingest/ingest-take';

/** A take that is being recorded and has not been heard of for this long was cut short. */
const SILENT_MS = 30_000;
const SWEEP_MS = 5_000;
/** A take that a full disk or a time limit left unsettled is tried again after this long. */
const AGAIN_MS = 10_000;
/** How often a take may reach a time limit: then it is used without the track that did. */
const MOST_TIMEOUTS = 2;

interface Work {
  readonly takeId: string;
  readonly breakOff: AbortController;
  readonly done: Promise<void>;
  /** About how much of it is made, 0 to 1. */
  share: number;
}

/** What is told of takes. */
interface TakeServiceEvents {
  /** No more of it comes: it is about to be processed, and what came may be let go of. Waited for. */
  readonly ended?: (takeId: string) => Promise<void>;
  /** It has been processed. */
  readonly ready?: (takeId: string) => void;
}

/** Takes that are processed a few side by side, each once, begun in the order they came. */
interface Lane {
  readonly atOnce: number;
  readonly purpose: Purpose;
  readonly waiting: string[];
  readonly works: Work[];
}

/** A take that was recorded here is mostly copied; a film that was brought in keeps several cores busy. */
const RECORDINGS_AT_ONCE = 3;
const FILMS_AT_ONCE = 1;

/**
 * Processes takes: those that were stopped, those whose recorder has vanished, and at the start those that a
 * killed server left behind. Recordings don't wait for films that were brought in, which can take long.
 */
export class TakeService {
  readonly #takes: TakeStore;
  readonly #media: MediaStore;
  readonly #log: Log;
  readonly #early: EarlyCopies;
  readonly #lanes: { readonly recordings: Lane; readonly films: Lane } = {
    recordings: { atOnce: RECORDINGS_AT_ONCE, purpose: 'recording', waiting: [], works: [] },
    films: { atOnce: FILMS_AT_ONCE, purpose: 'import', waiting: [], works: [] },
  };
  /** Takes that could not be processed, and when they are tried again, ms since 1970. */
  readonly #again = new Map<string, number>();
  /** How often each take reached a time limit. */
  readonly #timeouts = new Map<string, number>();
  readonly #stop = new AbortController();
  #sweep: NodeJS.Timeout | null = null;

  readonly #on: TakeServiceEvents;

  constructor(takes: TakeStore, media: MediaStore, log: Log, on: TakeServiceEvents = {}) {
    this.#on = on;
    this.#takes = takes;
    this.#media = media;
    this.#log = log;
    this.#early = new EarlyCopies(takes, media, log);
  }

  async start(): Promise<void> {
    await this.#media.clearDrafts();
    // Those that are being recorded are given the time to be heard of again.
    await this.#takeUp(Date.now());
    this.#sweep = setInterval(() => void this.sweep(), SWEEP_MS);
    this.#sweep.unref();
  }

  async close(): Promise<void> {
    if (this.#sweep) clearInterval(this.#sweep);
    this.#stop.abort(new Error('the server is stopping'));
    await Promise.all(this.#all().flatMap(({ works }) => works.map(({ done }) => done)));
    await this.#early.close();
  }

  #all(): Lane[] {
    return Object.values(this.#lanes);
  }

  #laneOf({ source }: Take): Lane {
    return source === 'film' ? this.#lanes.films : this.#lanes.recordings;
  }

  /**
   * Ends takes whose recorder has vanished, and takes up those that should be processed and aren't: whatever
   * kept them from it (a full disk, a killed server). What comes in of the others is copied. Never rejects. `now` in ms since 1970.
   */
  async sweep(now = Date.now()): Promise<void> {
    try {
      for (const id of await this.#takes.silentSince(now - SILENT_MS)) await this.ingest(id, true);
      await this.#takeUp(now);
      await this.#early.grow();
    } catch (error) {
      this.#log.error('could not look after takes', error);
    }
  }

  /** Puts those in line that should be processed and aren't. */
  async #takeUp(now: number): Promise<void> {
    for (const id of await this.#takes.inState('processing')) {
      if ((this.#again.get(id) ?? 0) <= now) this.#enqueue(await this.#takes.get(id));
    }
  }

  /** What has come of a track that is being recorded; null where that isn't known. */
  soFar(trackId: string): FootageSoFar | null {
    return this.#early.soFar(trackId);
  }

  /** About how much of each of some takes is made, 0 to 1: those that are being processed at this moment. */
  progress(takeIds: readonly string[]): Record<string, number> {
    const works = this.#all().flatMap((lane) => lane.works);
    return Object.fromEntries(
      works.flatMap(({ takeId, share }) => (takeIds.includes(takeId) ? [[takeId, share]] : [])),
    );
  }

  /**
   * Marks a take as processing and puts it in line. What is being made of it at this moment is broken off:
   * more of it may have come, and it would say of the take that it is ready when it isn't.
   */
  async ingest(takeId: string, cutShort: boolean): Promise<void> {
    await this.#on.ended?.(takeId);
    await this.#breakOff(takeId, 'the take is processed anew');
    await this.#takes.ingest(takeId, cutShort);
    this.#again.delete(takeId);
    this.#enqueue(await this.#takes.get(takeId));
  }

  /**
   * Processes a take once more from what came in, as far as that is there.
   *
   * @throws AppError `not-found`, `not-ready` for one that is being recorded or processed
   */
  async ingestAnew(takeId: string): Promise<void> {
    const take = await this.#takes.get(takeId);
    if (take.state === 'recording' || take.state === 'processing') throw new AppError('not-ready');
    const tracks = await this.#takes.tracksOf(takeId);
    if (!tracks.some(({ id }) => this.#media.hasIncoming(id))) {
      throw new AppError('not-found', `what came in of take ${takeId}`);
    }
    await this.ingest(takeId, take.cutShort);
  }

  /** Stops processing a take. What came in stays, and it can be processed anew. */
  async callOff(takeId: string): Promise<void> {
    await this.#breakOff(takeId, 'called off');
    const { state } = await this.#takes.get(takeId);
    if (state === 'processing') await this.#takes.unusable(takeId, 'called-off');
  }

  /** Takes a take out of its line. Resolves when nothing is being made of it any more. */
  async #breakOff(takeId: string, why: string): Promise<void> {
    for (const lane of this.#all()) {
      const at = lane.waiting.indexOf(takeId);
      if (at >= 0) lane.waiting.splice(at, 1);
      const work = lane.works.find((one) => one.takeId === takeId);
      work?.breakOff.abort(new Error(why));
      await work?.done;
    }
  }

  #enqueue(take: Take): void {
    const lane = this.#laneOf(take);
    if (lane.works.some(({ takeId }) => takeId === take.id) || lane.waiting.includes(take.id))
      return;
    lane.waiting.push(take.id);
    this.#next(lane);
  }

  #next(lane: Lane): void {
    const full = lane.works.length >= lane.atOnce || this.#stop.signal.aborted;
    const takeId = full ? undefined : lane.waiting.shift();
    if (takeId === undefined) return;
    const breakOff = new AbortController();
    const done = this.#ingest(
      takeId,
      lane.purpose,
      (share) => {
        work.share = share;
      },
      AbortSignal.any([this.#stop.signal, breakOff.signal]),
    ).then(() => {
      lane.works.splice(lane.works.indexOf(work), 1);
      this.#next(lane);
    });
    const work: Work = { takeId, breakOff, done, share: 0 };
    lane.works.push(work);
  }

  /** Never rejects: whatever happens, the next in line gets its turn. */
  async #ingest(
    takeId: string,
    purpose: Purpose,
    onProgress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<void> {
    try {
      const ingest = () =>
        ingestTake(
          this.#takes,
          this.#media,
          this.#early,
          takeId,
          onProgress,
          this.#log,
          signal,
          (this.#timeouts.get(takeId) ?? 0) + 1 < MOST_TIMEOUTS,
        );
      await heavyWork.run(purpose, ingest, signal);
      this.#again.delete(takeId);
      this.#timeouts.delete(takeId);
      this.#on.ready?.(takeId);
    } catch (error) {
      if (signal.aborted) return;
      // It stays in `processing`, and `sweep` takes it up again: meanwhile there may be room.
      if (!this.#again.has(takeId)) this.#log.error(`take ${takeId} could not be processed`, error);
      this.#again.set(takeId, Date.now() + AGAIN_MS);
      if (isDiskFull(error)) return;
      if (error instanceof FfmpegTimeout) {
        this.#timeouts.set(takeId, (this.#timeouts.get(takeId) ?? 0) + 1);
        return;
      }
      await this.#takes.unusable(takeId, 'take-unreadable').then(
        () => this.#again.delete(takeId),
        (failed: unknown) => this.#log.error(`take ${takeId} could not be marked`, failed),
      );
    }
  }
}
