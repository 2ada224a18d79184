import { TellableError } from '@under-chalk/core/errors/errors';
import { TryLimit } from './try-limit';

const FIVE_MINUTES = 300_000;
/** Guesses of one caller, of one known browser, and of all unknown callers together. */
const OF_ONE = 5;
const OF_ALL = 60;
/** Callers that may wait for theirs to be checked. */
const MOST_WAITING = 20;

/** Who guesses: an address, and the mark of a browser in which the teacher has signed in before. */
export interface Guesser {
  readonly address: string;
  readonly knownMark: string | null;
}

/**
 * Checks guesses at a secret. Each is counted before it is checked, one is checked at a time (checking a
 * passphrase is slow on purpose), and unknown callers share a limit besides their own, so that many
 * addresses are no way round it. A browser in which the teacher has signed in before is counted by itself:
 * what strangers do doesn't lock the teacher out.
 */
export class Guesses {
  readonly #each = new TryLimit(OF_ONE, FIVE_MINUTES);
  readonly #all = new TryLimit(OF_ALL, FIVE_MINUTES);
  #waiting = 0;
  #turn: Promise<unknown> = Promise.resolve();

  /**
   * @param isRight told nothing of who guesses
   * @throws TellableError `too-many-tries`, or `wrong`
   */
  async check(
    { address, knownMark }: Guesser,
    isRight: () => Promise<boolean>,
    wrong: 'wrong-passphrase' | 'wrong-code',
  ): Promise<void> {
    if (this.#waiting >= MOST_WAITING) throw new TellableError('too-many-tries');
    const name = knownMark ? `browser ${knownMark}` : `address ${address}`;
    this.#each.count(name);
    if (!knownMark) this.#all.count('everybody');
    if (!(await this.#inTurn(isRight))) throw new TellableError(wrong);
    this.#each.forget(name);
  }

  async #inTurn<T>(work: () => Promise<T>): Promise<T> {
    this.#waiting++;
    const turn = this.#turn.then(work).finally(() => {
      this.#waiting--;
    });
    this.#turn = turn.catch(() => undefined);
    return turn;
  }
}
