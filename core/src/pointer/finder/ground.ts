import { BLOCK, type Changes } from './changes';
import type { Match, Pictures } from './match';

/** How far a thin shape reaches from the block that it is looked for in, at most, pixels. */
const REACH = 2 * BLOCK;
/** How far round a shape it may still be seen, pixels. */
const ROUND = 4;

/** What lies under pointers: where none is it is the picture before, and where one is what was there before it came. */
export class Ground {
  readonly #pictures: Pictures;
  readonly #changes: Changes;
  /** The picture for which the ground of each block was seen. */
  readonly #seen: Int32Array;
  /** Blocks that something that is followed lies in. */
  readonly #held: Uint8Array;
  /** Blocks of which the ground was seen while nobody knew where the pointer was. */
  readonly #doubtful: Uint8Array;

  constructor(pictures: Pictures, changes: Changes) {
    this.#pictures = pictures;
    this.#changes = changes;
    const blocks = changes.pixels.length;
    this.#seen = new Int32Array(blocks);
    this.#held = new Uint8Array(blocks);
    this.#doubtful = new Uint8Array(blocks).fill(1);
  }

  /** Sees to it that it is there round what has changed. */
  see(): void {
    const { pixels, columns, picture } = this.#changes;
    for (let block = 0; block < pixels.length; block++) {
      if (pixels[block] === 0) continue;
      const [x, y] = [(block % columns) * BLOCK, Math.floor(block / columns) * BLOCK];
      this.#changes.forBlocks(x - REACH, y - REACH, x + REACH, y + REACH, (near) => {
        if (this.#held[near] === 1 || this.#seen[near] === picture) return;
        this.#seen[near] = picture;
        this.#copy(near);
      });
    }
  }

  /** Whether a pointer may be in what is taken for the ground at a place. */
  isDoubtful({ x, y, template: { left, right, up, down } }: Match): boolean {
    let doubtful = false;
    this.#changes.forBlocks(x - left, y - up, x + right, y + down, (block) => {
      if (this.#doubtful[block]) doubtful = true;
    });
    return doubtful;
  }

  /**
   * Remembers what lies under pointers before they go on.
   *
   * @param places where something is that is followed
   * @param isSeen the pointer itself is seen at one of them: it is nowhere else
   */
  keep(places: readonly Match[], isSeen: boolean): void {
    if (this.#changes.count === 0) return;
    const { pixels } = this.#changes;
    const held = this.#held;
    const before = held.slice();
    held.fill(0);
    for (const { x, y, template } of places) {
      const [left, top] = [x - template.left - ROUND, y - template.up - ROUND];
      const [right, bottom] = [x + template.right + ROUND, y + template.down + ROUND];
      this.#changes.forBlocks(left, top, right, bottom, (block) => {
        if (before[block] === 0) this.#copy(block);
        held[block] = 1;
      });
    }
    for (let block = 0; block < pixels.length; block++) {
      if (held[block] === 1) continue;
      if (isSeen) this.#doubtful[block] = 0;
      else if (pixels[block]! > 0) this.#doubtful[block] = 1;
    }
  }

  #copy(block: number): void {
    const { ground, before, widthPx } = this.#pictures;
    const { columns } = this.#changes;
    let from = Math.floor(block / columns) * BLOCK * widthPx + (block % columns) * BLOCK;
    for (let line = 0; line < BLOCK; line++, from += widthPx) {
      for (let at = from; at < from + BLOCK; at++) ground[at] = before[at]!;
    }
  }
}
