import { call, codeOf } from '../../data/client';
import { LiveValue } from '../../data/live-value';
import { openStore } from '../store/open-store';
import type { KeptTake, PieceStore } from '../store/piece-store';
import { withTake } from '../store/take-lock';
import { finishTake } from './finish-take';
import { makeTake } from './make-take';
import { StoredTrack } from './stored-track';
import { TrackSender } from './track-sender';

const LOOK_MS = 3_000;
const FIGURES_MS = 500;

/** A take of which something lay in this browser when it was looked for, and how it stands with it. */
export interface Unsent {
  readonly takeId: string;
  readonly lessonId: string;
  readonly lessonTitle: string;
  readonly recordedUs: number;
  /** The stop button was pressed. If not, the tab or the browser ended in the middle. */
  readonly stopped: boolean;
  /**
   * - `waiting`: another tab is at it, or the server can't be reached
   * - `refused`: the server does not take it; it stays here
   */
  readonly state: 'sending' | 'waiting' | 'done' | 'refused';
  /** 0 to 1. */
  readonly done: number;
}

/**
 * Brings to the server what was recorded and has not got there: after a crash, a closed tab, a lost
 * connection. It looks into the browser's store when the app opens and now and then afterwards, and asks
 * nobody; over any number of reloads it goes on from where the server stands.
 */
export class CatchUp {
  readonly #shown = new LiveValue<readonly Unsent[]>([]);
  readonly #onFinished: (lessonId: string) => void;
  #timer: ReturnType<typeof setInterval> | null = null;
  #busy = new Set<string>();
  #closed = new AbortController();

  /** @param onFinished told when a take of a lesson has been brought over */
  constructor(onFinished: (lessonId: string) => void) {
    this.#onFinished = onFinished;
  }

  readonly subscribe = this.#shown.subscribe;
  readonly view = this.#shown.view;

  open(): void {
    this.#closed = new AbortController();
    void this.look();
    this.#timer = setInterval(() => void this.look(), LOOK_MS);
  }

  close(): void {
    if (this.#timer) clearInterval(this.#timer);
    this.#closed.abort();
  }

  /** Takes a finished one off the list: the teacher has seen it. */
  dismiss(takeId: string): void {
    this.#shown.set(this.view().filter((unsent) => unsent.takeId !== takeId));
  }

  /** Looks for takes that nobody is recording or sending, and sends them. */
  async look(): Promise<void> {
    const store = await openStore();
    if (!store) return;
    const takes = await store.takes();
    const signal = this.#closed.signal;
    for (const kept of takes) {
      if (this.#busy.has(kept.take.id) || signal.aborted) continue;
      this.#busy.add(kept.take.id);
      void withTake(kept.take.id, () => this.#send(store, kept.take.id, signal))
        .catch((error: unknown) => console.error('a take could not be sent', kept.take.id, error))
        .finally(() => this.#busy.delete(kept.take.id));
    }
    // One that another tab has finished is done here too.
    const here = new Set(takes.map((kept) => kept.take.id));
    for (const unsent of this.view()) {
      if (unsent.state !== 'done' && !here.has(unsent.takeId)) {
        this.#change(unsent.takeId, { state: 'done', done: 1 });
        this.#onFinished(unsent.lessonId);
      }
    }
  }

  async #send(store: PieceStore, takeId: string, signal: AbortSignal): Promise<void> {
    // Read again under the lock: it may have been finished, or noted anew, in between.
    const kept = await store.take(takeId);
    if (!kept) return;
    this.#add(kept);
    const present = await call('take', { params: { takeId } }).catch((error: unknown) => {
      if (codeOf(error) === 'not-found') return null;
      this.#change(takeId, { state: 'waiting' });
      throw error;
    });
    // It was stopped there already, with every byte: only this browser had not heard of it.
    const whole =
      (present?.state === 'ready' || present?.state === 'processing') && !present.cutShort;
    if (!whole) {
      const made = await makeTake(
        location.origin,
        kept.lessonId,
        kept.take,
        () => this.#change(takeId, { state: 'waiting' }),
        signal,
      );
      if (!made) return this.#change(takeId, { state: 'refused' });
      await this.#sendTracks(store, kept, signal);
    }
    if (signal.aborted) return;
    await finishTake(store, takeId, !kept.stopped);
    this.#change(takeId, { state: 'done', done: 1 });
    this.#onFinished(kept.lessonId);
  }

  async #sendTracks(store: PieceStore, kept: KeptTake, signal: AbortSignal): Promise<void> {
    const takeId = kept.take.id;
    const accepted = new Map<string, number>();
    const tracks = await Promise.all(
      kept.take.tracks.map(async ({ id }) => ({
        id,
        bytes: await StoredTrack.open(store, takeId, id, (bytes) => accepted.set(id, bytes)),
      })),
    );
    const all = tracks.reduce((sum, { bytes }) => sum + bytes.size, 0);
    const senders = tracks.map(({ id, bytes }) => new TrackSender(id, location.origin, bytes));
    const timer = setInterval(() => {
      const sent = [...accepted.values()].reduce((sum, bytes) => sum + bytes, 0);
      const halted = senders.some((sender) => sender.halted !== null);
      this.#change(takeId, {
        state: halted ? 'waiting' : 'sending',
        done: all > 0 ? Math.min(0.99, sent / all) : 0.99,
      });
    }, FIGURES_MS);
    const stop = () => senders.forEach((sender) => sender.stop());
    signal.addEventListener('abort', stop, { once: true });
    try {
      await Promise.race([
        Promise.all(senders.map((sender) => sender.sent)),
        new Promise<void>((resolve) => {
          signal.addEventListener('abort', () => resolve(), { once: true });
        }),
      ]);
    } catch (error) {
      stop();
      this.#change(takeId, { state: 'refused' });
      throw error;
    } finally {
      clearInterval(timer);
    }
  }

  #add(kept: KeptTake): void {
    const { lessonId, lessonTitle, recordedUs, stopped, take } = kept;
    const unsent: Unsent = {
      takeId: take.id,
      lessonId,
      lessonTitle,
      recordedUs,
      stopped,
      state: 'sending',
      done: 0,
    };
    const others = this.view().filter((present) => present.takeId !== take.id);
    this.#shown.set([...others, unsent]);
  }

  #change(takeId: string, change: Partial<Unsent>): void {
    this.#shown.set(
      this.view().map((unsent) => (unsent.takeId === takeId ? { ...unsent, ...change } : unsent)),
    );
  }
}
