import type { Recovery } from '../../capture/recorder-messages';

/** An encoder that lived this long and then fails is worth another try with the same settings, µs. */
const STEADY_US = 20_000_000;

/** Settings of an encoder, best first, and which of them are used: each failure leads to others. */
export class Attempts<S> {
  readonly #settings: readonly S[];
  #at = 0;
  /** These settings have been tried anew once. */
  #again = false;

  constructor(settings: readonly S[]) {
    this.#settings = settings;
  }

  /** What to open an encoder with; undefined when all have failed. */
  get present(): S | undefined {
    return this.#settings[this.#at];
  }

  /** @param livedUs how long the encoder that failed had worked */
  failed(livedUs: number): Recovery {
    if (!this.#again || livedUs >= STEADY_US) {
      this.#again = true;
      return this.present === undefined ? 'gone' : 'again';
    }
    this.#at++;
    this.#again = false;
    return this.present === undefined ? 'gone' : 'simpler';
  }
}
