import { WHOLE_VIEW } from '@under-chalk/core/ink/ink-track';
import type { XY } from '@under-chalk/core/ink/page';
import { nowUs } from '../../capture/common-clock';
import type { LiveBoard } from './live-board';
import { MIDDLE, onPage, zoomedAt } from './page-view';

/** A step of an arrow key, and a small one with Shift: fractions of the width of what is shown. */
const STEP = 1 / 40;
const SMALL_STEP = 1 / 200;
/** One press of plus or minus. */
const NEARER = 1.25;

const WAYS: Readonly<Record<string, XY>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface Key {
  readonly key: string;
  readonly shiftKey: boolean;
}

/**
 * A hand that is moved by keys: arrows move it, Enter puts it down and lifts it again, Escape gives up what it does.
 * What is selected is moved by the arrows, and taken away by Delete.
 */
export class BoardKeys {
  readonly #board: LiveBoard;
  #at: XY | null = null;

  constructor(board: LiveBoard) {
    this.#board = board;
  }

  /** Where it is; null until a key was pressed. */
  get at(): XY | null {
    return this.#at;
  }

  /** @returns whether the key was meant for the board */
  press({ key, shiftKey }: Key): boolean {
    const board = this.#board;
    const way = WAYS[key];
    if (way) {
      this.#go(way, shiftKey ? SMALL_STEP : STEP);
      return true;
    }
    switch (key) {
      case 'Enter':
        this.#enter();
        return true;
      case 'Escape':
        if (board.isDown()) board.abandon();
        else if (board.selected().length > 0) board.select([]);
        else return false;
        return true;
      case 'Delete':
      case 'Backspace':
        board.takeAway();
        return true;
      case '+':
      case '-': {
        const { part } = board.view();
        board.show(zoomedAt(part, key === '+' ? NEARER : 1 / NEARER, MIDDLE));
        return true;
      }
      case '0':
        board.show(WHOLE_VIEW);
        return true;
      // What a presenter in the hand sends.
      case 'PageDown':
      case 'PageUp': {
        const { page, pages } = board.view();
        const to = page + (key === 'PageDown' ? 1 : -1);
        if (to >= 0 && to < pages) board.turnTo(to);
        return true;
      }
      default:
        return false;
    }
  }

  #middle(): XY {
    return onPage(this.#board.view().part, MIDDLE);
  }

  #sample() {
    const [x, y] = (this.#at ??= this.#middle());
    return { x, y, pressure: 0.5, atUs: nowUs() };
  }

  #go([x, y]: XY, step: number): void {
    const board = this.#board;
    const { tool, part, textAt } = board.view();
    const by = step / part.zoom;
    if (tool === 'select' && !board.isDown() && board.selected().length > 0) {
      return board.shift(x * by, y * by);
    }
    const from = tool === 'text' ? textAt : (this.#at ?? this.#middle());
    this.#at = [from[0] + x * by, from[1] + y * by];
    if (tool === 'point' && !board.isDown()) board.point([this.#sample()]);
    else if (tool === 'text') board.placeText(this.#at);
    else if (board.isDown()) board.move([this.#sample()]);
  }

  #enter(): void {
    const board = this.#board;
    if (board.isDown()) return board.up();
    board.down(this.#sample());
    // What wipes and what selects is done where it is.
    if (['wipe', 'wipe-part', 'select'].includes(board.view().tool)) board.up();
  }
}
