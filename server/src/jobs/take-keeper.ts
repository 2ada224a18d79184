import type { Folders } from '../config';
import type { TakeStore } from '../store/take-store';
import { settleTake } from './settle-take';

/** A take that is being recorded and has not been heard of for this long was cut short. */
const SILENT_MS = 30_000;
const SWEEP_MS = 5_000;

/**
 * Settles takes one after another: those that were stopped, those whose recorder has vanished, and
 * at the start those that a killed server left behind.
 */
export class TakeKeeper {
  readonly #takes: TakeStore;
  readonly #folders: Folders;
  readonly #log: (message: string, error?: unknown) => void;
  /** Takes to be settled, each once, in the order they came. */
  readonly #waiting: string[] = [];
  #work: {
    readonly takeId: string;
    readonly breakOff: AbortController;
    readonly done: Promise<void>;
  } | null = null;
  readonly #stop = new AbortController();
  #sweep: NodeJS.Timeout | null = null;

  constructor(takes: TakeStore, folders: Folders, log: (message: string, error?: unknown) => void) {
    this.#takes = takes;
    this.#folders = folders;
    this.#log = log;
  }

  async start(): Promise<void> {
    for (const id of await this.#takes.inState('settling')) this.#enqueue(id);
    this.#sweep = setInterval(() => void this.sweep(), SWEEP_MS);
    this.#sweep.unref();
  }

  async close(): Promise<void> {
    if (this.#sweep) clearInterval(this.#sweep);
    this.#stop.abort(new Error('the server is stopping'));
    await this.#work?.done;
  }

  /** Ends takes whose recorder has vanished. `now` in ms since 1970. */
  async sweep(now = Date.now()): Promise<void> {
    try {
      for (const id of await this.#takes.silentSince(now - SILENT_MS)) await this.settle(id, true);
    } catch (error) {
      this.#log('could not look after takes', error);
    }
  }

  /**
   * Marks a take as settling and puts it in line. What is being made of it at this moment is broken off:
   * more of it may have come, and it would say of the take that it is ready when it isn't.
   */
  async settle(takeId: string, cutShort: boolean): Promise<void> {
    if (this.#work?.takeId === takeId) {
      this.#work.breakOff.abort(new Error('the take is settled anew'));
      await this.#work.done;
    }
    await this.#takes.settling(takeId, cutShort);
    this.#enqueue(takeId);
  }

  #enqueue(takeId: string): void {
    if (!this.#waiting.includes(takeId)) this.#waiting.push(takeId);
    this.#next();
  }

  #next(): void {
    const takeId = this.#work || this.#stop.signal.aborted ? undefined : this.#waiting.shift();
    if (takeId === undefined) return;
    const breakOff = new AbortController();
    const done = this.#settle(takeId, AbortSignal.any([this.#stop.signal, breakOff.signal])).then(
      () => {
        this.#work = null;
        this.#next();
      },
    );
    this.#work = { takeId, breakOff, done };
  }

  async #settle(takeId: string, signal: AbortSignal): Promise<void> {
    try {
      await settleTake(this.#takes, this.#folders, takeId, this.#log, signal);
    } catch (error) {
      if (signal.aborted) return;
      // It stays in `settling` and is tried again at the next start: the disk may be full.
      this.#log(`take ${takeId} could not be settled`, error);
    }
  }
}
