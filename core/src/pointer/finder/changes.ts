/** Side of the blocks in which a picture is compared with the one before, pixels. */
export const BLOCK = 16;
/** A pixel that is further off than this has changed; less is what an encoder does to it. */
export const STEP = 10;
/** So many of a block's pixels have to. */
const LEAST = 3;
/** More of them aren't counted. */
const ENOUGH = 128;
/** Of a block's line. */
const FOURS = BLOCK / 4;

/** Where a picture differs from the one before. */
export class Changes {
  readonly columns: number;
  readonly rows: number;
  /** Pixels that have changed, block by block; 0 where too few have. */
  readonly pixels: Uint16Array;
  /** Number of the picture in which each block changed last. */
  readonly last: Int32Array;
  /** Blocks that have changed. */
  count = 0;
  #picture = 0;

  /** @param widthPx,heightPx of the pictures, both divided by BLOCK without rest */
  constructor(widthPx: number, heightPx: number) {
    this.columns = widthPx / BLOCK;
    this.rows = heightPx / BLOCK;
    this.pixels = new Uint16Array(this.columns * this.rows);
    this.last = new Int32Array(this.columns * this.rows);
  }

  /** Compares two pictures of brightness. */
  look(before: Uint8Array, now: Uint8Array): void {
    const { pixels, columns, rows } = this;
    this.#picture++;
    pixels.fill(0);
    // Four pixels at a time: nearly all of a screen stands still.
    const [wasFour, isFour] = [fours(before), fours(now)];
    let four = 0;
    for (let row = 0; row < rows; row++) {
      for (let line = 0; line < BLOCK; line++) {
        const end = (row + 1) * columns;
        for (let block = row * columns; block < end; block++, four += FOURS) {
          const apart =
            (wasFour[four]! ^ isFour[four]!) |
            (wasFour[four + 1]! ^ isFour[four + 1]!) |
            (wasFour[four + 2]! ^ isFour[four + 2]!) |
            (wasFour[four + 3]! ^ isFour[four + 3]!);
          if (apart === 0 || pixels[block]! >= ENOUGH) continue;
          for (let at = four; at < four + FOURS; at++) {
            const was = wasFour[at]!;
            const is = isFour[at]!;
            if (was === is) continue;
            pixels[block]! +=
              (Math.abs((was & 255) - (is & 255)) > STEP ? 1 : 0) +
              (Math.abs(((was >>> 8) & 255) - ((is >>> 8) & 255)) > STEP ? 1 : 0) +
              (Math.abs(((was >>> 16) & 255) - ((is >>> 16) & 255)) > STEP ? 1 : 0) +
              (Math.abs((was >>> 24) - (is >>> 24)) > STEP ? 1 : 0);
          }
        }
      }
    }
    this.count = 0;
    for (let block = 0; block < pixels.length; block++) {
      if (pixels[block]! < LEAST) pixels[block] = 0;
      else {
        this.count++;
        this.last[block] = this.#picture;
      }
    }
  }

  /** Number of the picture that was looked at last. */
  get picture(): number {
    return this.#picture;
  }

  /** Changed pixels of the blocks that a rectangle lies in. */
  within(left: number, top: number, right: number, bottom: number): number {
    let sum = 0;
    this.forBlocks(left, top, right, bottom, (block) => (sum += this.pixels[block]!));
    return sum;
  }

  /** The picture in which any of a rectangle's blocks changed last. */
  lastWithin(left: number, top: number, right: number, bottom: number): number {
    let last = 0;
    this.forBlocks(left, top, right, bottom, (block) => (last = Math.max(last, this.last[block]!)));
    return last;
  }

  forBlocks(
    left: number,
    top: number,
    right: number,
    bottom: number,
    each: (block: number) => void,
  ): void {
    const [toColumn, toRow] = [
      Math.min(this.columns - 1, (right / BLOCK) | 0),
      Math.min(this.rows - 1, (bottom / BLOCK) | 0),
    ];
    for (let row = Math.max(0, Math.floor(top / BLOCK)); row <= toRow; row++) {
      for (let column = Math.max(0, Math.floor(left / BLOCK)); column <= toColumn; column++) {
        each(row * this.columns + column);
      }
    }
  }
}

const fours = ({ buffer, byteOffset, length }: Uint8Array) =>
  new Uint32Array(buffer, byteOffset, length / 4);
