import { TellableError } from '@under-chalk/core/errors/errors';
import { setTimeout as wait } from 'node:timers/promises';

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

/** Who guesses: an address, and the mark of a browser in which the teacher has signed in before. */
export interface Guesser {
  readonly address: string;
  readonly knownMark: string | null;
}

/** One caller's guesses: one after another. */
interface Line {
  wrong: number;
  waiting: number;
  lastMs: number;
  turn: Promise<unknown>;
}

export interface Clock {
  now(): number;
  wait(ms: number): Promise<unknown>;
}

/**
 * Checks guesses at a secret. Nobody is locked out by guesses of others: a caller who has guessed wrong is made to
 * wait, longer each time, and is then heard all the same. One guess is checked at a time (checking a passphrase is
 * slow on purpose), each caller's in its own line, so that no caller takes the others' turns. A browser in which
 * the teacher has signed in before has a line of its own, and doesn't wait behind strangers.
 */
export class Guesses {
  readonly #clock: Clock;
  readonly #lines = new Map<string, Line>();
  readonly #checks = { known: Promise.resolve(), stranger: Promise.resolve() } as Record<
    'known' | 'stranger',
    Promise<unknown>
  >;

  constructor(clock: Clock = { now: () => Date.now(), wait }) {
    this.#clock = clock;
  }

  /**
   * @param isRight told nothing of who guesses
   * @throws TellableError `wrong`; `too-many-tries` when the caller has others waiting already
   */
  async check(
    { address, knownMark }: Guesser,
    isRight: () => Promise<boolean>,
    wrong: 'wrong-passphrase' | 'wrong-code' | 'wrong-number',
  ): Promise<void> {
    const line = this.#lineOf(knownMark ? `browser ${knownMark}` : `address ${address}`);
    const callers = [...this.#lines.values()].filter(({ waiting }) => waiting > 0).length;
    if (line.waiting >= MOST_OF_ONE || (!knownMark && callers >= MOST_CALLERS)) {
      throw new TellableError('too-many-tries');
    }
    line.waiting++;
    const turn = line.turn.then(async () => {
      await this.#slowDown(line);
      const right = await this.#inTurn(knownMark ? 'known' : 'stranger', isRight);
      line.wrong = right ? 0 : line.wrong + 1;
      line.lastMs = this.#clock.now();
      return right;
    });
    line.turn = turn.catch(() => undefined);
    try {
      if (!(await turn)) throw new TellableError(wrong);
    } finally {
      line.waiting--;
    }
  }

  #lineOf(name: string): Line {
    const present = this.#lines.get(name);
    const line = present ?? { wrong: 0, waiting: 0, lastMs: 0, turn: Promise.resolve() };
    if (line.waiting === 0 && this.#clock.now() - line.lastMs > FORGET_MS) line.wrong = 0;
    this.#lines.delete(name);
    this.#lines.set(name, line);
    for (const [other, { waiting }] of this.#lines) {
      if (this.#lines.size <= MOST_KNOWN) break;
      if (waiting === 0 && other !== name) this.#lines.delete(other);
    }
    return line;
  }

  async #slowDown({ wrong, lastMs }: Line): Promise<void> {
    if (wrong < FREE) return;
    const all = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (wrong - FREE));
    const left = lastMs + all - this.#clock.now();
    if (left > 0) await this.#clock.wait(left);
  }

  async #inTurn<T>(of: 'known' | 'stranger', work: () => Promise<T>): Promise<T> {
    const turn = this.#checks[of].then(work);
    this.#checks[of] = turn.catch(() => undefined);
    return turn;
  }
}
