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
  #line: Promise<void> = Promise.resolve();
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
    await this.#line;
  }

  /** Ends takes whose recorder has vanished. `now` in ms since 1970. */
  async sweep(now = Date.now()): Promise<void> {
    try {
      for (const id of await this.#takes.silentSince(now - SILENT_MS)) await this.settle(id, true);
    } catch (error) {
      this.#log('could not look after takes', error);
    }
  }

  /** Marks a take as settling and puts it in line. */
  async settle(takeId: string, cutShort: boolean): Promise<void> {
    await this.#takes.settling(takeId, cutShort);
    this.#enqueue(takeId);
  }

  #enqueue(takeId: string): void {
    this.#line = this.#line.then(async () => {
      if (this.#stop.signal.aborted) return;
      try {
        await settleTake(this.#takes, this.#folders, takeId, this.#log, this.#stop.signal);
      } catch (error) {
        if (this.#stop.signal.aborted) return;
        // It stays in `settling` and is tried again at the next start: the disk may be full.
        this.#log(`take ${takeId} could not be settled`, error);
      }
    });
  }
}
