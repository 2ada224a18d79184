import type { Paper } from '@under-chalk/core/ink/pen';
import { calledName, type Material, type MaterialPage } from '@under-chalk/core/material/material';
import { newId } from '../../capture/new-id';

/** What pages can belong to besides materials, which have names of their own: what is captured, and the board. */
export const CAPTURED = 'captured';
export const BOARD = 'board';

/** A page that can be turned to. */
export interface Page {
  readonly id: string;
  /** A page of a material lies on it. */
  readonly of?: MaterialPage;
}

/** Pages that belong together, one after another. */
export interface Stack {
  readonly id: string;
  readonly name: string;
  /** What lies on its pages is more dark than light. */
  readonly dark: boolean;
  readonly pages: Page[];
  /** The page that was shown last. */
  last: number;
}

/** Under what is written over something that is captured. */
const NO_PAPER: Paper = { ruling: 'none', shade: 'light' };

const blank = (): Page => ({ id: newId() });

/** The same page of the same material has the same name, whenever it is brought in. */
const pageOf = (content: string, page: number, aspect: number): Page => ({
  id: `${content.slice(0, 24)}-${page}`,
  of: { content, page, aspect },
});

/** All that can be turned to: what is captured, the board, and materials. */
export class BoardStacks {
  readonly #all: Stack[];

  /** @param over what is captured lies under it all */
  constructor(over: boolean) {
    const stack = (id: string, name: string, pages: Page[]): Stack => ({
      ...{ id, name, dark: false, pages, last: 0 },
    });
    this.#all = over
      ? [stack(CAPTURED, 'What is captured', [blank()]), stack(BOARD, 'Board', [])]
      : [stack(BOARD, 'Board', [blank()])];
  }

  all(): readonly Stack[] {
    return this.#all;
  }

  of(id: string): Stack | undefined {
    return this.#all.find((stack) => stack.id === id);
  }

  /** What lies under the ink of a page. @param paper of blank pages */
  paperOf(stack: Stack, page: Page, paper: Paper): Paper {
    if (stack.id === CAPTURED) return NO_PAPER;
    // Ink has to be seen on what lies there.
    return page.of ? { ruling: 'plain', shade: stack.dark ? 'dark' : 'light' } : paper;
  }

  /** Puts a page behind one: a blank one, or what is given. @returns its place */
  insert(stack: Stack, after: number, page: Omit<Page, 'id'> = {}): number {
    stack.pages.splice(after + 1, 0, { ...blank(), ...page });
    return after + 1;
  }

  /**
   * Brings in what is ready of some materials, and takes out what is not among them.
   *
   * @param keeps whether something of a stack is still needed
   * @returns whether anything changed
   */
  bring(materials: readonly Material[], keeps: (stack: Stack) => boolean): boolean {
    const ready = materials.filter(({ state }) => state === 'ready');
    const names = new Set([CAPTURED, BOARD, ...ready.map(({ id }) => id)]);
    const before = JSON.stringify(this.#all.map(({ id }) => id));
    const kept = this.#all.filter((stack) => names.has(stack.id) || keeps(stack));
    for (const { id, name, content, aspects, dark } of ready) {
      if (kept.some((stack) => stack.id === id)) continue;
      const pages = aspects.map((aspect, page) => pageOf(content!, page, aspect));
      kept.push({ id, name: calledName(name), dark, pages, last: 0 });
    }
    this.#all.splice(0, this.#all.length, ...kept);
    return before !== JSON.stringify(this.#all.map(({ id }) => id));
  }
}
