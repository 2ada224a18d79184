import { fromDbfs } from './level';

/** Raise when the same samples come out differently. */
export const LIMITER_VERSION = 1;

/** No peak goes over this, between samples either (true peak, ITU-R BS.1770-4 annex 2), dBTP: AAC adds a little to it. */
export const CEILING_DBTP = -1.5;

/** What is too loud is brought down over so long before it and after it, seconds. */
const REACH_S = 0.005;
/** Samples on either side that a point between two is reckoned from. */
const TAPS = 8;
/** Points between two samples, besides the first. */
const PHASES = 3;
/** Where no sample near a place is louder than this part of the ceiling, no point between them is over it. */
const NEAR = 0.6;

/** Weights of a windowed sinc (Blackman) for the points between two samples, one list a point. */
const WEIGHTS = Array.from({ length: PHASES }, (_, phase) => {
  const into = (phase + 1) / (PHASES + 1);
  const weights = Float64Array.from({ length: 2 * TAPS }, (_unused, index) => {
    const x = index - (TAPS - 1) - into;
    const at = (x + TAPS) / (2 * TAPS);
    const window = 0.42 - 0.5 * Math.cos(2 * Math.PI * at) + 0.08 * Math.cos(4 * Math.PI * at);
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * window;
  });
  const sum = weights.reduce((all, weight) => all + weight, 0);
  return weights.map((weight) => weight / sum);
});

/**
 * Brings down what would be too loud, and nothing else: where no peak is over the ceiling every sample is what it was. How much
 * a sample is brought down depends on nothing but the samples within {@link Limiter.latency} of it, so that pieces that are
 * limited by themselves join to the sample, and nothing pumps: ten milliseconds after a peak it is as it was.
 */
export class Limiter {
  /** So many samples later it comes out. */
  readonly latency: number;
  readonly #reach: number;
  readonly #ceiling = fromDbfs(CEILING_DBTP);
  /** Samples that went in, a ring a channel. */
  readonly #rings: readonly Float32Array[];
  readonly #mask: number;
  /** How far each sample has to be brought down by itself, and with what is near it: rings too. */
  readonly #needs: Float32Array;
  readonly #least: Float32Array;
  /** Weights of the gains round a sample. */
  readonly #smooth: Float64Array;
  /** Places of needs that may become the least of a window, the least first (a ring). */
  readonly #queue: Float64Array;
  #first = 0;
  #end = 0;
  /** How many of the least gains round the sample that comes out are below 1. */
  #lowered = 0;
  /** Samples that went in so far. */
  #at = 0;

  /** @param rate samples a second */
  constructor(rate: number, channels: number) {
    this.#reach = Math.max(1, Math.round(rate * REACH_S));
    this.latency = 2 * this.#reach + TAPS;
    // As far back as is looked from the sample that has come last.
    const size = 2 ** Math.ceil(Math.log2(3 * this.#reach + 4 * TAPS));
    this.#mask = size - 1;
    this.#rings = Array.from({ length: channels }, () => new Float32Array(size));
    this.#needs = new Float32Array(size).fill(1);
    this.#least = new Float32Array(size).fill(1);
    this.#queue = new Float64Array(size);
    const width = 2 * this.#reach + 1;
    const hann = Float64Array.from(
      { length: width },
      (_, index) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (index + 1)) / (width + 1)),
    );
    const sum = hann.reduce((all, weight) => all + weight, 0);
    this.#smooth = hann.map((weight) => weight / sum);
  }

  /** The loudest that any channel comes to from a sample to just before the next. */
  #peakAt(place: number): number {
    const mask = this.#mask;
    let peak = 0;
    for (const ring of this.#rings) {
      const here = Math.abs(ring[place & mask]!);
      if (here > peak) peak = here;
      const next = Math.abs(ring[(place + 1) & mask]!);
      const before = Math.abs(ring[(place - 1) & mask]!);
      const after = Math.abs(ring[(place + 2) & mask]!);
      if (Math.max(here, next, before, after) < NEAR * this.#ceiling) continue;
      for (const weights of WEIGHTS) {
        let value = 0;
        for (let tap = 0; tap < 2 * TAPS; tap++) {
          value += weights[tap]! * ring[(place + tap - (TAPS - 1)) & mask]!;
        }
        const size = Math.abs(value);
        if (size > peak) peak = size;
      }
    }
    return peak;
  }

  /**
   * Takes samples in and gives as many out, those that went in {@link latency} samples before; silence at first.
   *
   * @param input a plane a channel, all as long
   * @param output planes that are written; may be those of `input`
   */
  process(input: readonly Float32Array[], output: readonly Float32Array[]): void {
    const count = input[0]?.length ?? 0;
    const mask = this.#mask;
    const reach = this.#reach;
    for (let index = 0; index < count; index++) {
      const at = this.#at++;
      for (let channel = 0; channel < this.#rings.length; channel++) {
        this.#rings[channel]![at & mask] = input[channel]![index]!;
      }
      // What can be known of the sample so many before, now that its neighbours are here.
      const known = at - TAPS;
      const peak = this.#peakAt(known);
      const need = peak > this.#ceiling ? this.#ceiling / peak : 1;
      this.#needs[known & mask] = need;
      while (
        this.#end > this.#first &&
        this.#needs[this.#queue[(this.#end - 1) & mask]! & mask]! >= need
      )
        this.#end--;
      this.#queue[this.#end++ & mask] = known;
      while (this.#queue[this.#first & mask]! < known - 2 * reach) this.#first++;
      // The least of the window round this one.
      const middle = known - reach;
      const out = middle - reach;
      // It falls out of the window that is smoothed.
      if (this.#least[(out - reach - 1) & mask]! < 1) this.#lowered--;
      const least = this.#needs[this.#queue[this.#first & mask]! & mask]!;
      this.#least[middle & mask] = least;
      if (least < 1) this.#lowered++;
      let gain = 1;
      if (this.#lowered > 0) {
        gain = 0;
        for (let offset = -reach; offset <= reach; offset++) {
          gain += this.#smooth[offset + reach]! * this.#least[(out + offset) & mask]!;
        }
      }
      for (let channel = 0; channel < this.#rings.length; channel++) {
        output[channel]![index] = out < 0 ? 0 : this.#rings[channel]![out & mask]! * gain;
      }
    }
  }
}

/**
 * Limits samples that are all there, in place.
 *
 * @param samples channels interleaved
 */
export const limit = (samples: Float32Array, rate: number, channels: number): void => {
  const limiter = new Limiter(rate, channels);
  const frames = samples.length / channels;
  const block = 4_096;
  const planes = Array.from({ length: channels }, () => new Float32Array(block));
  for (let from = 0; from < frames + limiter.latency; from += block) {
    for (let index = 0; index < block; index++) {
      const frame = from + index;
      for (let channel = 0; channel < channels; channel++) {
        planes[channel]![index] = frame < frames ? samples[frame * channels + channel]! : 0;
      }
    }
    limiter.process(planes, planes);
    // Written behind where it is read.
    for (let index = 0; index < block; index++) {
      const frame = from + index - limiter.latency;
      if (frame < 0 || frame >= frames) continue;
      for (let channel = 0; channel < channels; channel++) {
        samples[frame * channels + channel] = planes[channel]![index]!;
      }
    }
  }
};
