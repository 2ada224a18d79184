import { spanAt, type Film } from '../film/film';
import { recordedIn } from '../film/span';
import { cardPlaceOf } from '../lesson/title-card';
import type { InkOf } from '../ink/changed-track';
import { pageAt } from '../ink/ink-track';
import { frameAt } from '../time/frames';
import type { Us } from '../time/us';

/** Places of a film that are looked at for its cover, in this order: past the empty first moment, before the goodbye. */
const PLACES = [1 / 3, 2 / 3, 1 / 2, 5 / 6, 1 / 6, 0.95];
/** Where much is written is looked for in so many places. */
const WRITTEN_PLACES = 24;
/** So many of those with most of it are taken. */
const MOST_WRITTEN = 3;

/** How much is written in a frame of a film: strokes that are seen. */
const writtenAt = (film: Film, inkOf: InkOf, filmUs: Us): number => {
  const frame = frameAt(filmUs);
  const span = spanAt(film, frame);
  const ink = span && inkOf(span.take.id);
  return ink ? pageAt(ink, recordedIn(span, frame)).strokes.length : 0;
};

/**
 * Moments of a film that its cover may show, the likeliest first: a board when it is written, and no card, which says what stands
 * beside the cover anyway. Whether there is something to be seen in them is told by their pictures ({@link looksOf}).
 */
export const coverTimes = (film: Film, inkOf: InkOf): Us[] => {
  const at = (share: number): Us => Math.round(share * film.durationUs);
  const isCard = (filmUs: Us) => {
    const span = spanAt(film, frameAt(filmUs));
    return !span || cardPlaceOf(span.take) !== null;
  };
  const written = Array.from({ length: WRITTEN_PLACES }, (_, index) => {
    const filmUs = at((index + 0.5) / WRITTEN_PLACES);
    return { filmUs, strokes: writtenAt(film, inkOf, filmUs) };
  })
    .filter(({ strokes }) => strokes > 0)
    .sort((a, b) => b.strokes - a.strokes)
    .slice(0, MOST_WRITTEN)
    .map(({ filmUs }) => filmUs);
  const all = [...written, ...PLACES.map(at)];
  const moments = all.filter((filmUs) => !isCard(filmUs));
  return moments.length > 0 ? moments : all;
};

/** A picture is looked at in squares of this many px. */
const SQUARE_PX = 8;
/** There is something in a square whose brightest and darkest px are so far apart, of 255. */
const CONTRAST = 24;

/** How a picture looks, to be shown by itself. */
export interface Looks {
  /**
   * How much of it has something in it, 0 to 1: of its squares, those that aren't even. An empty board, and a picture that is blurred
   * all over, have next to nothing.
   */
  readonly full: number;
  /** How steep its edges are, 0 to 1: of a square's contrast, what lies between two neighbours. Of what moved or is out of focus, little. */
  readonly sharp: number;
  /** How light it is, 0 to 255, in {@link COLUMNS} by {@link ROWS} parts: what looks nearly the same has nearly the same. */
  readonly lights: readonly number[];
}

const COLUMNS = 16;
const ROWS = 9;

/** @param pixels RGBA, a byte each */
export const looksOf = (
  pixels: Uint8Array | Uint8ClampedArray,
  widthPx: number,
  heightPx: number,
): Looks => {
  const light = new Uint8Array(widthPx * heightPx);
  for (let at = 0; at < light.length; at++) {
    // Rec. 709, in whole numbers.
    light[at] = (54 * pixels[at * 4]! + 183 * pixels[at * 4 + 1]! + 19 * pixels[at * 4 + 2]!) >> 8;
  }
  const [wide, high] = [Math.floor(widthPx / SQUARE_PX), Math.floor(heightPx / SQUARE_PX)];
  let [squares, steep] = [0, 0];
  for (let row = 0; row < high; row++) {
    for (let column = 0; column < wide; column++) {
      let [least, most, step] = [255, 0, 0];
      for (let y = row * SQUARE_PX; y < (row + 1) * SQUARE_PX; y++) {
        for (let x = column * SQUARE_PX; x < (column + 1) * SQUARE_PX; x++) {
          const place = y * widthPx + x;
          const here = light[place]!;
          least = Math.min(least, here);
          most = Math.max(most, here);
          if (x > 0) step = Math.max(step, Math.abs(here - light[place - 1]!));
          if (y > 0) step = Math.max(step, Math.abs(here - light[place - widthPx]!));
        }
      }
      if (most - least < CONTRAST) continue;
      squares++;
      steep += Math.min(1, step / (most - least));
    }
  }
  const [sums, counts] = [new Float64Array(COLUMNS * ROWS), new Float64Array(COLUMNS * ROWS)];
  for (let at = 0; at < light.length; at++) {
    const column = Math.floor(((at % widthPx) * COLUMNS) / widthPx);
    const part = Math.floor((Math.floor(at / widthPx) * ROWS) / heightPx) * COLUMNS + column;
    sums[part]! += light[at]!;
    counts[part]!++;
  }
  return {
    lights: Array.from(sums, (sum, part) => (counts[part]! > 0 ? sum / counts[part]! : 0)),
    full: wide * high > 0 ? squares / (wide * high) : 0,
    sharp: squares > 0 ? steep / squares : 0,
  };
};

/** From here on there is enough to be seen for a cover; below the other there is as good as nothing. */
export const FULL_ENOUGH = 0.12;
export const BLANK = 0.01;

/** A moment of a film, and how it looks. */
export interface LookedAt extends Looks {
  readonly filmUs: Us;
  /** The face that it is of has its eyes shut. */
  readonly eyesShut?: boolean;
}

/** Those that aren't of a face with its eyes shut; all, where nothing is to be seen in any other. */
const withEyesOpen = (looked: readonly LookedAt[]): readonly LookedAt[] => {
  const open = looked.filter(({ eyesShut }) => !eyesShut);
  return open.some(({ full }) => full >= BLANK) ? open : looked;
};

/** The moment that is taken of those that were looked at, the likeliest first: the first with enough in it, or the fullest. */
export const takenOf = (all: readonly LookedAt[]): Us => {
  const looked = withEyesOpen(all);
  const [fullest] = [...looked].sort((a, b) => b.full - a.full);
  return (looked.find(({ full }) => full >= FULL_ENOUGH) ?? fullest)?.filmUs ?? 0;
};

/** Two proposals are at least so far apart, as a share of the film; and as much lighter or darker in their parts, in the mean. */
const APART = 0.04;
const UNLIKE = 2;

const unlike = (one: Looks, other: Looks): number =>
  one.lights.reduce((sum, light, part) => sum + Math.abs(light - other.lights[part]!), 0) /
  one.lights.length;

/**
 * The moments that are proposed, best first: full and sharp, with open eyes, and none that looks nearly as a better one does. More than
 * enough to be seen makes none better: what is crowded isn't clear.
 */
export const proposed = (moments: readonly LookedAt[], filmUs: Us, most: number): LookedAt[] => {
  const worth = ({ full, sharp }: LookedAt) => Math.min(full, 3 * FULL_ENOUGH) * sharp;
  const chosen: LookedAt[] = [];
  for (const moment of [...withEyesOpen(moments)].sort((a, b) => worth(b) - worth(a))) {
    if (chosen.length === most) break;
    if (moment.full < BLANK) continue;
    const isNew = (other: LookedAt) =>
      Math.abs(other.filmUs - moment.filmUs) >= APART * filmUs && unlike(other, moment) >= UNLIKE;
    if (chosen.every(isNew)) chosen.push(moment);
  }
  return chosen;
};
