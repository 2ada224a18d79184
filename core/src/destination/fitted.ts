import { toSeconds, type Us } from '../time/us';
import type { SizePx } from './picture-size';

/** How a film is encoded so that its file is small enough for a place. */
export interface Fitted {
  readonly size: SizePx;
  /** Bits a second. */
  readonly pictureBits: number;
  readonly soundBits: number;
}

/** Of a file's bytes, those that are neither picture nor sound, and what an encoder misses its aim by. */
const APART = 0.03;
/** Sound, bits a second: as films have it where there is room, less where there is little. */
const SOUND: readonly { readonly from: number; readonly bits: number }[] = [
  { from: 900_000, bits: 160_000 },
  { from: 400_000, bits: 96_000 },
  { from: 0, bits: 64_000 },
];
/** Shorter sides that a picture is made smaller to, px. */
const SHORTER = [1080, 720, 540, 360, 240];
/** Bits that a px needs in a frame, at least, for writing to stay readable: lessons stand still most of the time. */
const LEAST_BITS_A_PX = 0.012;
/** Fewer for the smallest are none, bits a second. */
const LEAST_BITS = 40_000;
const FRAMES = 30;

const even = (value: number) => Math.max(2, Math.round(value / 2) * 2);
const scaled = ({ widthPx, heightPx }: SizePx, shorterPx: number): SizePx => {
  const scale = shorterPx / Math.min(widthPx, heightPx);
  return scale >= 1
    ? { widthPx, heightPx }
    : { widthPx: even(widthPx * scale), heightPx: even(heightPx * scale) };
};

/** A file that is smaller than this isn't worth making smaller, bytes. */
const SMALL_ENOUGH = 1_000_000;

/**
 * How many bytes a smaller file of a film has: half as many, told in two digits. Its bits go further than the film's own, for they are
 * given out in two passes, and it looks nearly the same.
 *
 * @returns null where it is small enough
 */
export const smallerBytes = (bytes: number): number | null =>
  bytes < SMALL_ENOUGH ? null : Number((bytes / 2).toPrecision(2));

/**
 * How a film can be encoded to have at most so many bytes: the largest picture for which there are enough bits.
 *
 * @param size that it has
 * @returns null where that can't be: it is too long for so few
 */
export const fittedFor = (mostBytes: number, filmUs: Us, size: SizePx): Fitted | null => {
  const bits = (mostBytes * 8 * (1 - APART)) / Math.max(1, toSeconds(filmUs));
  const soundBits = SOUND.find(({ from }) => bits >= from)!.bits;
  const pictureBits = Math.floor(bits - soundBits);
  if (pictureBits < LEAST_BITS) return null;
  const sizes = SHORTER.map((shorterPx) => scaled(size, shorterPx));
  const fits = ({ widthPx, heightPx }: SizePx) =>
    pictureBits >= widthPx * heightPx * FRAMES * LEAST_BITS_A_PX;
  return { size: sizes.find(fits) ?? sizes.at(-1)!, pictureBits, soundBits };
};
