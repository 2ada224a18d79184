import { REDUCED_DB, type NoiseReduction } from './noise-reduction';
import { CLICK_CONTEXT, softenClicks } from './clicks';
import { noiseAt, type NoiseProfile } from './noise-profile';
import { NOISE_REDUCTION_RATE } from './rate';
import { BANDS, bandOf, loudnessOf, Spectrum, WINDOW } from './spectrum';

/** Each window begins so many samples after the last: four lie over each sample. */
const HOP = WINDOW / 4;
/** Four root-Hann windows put on twice add up to two. */
const OVERLAP = 0.5;
/** Clicks are looked for in so many samples at a time. */
const BLOCK = NOISE_REDUCTION_RATE;

/** How slowly it is believed that a voice has begun or ended: of what was before, this part stays (Ephraim and Malah, 1984). */
const SLOWLY = 0.96;

/** Where a breath that blows into the microphone is, and where a voice is that would go with it, in bands. */
const BLOWN = [1, bandOf(70)] as const;
const VOICED = [bandOf(120), bandOf(1_000)] as const;
/** So many times as strong as the voice, what is blown is brought down to that, and by no more than so much. */
const BLOWN_MOST = 4;
const BLOWN_LEAST_GAIN = 0.12;
/** What is blown is loud: quieter below the voice than this it is the room. dB. */
const BLOWN_BELOW_DB = 14;

const sumOf = (power: Float64Array, [from, to]: readonly [number, number]): number => {
  let sum = 0;
  for (let band = from; band <= to; band++) sum += power[band]!;
  return sum;
};

/**
 * The gain of a band by how much stronger it is than the room: least mean square of the logarithm of amplitudes (Ephraim and
 * Malah, 1985), its integral by the approximation of Martin, Wittke and Jax.
 */
const gainOf = (prior: number, posterior: number): number => {
  const wiener = prior / (1 + prior);
  const v = wiener * posterior;
  const integral =
    v < 0.1
      ? -2.31 * Math.log10(Math.max(v, 1e-12)) - 0.6
      : v < 1
        ? -1.544 * Math.log10(v) + 0.166
        : 10 ** (-0.52 * v - 0.26);
  return Math.min(1, wiener * Math.exp(integral / 2));
};

/**
 * Takes the room from under a voice: of each band what the room by itself has there, where it is to be heard at all; and softens
 * clicks, and breath that blows into the microphone. Where there is nothing of all that, samples stay as they are but for
 * rounding. What comes out begins with the sample that went in first.
 */
export class NoiseReducer {
  readonly #profile: NoiseProfile;
  readonly #down: number;
  readonly #spectrum = new Spectrum();
  /** What came in and hasn't been looked through for clicks, with what goes before it. */
  #raw: Float32Array = new Float32Array(0);
  #begun = false;
  /** What lies in windows that aren't whole yet. */
  #held: Float32Array = new Float32Array(WINDOW - HOP);
  #added = new Float64Array(WINDOW);
  /** Number of the sample that the next window begins with. */
  #at: number;
  /** Samples that went in and haven't come out. */
  #owed = 0;
  /** Samples before the first that went in, of which nothing is given. */
  #skip = WINDOW - HOP;
  readonly #power = new Float64Array(BANDS);
  readonly #room = new Float64Array(BANDS);
  readonly #before = new Float64Array(BANDS);
  readonly #gains = new Float64Array(BANDS);

  /** @param from number of the sample that comes first */
  constructor(profile: NoiseProfile, reduction: NoiseReduction, from = 0) {
    this.#profile = profile;
    this.#down = REDUCED_DB[reduction];
    this.#at = from - (WINDOW - HOP);
  }

  /** @param samples one channel at {@link NOISE_REDUCTION_RATE}, following on the last @returns what is done */
  next(samples: Float32Array): Float32Array {
    this.#owed += samples.length;
    let all = joined([this.#raw, samples]);
    if (!this.#begun && all.length >= CLICK_CONTEXT) {
      // Before it there was what comes after it: that it begins is no click.
      all = joined([all.slice(0, CLICK_CONTEXT).reverse(), all]);
      this.#begun = true;
    }
    const out: Float32Array[] = [];
    let from = 0;
    while (this.#begun && all.length - from >= BLOCK + 2 * CLICK_CONTEXT) {
      out.push(this.#block(all.slice(from, from + BLOCK + 2 * CLICK_CONTEXT)));
      from += BLOCK;
    }
    this.#raw = all.slice(from);
    const done = joined(out);
    this.#owed -= done.length;
    return done;
  }

  /** Nothing follows. @returns the rest */
  finish(): Float32Array {
    const before = this.#begun ? [] : [new Float32Array(CLICK_CONTEXT)];
    // Nor is it one that it ends.
    const after = new Float32Array(CLICK_CONTEXT);
    after.set(this.#raw.slice(-CLICK_CONTEXT).reverse());
    const block = this.#block(joined([...before, this.#raw, after]));
    return joined([block, this.#windows(new Float32Array(WINDOW))]).subarray(0, this.#owed);
  }

  /** What lies between the contexts of a block. */
  #block(samples: Float32Array): Float32Array {
    // Those of the context before were softened with the block before; they are only looked at.
    softenClicks(samples);
    return this.#windows(samples.subarray(CLICK_CONTEXT, samples.length - CLICK_CONTEXT));
  }

  #windows(samples: Float32Array): Float32Array {
    const all = joined([this.#held, samples]);
    const many = Math.max(0, Math.floor((all.length - WINDOW) / HOP) + 1);
    const out = new Float32Array(many * HOP);
    for (let index = 0; index < many; index++) {
      this.#window(all, index * HOP);
      for (let at = 0; at < HOP; at++) out[index * HOP + at] = this.#added[at]!;
      this.#added.copyWithin(0, HOP);
      this.#added.fill(0, WINDOW - HOP);
    }
    this.#held = all.slice(many * HOP);
    const skipped = Math.min(this.#skip, out.length);
    this.#skip -= skipped;
    return out.subarray(skipped);
  }

  #window(samples: Float32Array, from: number): void {
    this.#spectrum.take(samples, from, this.#power);
    const share = noiseAt(this.#profile, this.#at + WINDOW / 2, this.#room);
    this.#at += HOP;
    const least = 10 ** ((-this.#down * share) / 20);
    for (let band = 0; band < BANDS; band++) {
      const posterior = this.#power[band]! / (this.#room[band]! + 1e-12);
      const prior = SLOWLY * this.#before[band]! + (1 - SLOWLY) * Math.max(0, posterior - 1);
      const gain = gainOf(prior, posterior);
      this.#before[band] = gain * gain * posterior;
      this.#gains[band] = share === 0 ? 1 : Math.max(least, gain);
    }
    this.#calm();
    this.#spectrum.give(this.#gains, this.#added, 0, OVERLAP);
  }

  /** Brings breath that blows into the microphone down. */
  #calm(): void {
    const blown = sumOf(this.#power, BLOWN);
    const most = BLOWN_MOST * sumOf(this.#power, VOICED);
    if (blown <= most) return;
    const dbfs = loudnessOf(this.#power.subarray(BLOWN[0], BLOWN[1] + 1));
    if (dbfs < this.#profile.voiceDbfs - BLOWN_BELOW_DB) return;
    const gain = Math.max(BLOWN_LEAST_GAIN, Math.sqrt(most / blown));
    for (let band = 0; band < VOICED[0]; band++) this.#gains[band]! *= gain;
  }
}

const joined = (parts: readonly Float32Array[]): Float32Array => {
  const out = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
};
