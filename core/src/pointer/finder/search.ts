import { BLOCK, type Changes } from './changes';
import type { Ground } from './ground';
import { bestIn, scoreAt, type Match, type Pictures } from './match';
import { between, type Template } from './template';

export type Rect = readonly [left: number, top: number, right: number, bottom: number];

/** So much of the picture may have changed for what lies under a pointer to be known, of all blocks. */
const LITTLE = 0.06;
/** So many places are looked at in each picture for something new, of all shapes together. */
const PLACES = 90_000;
/** So few blocks are searched at once: a pointer that moves changes no more. */
const FEW = 24;
/** By how much better something that has come has to fit than what was there before. */
const COME = 0.12;
/** How well a shape has to fit at one of the scales between those that are tried. */
const CLOSELY = 0.82;

/** Looks for shapes where the picture has changed. */
export class Search {
  readonly #pictures: Pictures;
  readonly #changes: Changes;
  readonly #ground: Ground;
  #turn = 0;

  constructor(pictures: Pictures, changes: Changes, ground: Ground) {
    this.#pictures = pictures;
    this.#changes = changes;
    this.#ground = ground;
  }

  /** Whether so little has changed that all of it can be searched, and the ground is known. */
  get isLittle(): boolean {
    return this.#changes.count <= LITTLE * this.#changes.pixels.length;
  }

  get everywhere(): Rect {
    return [0, 0, this.#pictures.widthPx - 1, this.#pictures.heightPx - 1];
  }

  /** What is thin is told by what has come on the ground, which has to be known. */
  canTell({ shape }: Template): boolean {
    return !shape.thin || this.isLittle;
  }

  /** Something that wasn't there before; null where it was. */
  come(match: Match | null): Match | null {
    if (!match) return null;
    const { template, x, y, score } = match;
    const isNew = template.shape.thin
      ? !this.#ground.isDoubtful(match)
      : scoreAt(template, x, y, this.#asBefore) < score - COME;
    return isNew ? match : null;
  }

  /** The best of some shapes in the blocks of a rectangle that have changed. */
  best(templates: readonly Template[], rect: Rect, least: number): Match | null {
    return this.#bestOf(templates, rect, least, this.#pictures);
  }

  /** The same in the picture before: from where it has gone. */
  bestBefore(template: Template, least: number): Match | null {
    return this.#bestOf([template], this.everywhere, least, this.#asBefore);
  }

  /** Whether all of what has changed is searched for some shapes. */
  isWhole(templates: readonly Template[]): boolean {
    const { count } = this.#changes;
    return count <= FEW || count * BLOCK * BLOCK * templates.length <= PLACES;
  }

  /** The best of each shape wherever something has changed; where that is too much, of a part of it. */
  bestOfEach(templates: readonly Template[], least: number): Match[] {
    const found = this.isWhole(templates)
      ? templates.map((one) => this.best([one], this.everywhere, least))
      : this.#part(templates, least);
    return found.filter((one) => one !== null);
  }

  /** The best of the scales between: a shape that is drawn finely fits at its own only. */
  closer({ x, y, template }: Match): Match | null {
    const by = Math.ceil(2 * template.scale);
    const finer = between(template, this.#pictures.widthPx);
    return bestIn(finer, [x - by, y - by, x + by, y + by], this.#pictures, CLOSELY);
  }

  get #asBefore(): Pictures {
    return { ...this.#pictures, now: this.#pictures.before };
  }

  /** A part is searched in each picture, for one shape after the other, the next part in the next. */
  #part(templates: readonly Template[], least: number): (Match | null)[] {
    const { rows, pixels, columns } = this.#changes;
    const [, , right] = this.everywhere;
    let places = 0;
    const found: (Match | null)[] = [];
    for (let row = 0; row < rows * templates.length && places < PLACES; row++) {
      const at = this.#turn++ % (rows * templates.length);
      const [line, template] = [at % rows, templates[Math.floor(at / rows)]!];
      for (let column = 0; column < columns; column++) {
        if (pixels[line * columns + column]! > 0) places += BLOCK * BLOCK;
      }
      const rect = [0, line * BLOCK, right, line * BLOCK + BLOCK - 1] as const;
      found.push(this.best([template], rect, least));
    }
    return found;
  }

  #bestOf(
    templates: readonly Template[],
    [left, top, right, bottom]: Rect,
    least: number,
    pictures: Pictures,
  ): Match | null {
    const { columns, rows, pixels } = this.#changes;
    let best = null as Match | null;
    const lastRow = Math.min(rows - 1, (bottom / BLOCK) | 0);
    const lastColumn = Math.min(columns - 1, (right / BLOCK) | 0);
    for (let row = Math.max(0, (top / BLOCK) | 0); row <= lastRow; row++) {
      for (let column = Math.max(0, (left / BLOCK) | 0); column <= lastColumn; column++) {
        if (pixels[row * columns + column] === 0) continue;
        const first = column;
        while (column < lastColumn && pixels[row * columns + column + 1]! > 0) column++;
        // The very tip of it may lie where too little has changed.
        const part = [
          Math.max(left, first * BLOCK - 2),
          Math.max(top, row * BLOCK - 2),
          Math.min(right, column * BLOCK + BLOCK - 1),
          Math.min(bottom, row * BLOCK + BLOCK - 1),
        ] as const;
        best = bestIn(templates, part, pictures, best?.score ?? least) ?? best;
      }
    }
    return best;
  }
}
