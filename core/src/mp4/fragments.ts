import { boxOf, HEADER_BYTES, joined, words } from './box';

/** An encoded picture or block of sound. Times are ticks of its track (`mdhd`). */
export interface Sample {
  readonly bytes: Uint8Array;
  /** When it begins. */
  readonly at: number;
  /** How long it is itself: used where none follows it. */
  readonly duration: number;
  /** It can be decoded without those before it. */
  readonly key: boolean;
}

/** The only track of a file that is recorded. */
const TRACK = 1;
/** Places are counted from the start of the fragment (§8.8.7, `default-base-is-moof`). */
const BASE_IS_MOOF = 0x02_0000;
/** Time in 64 bits (§8.8.12). */
const VERSION_1 = 0x0100_0000;
/** §8.8.8: where the data is; and of each sample its duration, its size, its flags. */
const TRUN_FLAGS = 0x0000_0001 | 0x0000_0100 | 0x0000_0200 | 0x0000_0400;
/** §8.8.3.1: depends on no other; or depends on another, and is no place to begin at. */
const KEY_FLAGS = 0x0200_0000;
const DELTA_FLAGS = 0x0101_0000;

/** One fragment: a `moof` that describes the samples and an `mdat` that holds them (§8.8.4, §8.1.1). */
const fragmentOf = (
  sequence: number,
  samples: readonly Sample[],
  endAt: number,
): Uint8Array<ArrayBuffer> => {
  const startAt = samples[0]!.at;
  const entries = samples.flatMap(({ bytes, at, key }, index) => {
    const nextAt = samples[index + 1]?.at ?? endAt;
    return [nextAt - at, bytes.length, key ? KEY_FLAGS : DELTA_FLAGS];
  });
  const moofAround = (dataAt: number) =>
    boxOf(
      'moof',
      boxOf('mfhd', words(0, sequence)),
      boxOf(
        'traf',
        boxOf('tfhd', words(BASE_IS_MOOF, TRACK)),
        boxOf('tfdt', words(VERSION_1, Math.floor(startAt / 2 ** 32), startAt % 2 ** 32)),
        boxOf('trun', words(TRUN_FLAGS, samples.length, dataAt, ...entries)),
      ),
    );
  const moof = moofAround(moofAround(0).length + HEADER_BYTES);
  return joined(moof, boxOf('mdat', ...samples.map(({ bytes }) => bytes)));
};

/**
 * Puts the samples of one track into fragments (ISO/IEC 14496-12 §8.8), and holds no more than the one that
 * is being filled: a track of hours takes no more memory than one of seconds. A fragment begins with a key
 * sample, and ends where the next one begins.
 */
export class Fragments {
  readonly #least: number;
  #sequence = 0;
  #samples: Sample[] = [];

  /** @param least how long a fragment is at least, ticks, but for the last one */
  constructor(least: number) {
    this.#least = least;
  }

  /**
   * Takes in the next sample, which begins after the one before.
   *
   * @returns the fragment before it, when this one begins another
   */
  add(sample: Sample): Uint8Array<ArrayBuffer> | null {
    const first = this.#samples[0];
    const full = first && sample.key && sample.at - first.at >= this.#least;
    const fragment = full ? this.#fragment(sample.at) : null;
    this.#samples.push(sample);
    return fragment;
  }

  /** The last fragment; null when there is nothing more. */
  end(): Uint8Array<ArrayBuffer> | null {
    const last = this.#samples.at(-1);
    return last ? this.#fragment(last.at + last.duration) : null;
  }

  #fragment(endAt: number): Uint8Array<ArrayBuffer> {
    const fragment = fragmentOf(++this.#sequence, this.#samples, endAt);
    this.#samples = [];
    return fragment;
  }
}
