import type { Template } from './template';

/** Pictures in which shapes are looked for: brightness, row by row. */
export interface Pictures {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly now: Uint8Array;
  /** The one before. */
  readonly before: Uint8Array;
  /** What lies under the pointer, as far as it has been seen. */
  readonly ground: Uint8Array;
}

/** A shape at a place. */
export interface Match {
  readonly x: number;
  readonly y: number;
  readonly template: Template;
  /** How well it fits, −1 to 1. */
  readonly score: number;
}

/** Least difference between the bright and the dark of a shape, of 255, for it to be looked at closely. */
const CONTRAST = 14;
/** Less than this from pixel to pixel is an even place (standard deviation, of 255). */
const EVEN = 10;
/** Least difference between the bright and the dark one of a pair. */
const PAIR = 8;
/** How much more a thin shape's fit counts: letters that it lies on hide a part of what it changes. */
const THIN = 0.15;
/** By how much less a part of a shape may fit than the whole has to. */
const SOME_OFF = 0.18;

/** Whether the whole of a shape lies in the picture. */
const isInside = ({ left, right, up, down }: Template, x: number, y: number, pictures: Pictures) =>
  x >= left && y >= up && x + right < pictures.widthPx && y + down < pictures.heightPx;

type Compared = Pick<Template, 'offsets' | 'weights'>;

/**
 * How well a shape fits a place, by correlation over its own pixels: what lies around it doesn't count. A shape that is
 * dark where it is expected to be light fits as well.
 */
const filledScore = ({ offsets, weights }: Compared, at: number, now: Uint8Array): number => {
  let sum = 0;
  let squares = 0;
  let along = 0;
  const count = offsets.length;
  for (let index = 0; index < count; index++) {
    const value = now[at + offsets[index]!]!;
    sum += value;
    squares += value * value;
    along += value * weights[index]!;
  }
  const spread = squares - (sum * sum) / count;
  return spread < EVEN * EVEN * count ? 0 : Math.abs(along) / Math.sqrt(spread);
};

/** The same of what has come on the ground. */
const thinScore = ({ offsets, weights }: Compared, at: number, pictures: Pictures): number => {
  const { now, ground } = pictures;
  let sum = 0;
  let squares = 0;
  let along = 0;
  const count = offsets.length;
  for (let index = 0; index < count; index++) {
    const pixel = at + offsets[index]!;
    const value = Math.abs(now[pixel]! - ground[pixel]!);
    sum += value;
    squares += value * value;
    along += value * weights[index]!;
  }
  const spread = squares - (sum * sum) / count;
  return spread < EVEN * EVEN * count ? 0 : along / Math.sqrt(spread) + THIN;
};

/** How well a shape fits a place; 0 where it doesn't lie wholly in the picture. */
export const scoreAt = (template: Template, x: number, y: number, pictures: Pictures): number => {
  if (!isInside(template, x, y, pictures)) return 0;
  const at = y * pictures.widthPx + x;
  return template.shape.thin
    ? thinScore(template, at, pictures)
    : filledScore(template, at, pictures.now);
};

/** The best of some shapes in a rectangle (its ends are inside); null where none is better than `least`. */
export const bestIn = (
  templates: readonly Template[],
  rect: readonly [left: number, top: number, right: number, bottom: number],
  pictures: Pictures,
  least: number,
): Match | null => {
  const { widthPx, heightPx, now, ground } = pictures;
  let best: Match | null = null;
  let most = least;
  for (const template of templates) {
    const { bright, dark, shape } = template;
    const left = Math.max(rect[0], template.left);
    const right = Math.min(rect[2], widthPx - 1 - template.right);
    const top = Math.max(rect[1], template.up);
    const bottom = Math.min(rect[3], heightPx - 1 - template.down);
    const { length } = bright;
    const bright0 = bright[0]!;
    const bright1 = bright[1]!;
    const bright2 = bright[2]!;
    const bright3 = bright[3]!;
    const dark0 = dark[0]!;
    const dark1 = dark[1]!;
    const dark2 = dark[2]!;
    const dark3 = dark[3]!;
    for (let y = top; y <= bottom; y++) {
      for (let x = left; x <= right; x++) {
        const at = y * widthPx + x;
        let score = 0;
        if (shape.thin) {
          let apart = 0;
          for (let one = 0; one < length; one++) {
            const light = at + bright[one]!;
            const shade = at + dark[one]!;
            apart +=
              Math.abs(now[light]! - ground[light]!) - Math.abs(now[shade]! - ground[shade]!);
          }
          if (apart < CONTRAST * length) continue;
          score = thinScore(template, at, pictures);
        } else {
          // Nearly every place is turned down here, by the first pairs: all have to be apart the same way.
          const first = now[at + bright0]! - now[at + dark0]!;
          if (first < PAIR && first > -PAIR) continue;
          const sign = first > 0 ? 1 : -1;
          if ((now[at + bright1]! - now[at + dark1]!) * sign < PAIR) continue;
          if ((now[at + bright2]! - now[at + dark2]!) * sign < PAIR) continue;
          if ((now[at + bright3]! - now[at + dark3]!) * sign < PAIR) continue;
          let apart = 0;
          for (let one = 0; one < length; one++) {
            apart += now[at + bright[one]!]! - now[at + dark[one]!]!;
          }
          if (Math.abs(apart) < CONTRAST * length) continue;
          if (filledScore(template.some, at, now) < most - SOME_OFF) continue;
          score = filledScore(template, at, now);
        }
        if (score > most) {
          most = score;
          best = { x, y, template, score };
        }
      }
    }
  }
  return best;
};
