import { handOf, type HandMove } from '@under-chalk/core/ink/script/scripted-hand';
import { twelfthsScript } from '@under-chalk/core/ink/script/twelfths';
import { nowUs } from '../../capture/common-clock';
import type { LiveBoard } from './live-board';

/** Timers come late by as much; what is due meanwhile is done together, each with its own time. */
const EVERY_MS = 8;

/**
 * A simulated pen that writes the rule of twelfths on a board at the speed of a hand: to try board lessons, and to test
 * them, with no stylus. While the board isn't recorded it rests.
 */
export class PracticePen {
  readonly #board: LiveBoard;
  readonly #moves: readonly HandMove[] = handOf(twelfthsScript());
  readonly #now: () => number;
  #next = 0;
  /** When its script began, µs of the common clock, with its pauses left out. */
  #beganUs = 0;
  #restsSince: number | null = null;
  #timer: ReturnType<typeof setInterval> | undefined;
  /** The first page that it writes on. */
  #page = 0;

  /** @param now µs of the common clock */
  constructor(board: LiveBoard, now: () => number = nowUs) {
    this.#board = board;
    this.#now = now;
  }

  /** Begins to write, on the page that is shown. */
  start(): void {
    this.stop();
    this.#next = 0;
    this.#page = this.#board.view().page;
    this.#beganUs = this.#now();
    this.#timer = setInterval(() => this.#goOn(), EVERY_MS);
  }

  /** Rests, or goes on where it rested. */
  rest(rests: boolean): void {
    if (rests) this.#restsSince ??= this.#now();
    else if (this.#restsSince !== null) {
      this.#beganUs += this.#now() - this.#restsSince;
      this.#restsSince = null;
    }
  }

  stop(): void {
    clearInterval(this.#timer);
    this.#timer = undefined;
    this.#restsSince = null;
    this.#board.up();
  }

  #goOn(): void {
    if (this.#restsSince !== null) return;
    const now = this.#now() - this.#beganUs;
    for (let move = this.#moves[this.#next]; move && move.atUs <= now;) {
      this.#do(move);
      move = this.#moves[++this.#next];
    }
    if (this.#next === this.#moves.length) this.stop();
  }

  #do(move: HandMove): void {
    const board = this.#board;
    const atUs = this.#beganUs + move.atUs;
    switch (move.do) {
      case 'take':
        return board.choose({ tool: move.tool, colour: move.colour });
      case 'turn':
        return board.turnTo(this.#page + move.page);
      case 'down':
        return board.down({ x: move.x, y: move.y, pressure: move.pressure, atUs });
      case 'move':
        return board.move([{ x: move.x, y: move.y, pressure: move.pressure, atUs }]);
      case 'up':
        return board.up(atUs);
    }
  }
}
