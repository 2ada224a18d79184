import FFT from 'fft.js';
import { NOISE_REDUCTION_RATE } from './rate';

/** Samples that are looked at together: 43 ms, in which 23 Hz are told apart. At {@link NOISE_REDUCTION_RATE}. */
export const WINDOW = 2_048;
/** Bands from 0 Hz to half the rate. */
export const BANDS = WINDOW / 2 + 1;
/** The root of a Hann window: put on twice, once when taken apart and once when put together, overlapping ones add up. */
const ROOT_HANN = Float64Array.from({ length: WINDOW }, (_, at) =>
  Math.sin((Math.PI * at) / WINDOW),
);

/** What the squares of the window's samples add up to. */
const WINDOW_POWER = WINDOW / 2;

/** The band that a frequency lies in, Hz. */
export const bandOf = (hz: number): number => Math.round((hz * WINDOW) / NOISE_REDUCTION_RATE);

/** Takes a window of samples apart into bands, and puts it together again. One serves one caller at a time. */
export class Spectrum {
  readonly #fft = new FFT(WINDOW);
  readonly #windowed = new Array<number>(WINDOW).fill(0);
  readonly #bands = this.#fft.createComplexArray() as number[];
  readonly #out = this.#fft.createComplexArray() as number[];

  /**
   * Power of each band of a window of samples.
   *
   * @param power filled; {@link BANDS} long
   */
  take(samples: Float32Array, from: number, power: Float64Array): void {
    for (let at = 0; at < WINDOW; at++) this.#windowed[at] = samples[from + at]! * ROOT_HANN[at]!;
    this.#fft.realTransform(this.#bands, this.#windowed);
    for (let band = 0; band < BANDS; band++) {
      power[band] = this.#bands[2 * band]! ** 2 + this.#bands[2 * band + 1]! ** 2;
    }
  }

  /** Adds what was taken last to `out`, each band as much louder as `gains` say. */
  give(gains: Float64Array, out: Float64Array, from: number, factor: number): void {
    for (let band = 0; band < BANDS; band++) {
      this.#bands[2 * band]! *= gains[band]!;
      this.#bands[2 * band + 1]! *= gains[band]!;
    }
    this.#fft.completeSpectrum(this.#bands);
    this.#fft.inverseTransform(this.#out, this.#bands);
    for (let at = 0; at < WINDOW; at++) {
      out[from + at]! += this.#out[2 * at]! * ROOT_HANN[at]! * factor;
    }
  }
}

/** How loud a spectrum is, dBFS (RMS). @param power of each band; -200 where there is nothing */
export const loudnessOf = (power: ArrayLike<number>): number => {
  let sum = 0;
  for (let band = 0; band < power.length; band++) sum += power[band]!;
  return 10 * Math.log10((2 * sum) / (WINDOW * WINDOW_POWER) + 1e-20);
};
