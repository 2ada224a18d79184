import type { TimeRange } from '../time/ranges';
import { US_PER_SECOND, type Us } from '../time/us';
import type { FlawKind } from './reading';

/** Pictures are watched in this size, px, and so often, µs. */
export const WATCHED = { widthPx: 160, heightPx: 90 } as const;
export const WATCHED_EVERY_US: Us = US_PER_SECOND;

const PIXELS = WATCHED.widthPx * WATCHED.heightPx;
/** Bytes of one: brightness, then the two colour differences, a byte a px each (YUV 4:4:4). */
export const WATCHED_BYTES = 3 * PIXELS;

/** A px has changed that is so much lighter or darker, of 255; and a picture, of which such a share has. */
const LIGHTER = 20;
const CHANGED = 0.004;
/** What doesn't stand for so long, nobody reads, µs. */
const STANDS_US: Us = 3 * US_PER_SECOND;

/** No px of a black picture is lighter than this, but for such a share of them: film's own black is 16. */
const BLACK = 32;
const SPECKS = 0.002;
/** A camera's picture stands still that changes by less than this from one second to the next, in the mean, of 255. */
const STILL = 0.05;
/** Decoders put this grey, or the green of nothing at all, where data is missing: so near to it. */
const GREY = 128;
const NEAR = 3;
/** They do so from some row on to the last; so many of them, of 90, are no edge of a window. */
const TORN_ROWS = 12;
/** It is a flaw that has lasted so long, µs; and what a torn picture lasts at most, for the next whole one mends it. */
const LASTS: Readonly<Record<FlawKind, readonly [least: Us, most: Us]>> = {
  black: [2 * US_PER_SECOND, Infinity],
  still: [4 * US_PER_SECOND, Infinity],
  torn: [0, 20 * US_PER_SECOND],
};

export interface Flaw extends TimeRange {
  readonly is: FlawKind;
}

/** What a track shows for some stretches: the same, as far as one can see. */
export interface Look {
  readonly stretches: readonly TimeRange[];
  /** A moment in which it stands, in which it can be looked at closely. */
  readonly atUs: Us;
}

const isBlack = (planes: Uint8Array): boolean => {
  let light = 0;
  for (let at = 0; at < PIXELS; at++) if (planes[at]! > BLACK) light++;
  return light <= SPECKS * PIXELS;
};

const isMissing = (planes: Uint8Array, at: number): boolean => {
  const [y, u, v] = [planes[at]!, planes[PIXELS + at]!, planes[2 * PIXELS + at]!];
  const near = (value: number, to: number) => Math.abs(value - to) <= NEAR;
  return (
    (near(y, GREY) && near(u, GREY) && near(v, GREY)) || (y <= 16 + NEAR && u <= NEAR && v <= NEAR)
  );
};

/** How many rows at the bottom of a picture are nothing but missing. */
const missingRows = (planes: Uint8Array): number => {
  let rows = 0;
  for (let row = WATCHED.heightPx - 1; row >= 0; row--, rows++) {
    for (let column = 0; column < WATCHED.widthPx; column++) {
      if (!isMissing(planes, row * WATCHED.widthPx + column)) return rows;
    }
  }
  return rows;
};

const meanChange = (before: Uint8Array, after: Uint8Array): number => {
  let sum = 0;
  for (let at = 0; at < PIXELS; at++) sum += Math.abs(before[at]! - after[at]!);
  return sum / PIXELS;
};

const hasChanged = (before: Uint8Array, after: Uint8Array): boolean => {
  let changed = 0;
  for (let at = 0; at < PIXELS; at++) {
    if (Math.abs(before[at]! - after[at]!) > LIGHTER && ++changed > CHANGED * PIXELS) return true;
  }
  return false;
};

interface Seen {
  readonly light: Uint8Array;
  readonly stretches: TimeRange[];
}

/**
 * Watches a track's pictures go by, a small one a second: finds out where they are as they weren't meant, and what it shows
 * for long enough that it can be read. What comes back is known again.
 */
export class PictureWatcher {
  readonly #isCamera: boolean;
  readonly #looks: Seen[] = [];
  readonly #flaws: Flaw[] = [];
  /** What is shown, and since when; null before the first. */
  #look: { readonly light: Uint8Array; readonly sinceUs: Us } | null = null;
  #before: Uint8Array | null = null;
  #beforeUs: Us = 0;

  /** @param isCamera whether it is a camera's, which never stands still by itself, and isn't read */
  constructor(isCamera: boolean) {
    this.#isCamera = isCamera;
  }

  /** @param planes {@link WATCHED_BYTES} of a picture; they may be used for the next one */
  next(planes: Uint8Array, atUs: Us): void {
    const light = planes.slice(0, PIXELS);
    if (isBlack(planes)) this.#found('black', atUs);
    else if (missingRows(planes) >= TORN_ROWS) this.#found('torn', atUs);
    else if (this.#isCamera && this.#before && meanChange(this.#before, light) < STILL) {
      this.#found('still', this.#beforeUs, atUs);
    }
    if (!this.#isCamera && (!this.#look || hasChanged(this.#look.light, light))) {
      this.#close(atUs);
      this.#look = { light, sinceUs: atUs };
    }
    this.#before = light;
    this.#beforeUs = atUs;
  }

  /** @param most looks: of more, those that stand longest */
  finish(durationUs: Us, most: number): { flaws: Flaw[]; looks: Look[] } {
    this.#close(durationUs);
    const flaws = this.#flaws
      .map((flaw) => ({ ...flaw, endUs: Math.min(flaw.endUs, durationUs) }))
      .filter(({ is, startUs, endUs }) => {
        const [least, longest] = LASTS[is];
        return (
          endUs > startUs &&
          endUs - startUs >= Math.min(least, durationUs) &&
          endUs - startUs <= longest
        );
      });
    const stands = ({ stretches }: Seen) =>
      stretches.reduce((sum, { startUs, endUs }) => sum + endUs - startUs, 0);
    const looks = [...this.#looks]
      .sort((a, b) => stands(b) - stands(a))
      .slice(0, most)
      .map(({ stretches }): Look => {
        const { startUs, endUs } = stretches[0]!;
        return { stretches, atUs: Math.round((startUs + endUs) / 2) };
      });
    return { flaws, looks };
  }

  #found(is: FlawKind, startUs: Us, endUs: Us = startUs + WATCHED_EVERY_US): void {
    const last = this.#flaws.at(-1);
    if (last?.is === is && last.endUs >= startUs)
      this.#flaws[this.#flaws.length - 1] = { ...last, endUs };
    else this.#flaws.push({ is, startUs, endUs });
  }

  /** What was shown until now is over. */
  #close(atUs: Us): void {
    if (!this.#look || atUs - this.#look.sinceUs < STANDS_US) return;
    const { light, sinceUs } = this.#look;
    const known = this.#looks.find((look) => !hasChanged(look.light, light));
    const stretch = { startUs: sinceUs, endUs: atUs };
    if (known) known.stretches.push(stretch);
    else this.#looks.push({ light, stretches: [stretch] });
  }
}
