import { shareOf } from './noise-reduction';
import { NOISE_REDUCTION_RATE } from './rate';
import { BANDS, loudnessOf, Spectrum, WINDOW } from './spectrum';

/** A room is listened to for so long at a time, samples: it may change. */
export const LISTENED = 15 * NOISE_REDUCTION_RATE;

const HOP = WINDOW / 2;
/** Of what is heard in that time, the quietest part is the room by itself. */
const QUIET = 0.03;
const LEAST_FRAMES = 8;
/** The quietest is quieter than the rest of it. */
const QUIETER = 1.5;
const QUIETER_DB = 10 * Math.log10(QUIETER);
/** Quieter than this there is nothing: a microphone that was off, or a gap. dBFS. */
const NOTHING_DBFS = -90;
/** Silent for longer than so many windows, two seconds, a microphone was off; for less, whatever recorded has cut the room away itself. */
const OFF_FRAMES = Math.round((2 * NOISE_REDUCTION_RATE) / HOP);
const VOICE = 0.9;

/** What a room sounds like for some seconds, by itself. */
export interface NoisePart {
  /** Of each band; windowed as {@link Spectrum} does. */
  readonly power: Float64Array;
  /** How much of it is to be taken down, 0 to 1. */
  readonly share: number;
}

/** What the room of a recording sounds like. */
export interface NoiseProfile {
  /** Sample that the first part begins with; each is {@link LISTENED} long. */
  readonly from: number;
  readonly parts: readonly NoisePart[];
  readonly voiceDbfs: number;
}

/** Listens to a recording from one of its samples on, and tells what its room sounds like. */
export class NoiseListener {
  readonly #from: number;
  readonly #spectrum = new Spectrum();
  readonly #part = new Float32Array(LISTENED);
  #filled = 0;
  readonly #powers: { readonly power: Float64Array; readonly dbfs: number }[] = [];
  readonly #found: (Float64Array | null)[] = [];
  /** How loud it was, window for window, dBFS. */
  readonly #levels: number[] = [];

  /** @param from number of the sample that comes first */
  constructor(from = 0) {
    this.#from = from;
  }

  /** @param samples one channel at {@link NOISE_REDUCTION_RATE}, following on the last */
  next(samples: Float32Array): void {
    for (let at = 0; at < samples.length;) {
      const some = samples.subarray(at, at + LISTENED - this.#filled);
      this.#part.set(some, this.#filled);
      this.#filled += some.length;
      at += some.length;
      if (this.#filled === LISTENED) this.#listen();
    }
  }

  finish(): NoiseProfile {
    if (this.#filled > 0) this.#listen();
    const levels = Float64Array.from(this.#levels).sort();
    const voiceDbfs = levels[Math.floor(VOICE * (levels.length - 1))] ?? NOTHING_DBFS;
    const parts = this.#found.map((_, index): NoisePart => {
      const power = this.#near(index);
      if (!power) return { power: new Float64Array(BANDS), share: 0 };
      return { power, share: shareOf(voiceDbfs - loudnessOf(power) + QUIETER_DB) };
    });
    return { from: this.#from, parts, voiceDbfs };
  }

  /** The room's own sound in a part, or in the one nearest to it in which it could be told. */
  #near(index: number): Float64Array | null {
    for (let by = 0; by < this.#found.length; by++) {
      const found = this.#found[index - by] ?? this.#found[index + by];
      if (found) return found;
    }
    return null;
  }

  #listen(): void {
    this.#powers.length = 0;
    const heard = this.#filled;
    let silent = 0;
    for (let from = 0; from + WINDOW <= this.#filled; from += HOP) {
      const power = new Float64Array(BANDS);
      this.#spectrum.take(this.#part, from, power);
      const dbfs = loudnessOf(power);
      this.#powers.push({ power, dbfs });
      silent = dbfs > NOTHING_DBFS ? 0 : silent + 1;
      if (silent === OFF_FRAMES) this.#powers.length -= silent;
      else if (silent > OFF_FRAMES) this.#powers.length--;
    }
    this.#filled = 0;
    for (const { dbfs } of this.#powers) this.#levels.push(dbfs);
    const many = Math.max(LEAST_FRAMES, Math.round(this.#powers.length * QUIET));
    // A short rest may have no pause in it, and the room is as it was before.
    const isRest = heard < LISTENED / 2 && this.#found.length > 0;
    if (isRest || this.#powers.length < 4 * many) {
      this.#found.push(null);
      return;
    }
    const quiet = this.#powers.sort((a, b) => a.dbfs - b.dbfs).slice(0, many);
    const mean = new Float64Array(BANDS);
    for (const { power } of quiet) {
      for (let band = 0; band < BANDS; band++) mean[band]! += (QUIETER * power[band]!) / many;
    }
    this.#found.push(mean);
  }
}

/** What the room sounds like at a sample, between the middles of two parts something of both. @param power filled */
export const noiseAt = (
  { from, parts }: NoiseProfile,
  sample: number,
  power: Float64Array,
): number => {
  const place = Math.max(0, Math.min(parts.length - 1, (sample - from) / LISTENED - 0.5));
  const first = Math.floor(place);
  const [a, b] = [parts[first], parts[Math.min(parts.length - 1, first + 1)]];
  if (!a || !b) return 0;
  const into = place - first;
  for (let band = 0; band < BANDS; band++) {
    power[band] = a.power[band]! * (1 - into) + b.power[band]! * into;
  }
  return a.share * (1 - into) + b.share * into;
};
