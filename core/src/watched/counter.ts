import { MOST_SECONDS, type Played } from './seconds';

/** Longest step between two looks at where a film is, s: what is more is a jump, and wasn't watched. */
const MOST_STEP_S = 2;

/**
 * Counts which seconds of a film are played, from where it is told that it is. A second counts when the film has come to its middle and
 * played there: who only leaps from place to place has watched nothing.
 */
export class WatchCounter {
  #played: [from: number, to: number][] = [];
  #lastS: number | null = null;

  /** The film plays, and is here, s. @param speed how fast it plays */
  at(seconds: number, speed: number): void {
    const before = this.#lastS;
    this.#lastS = seconds;
    if (before === null || seconds < before || seconds - before > MOST_STEP_S * Math.max(1, speed))
      return;
    // Seconds whose middle lies between.
    const [from, to] = [Math.ceil(before - 0.5), Math.ceil(seconds - 0.5)];
    if (from >= to || to > MOST_SECONDS) return;
    const last = this.#played.at(-1);
    if (last && last[1] === from) last[1] = to;
    else this.#played.push([from, to]);
  }

  /** It was stopped, or goes on elsewhere. */
  leaves(): void {
    this.#lastS = null;
  }

  get isEmpty(): boolean {
    return this.#played.length === 0;
  }

  /** Gives what was played since it was last taken. */
  take(most: number): Played[] {
    return this.#played.splice(0, most);
  }
}
