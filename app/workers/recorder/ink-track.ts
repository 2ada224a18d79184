import { inkLine, type InkRecord } from '@under-chalk/core/ink/record';
import type { TakeClock } from '@under-chalk/core/time/take-clock';
import type { PieceLine } from './piece-line';

/** What is written goes off this often: as much is lost at most when the tab is killed, ms. */
export const INK_PIECE_MS = 500;

/**
 * What is written by hand while a take is recorded: records on its clock, a line each. They come with the time at
 * which they happened on the common clock; in a pause recorded time stands, and what is written then is there at once
 * when it goes on. What comes first is how it all stood when the take began, whenever that was told.
 */
export class InkTrack {
  readonly kind = 'ink';
  readonly trackId: string;
  readonly #clock: TakeClock;
  #line: PieceLine | null = null;
  #waiting = '';
  #lastUs = 0;
  #packets = 0;
  #begun = false;
  #writing: Promise<void> = Promise.resolve();

  constructor(trackId: string, clock: TakeClock) {
    this.trackId = trackId;
    this.#clock = clock;
  }

  /** Records so far. */
  get packets(): number {
    return this.#packets;
  }

  begin(line: PieceLine): void {
    this.#line = line;
  }

  /** @param records with their times on the common clock, µs */
  write(records: readonly InkRecord[]): void {
    const begins = !this.#begun;
    this.#begun = true;
    for (const record of records) {
      if (!begins) this.#lastUs = Math.max(this.#lastUs, this.#clock.elapsedAt(record.at));
      this.#waiting += inkLine({ ...record, at: this.#lastUs });
      this.#packets++;
    }
  }

  /** Hands on what has come, whole records only. */
  flush(): Promise<void> {
    const text = this.#waiting;
    this.#waiting = '';
    if (text !== '' && this.#line) {
      const line = this.#line;
      this.#writing = this.#writing.then(() => line.write(new TextEncoder().encode(text)));
    }
    return this.#writing;
  }

  async finish(): Promise<void> {
    await this.flush();
    this.#line?.close();
  }
}
