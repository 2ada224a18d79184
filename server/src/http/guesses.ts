import { AppError } from '@under-chalk/core/errors/errors';
import { setTimeout as wait } from 'node:timers/promises';
import { turns } from '../jobs/turns';

/** Wrong guesses of one caller that are answered at once; each one more makes the next wait twice as long. */
const FREE = 5;
const FIRST_WAIT_MS = 1_000;
const LONGEST_WAIT_MS = 20_000;
/** A caller who has been quiet for this long begins anew. */
const FORGET_MS = 300_000;
/** Guesses of one caller, and callers, that may wait at a time. */
const MOST_OF_ONE = 3;
const MOST_CALLERS = 200;
/** Callers remembered at a time: those who tried longest ago are forgotten first. */
const MOST_KNOWN = 10_000;

/** More checks than a process does. */
const MOST_CHECKS = 1e9;

/** Who guesses: an address, and the mark of a browser in which the teacher has signed in before. */
export interface Guesser {
  readonly address: string;
  readonly knownMark: string | null;
}

/** A guess that hasn't been answered. */
interface Guess {
  /** It is being checked: from now on it is answered in any case. */
  isChecked: boolean;
  /** Rejects when a newer guess takes its place. */
  readonly displaced: Promise<never>;
  readonly displace: () => void;
}

/** One caller's guesses: one after another. */
interface Line {
  wrong: number;
  readonly waiting: Guess[];
  lastMs: number;
  turn: Promise<unknown>;
}

const newGuess = (): Guess => {
  let displace = () => {};
  const displaced = new Promise<never>((_, reject) => {
    displace = () => reject(new AppError('too-many-tries'));
  });
  // Nobody may be waiting for it any more.
  displaced.catch(() => undefined);
  return { isChecked: false, displaced, displace };
};

export interface Clock {
  now(): number;
  wait(ms: number): Promise<unknown>;
}

/** Turns at checking, one at a time: fewest wrong guesses first, then newest first. */
const checks = () =>
  turns<{ readonly wrong: number; readonly nth: number }>(
    1,
    ({ wrong, nth }) => wrong * MOST_CHECKS - nth,
  );

/**
 * Checks guesses at a secret. Nobody is locked out by guesses of others: a caller who has guessed wrong is made to
 * wait, longer each time, and is then heard all the same. One guess is checked at a time (checking a passphrase is
 * slow on purpose), each caller's in its own line, so that no caller takes the others' turns. Callers with fewer wrong guesses are checked
 * first, so a new browser doesn't wait behind two hundred guessing addresses. A browser in which the teacher has signed in before
 * has a line of its own, and doesn't wait behind strangers.
 */
export class Guesses {
  readonly #clock: Clock;
  readonly #lines = new Map<string, Line>();
  readonly #takeCheck = { known: checks(), stranger: checks() };
  #nth = 0;

  constructor(clock: Clock = { now: () => Date.now(), wait }) {
    this.#clock = clock;
  }

  /**
   * @param isRight told nothing of who guesses
   * @throws AppError `wrong`; `too-many-tries` when the caller sends others while this one waits: the newest are heard, for
   *   whoever mistyped corrects themselves
   */
  async check(
    { address, knownMark }: Guesser,
    isRight: () => Promise<boolean>,
    wrong: 'wrong-passphrase' | 'wrong-code' | 'wrong-pin',
  ): Promise<void> {
    const line = this.#lineOf(knownMark ? `browser ${knownMark}` : `address ${address}`);
    if (!knownMark) this.#makeRoom(line);
    const guess = newGuess();
    line.waiting.push(guess);
    if (line.waiting.length > MOST_OF_ONE) {
      const oldest = line.waiting.findIndex(({ isChecked }) => !isChecked);
      for (const displaced of line.waiting.splice(oldest, 1)) displaced.displace();
    }
    const turn = line.turn.then(async () => {
      await Promise.race([guess.displaced, this.#slowDown(line)]);
      guess.isChecked = true;
      const takeCheck = this.#takeCheck[knownMark ? 'known' : 'stranger'];
      const giveBack = await takeCheck({ wrong: line.wrong, nth: this.#nth++ });
      const right = await isRight().finally(giveBack);
      line.wrong = right ? 0 : line.wrong + 1;
      line.lastMs = this.#clock.now();
      return right;
    });
    line.turn = turn.catch(() => undefined);
    try {
      if (!(await Promise.race([turn, guess.displaced]))) throw new AppError(wrong);
    } finally {
      const at = line.waiting.indexOf(guess);
      if (at >= 0) line.waiting.splice(at, 1);
    }
  }

  #lineOf(name: string): Line {
    const present = this.#lines.get(name);
    const line = present ?? { wrong: 0, waiting: [], lastMs: 0, turn: Promise.resolve() };
    if (line.waiting.length === 0 && this.#clock.now() - line.lastMs > FORGET_MS) line.wrong = 0;
    this.#lines.delete(name);
    this.#lines.set(name, line);
    for (const [other, { waiting }] of this.#lines) {
      if (this.#lines.size <= MOST_KNOWN) break;
      if (waiting.length === 0 && other !== name) this.#lines.delete(other);
    }
    return line;
  }

  async #slowDown({ wrong, lastMs }: Line): Promise<void> {
    if (wrong < FREE) return;
    const all = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (wrong - FREE));
    const left = lastMs + all - this.#clock.now();
    if (left > 0) await this.#clock.wait(left);
  }

  /** Makes room for a caller by rejecting the waiting one with the most wrong guesses. @throws AppError `too-many-tries` */
  #makeRoom(line: Line): void {
    const waiting = [...this.#lines.values()].filter((other) => other.waiting.length > 0);
    if (line.waiting.length > 0 || waiting.length < MOST_CALLERS) return;
    const worst = waiting
      .filter(({ wrong, waiting: all }) => wrong > line.wrong && all.some((one) => !one.isChecked))
      .reduce<Line | null>((most, one) => (most && most.wrong >= one.wrong ? most : one), null);
    if (!worst) throw new AppError('too-many-tries');
    for (const guess of worst.waiting.filter(({ isChecked }) => !isChecked)) guess.displace();
    worst.waiting.length = 0;
  }
}
