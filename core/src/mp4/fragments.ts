import { boxOf, contentAt, HEADER_BYTES, joined, words } from './box';

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

/**
 * One fragment: a `moof` that describes the samples and an `mdat` that holds them (§8.8.4, §8.1.1).
 *
 * @param sequence its number, from 1
 * @param endAt when the last sample ends, ticks
 */
export const fragmentOf = (
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

/** What a fragment tells of one of its samples. */
export interface SampleFacts {
  /** When it begins, and how long it is, ticks of its track. */
  readonly at: number;
  readonly duration: number;
  readonly key: boolean;
}

/** §8.8.3.1, `sample_is_non_sync_sample`. */
const NOT_SYNC = 0x0001_0000;

/**
 * The samples of a fragment as {@link Fragments} writes them, in order.
 *
 * @param moof content of its `moof`
 * @returns null for one that tells of them in any other way
 */
export const samplesIn = (moof: Uint8Array): SampleFacts[] | null => {
  const [tfdt, trun] = [contentAt(moof, 'traf', 'tfdt'), contentAt(moof, 'traf', 'trun')];
  if (!tfdt || !trun || tfdt.length < 12 || trun.length < 12) return null;
  const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const [time, run] = [view(tfdt), view(trun)];
  const count = run.getUint32(4);
  if (time.getUint32(0) !== VERSION_1 || run.getUint32(0) !== TRUN_FLAGS) return null;
  if (trun.length < 12 + count * 12) return null;
  const samples: SampleFacts[] = [];
  let at = Number(time.getBigUint64(4));
  for (let index = 0; index < count; index++) {
    const duration = run.getUint32(12 + index * 12);
    const flags = run.getUint32(12 + index * 12 + 8);
    samples.push({ at, duration, key: (flags & NOT_SYNC) === 0 });
    at += duration;
  }
  return samples;
};

/**
 * Ticks in a second of the only track of a file.
 *
 * @param moov content of its `moov`
 * @returns null where it can't be told
 */
export const timescaleIn = (moov: Uint8Array): number | null => {
  const mdhd = contentAt(moov, 'trak', 'mdia', 'mdhd');
  // §8.4.2: two times stand before it, in 32 bits or in 64.
  const at = mdhd?.[0] === 1 ? 20 : 12;
  if (!mdhd || mdhd.length < at + 4) return null;
  return new DataView(mdhd.buffer, mdhd.byteOffset, mdhd.length).getUint32(at) || null;
};
