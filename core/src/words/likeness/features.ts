import FFT from 'fft.js';

/** How far apart two looks at a sound are, seconds. */
export const STEP_S = 0.02;
const WINDOW_S = 0.032;
const BANDS = 24;
const LOW_HZ = 120;
const HIGH_HZ = 7_000;
/** Numbers that a look at a sound is: mel-frequency cepstral coefficients (Davis and Mermelstein, 1980), without the first: how loud it is. */
export const FEATURES = 12;

const mel = (hz: number): number => 2_595 * Math.log10(1 + hz / 700);
const hzOf = (m: number): number => 700 * (10 ** (m / 2_595) - 1);

/** Weights of triangles that each take a band together, equally wide to the ear. */
const bandsOf = (size: number, rate: number): Float64Array[] => {
  const top = Math.min(HIGH_HZ, rate / 2 - 100);
  const corners = Array.from({ length: BANDS + 2 }, (_, at) =>
    hzOf(mel(LOW_HZ) + ((mel(top) - mel(LOW_HZ)) * at) / (BANDS + 1)),
  );
  return Array.from({ length: BANDS }, (_, band) => {
    const [from, middle, to] = [corners[band]!, corners[band + 1]!, corners[band + 2]!];
    return Float64Array.from({ length: size / 2 + 1 }, (__, bin) => {
      const hz = (bin * rate) / size;
      return Math.max(0, Math.min((hz - from) / (middle - from), (to - hz) / (to - middle)));
    });
  });
};

/** What a sound is like over time, one look after another: {@link FEATURES} numbers each, and how loud it is there, dBFS. */
export interface Likeness {
  readonly values: Float32Array;
  readonly dbfs: Float32Array;
}

/**
 * Looks at samples of one channel, full scale ±1.
 *
 * @param rate samples a second
 */
export const likenessOf = (samples: Float32Array, rate: number): Likeness => {
  const size = 2 ** Math.ceil(Math.log2(WINDOW_S * rate));
  const step = STEP_S * rate;
  const fft = new FFT(size);
  const bands = bandsOf(size, rate);
  const window = Float64Array.from(
    { length: size },
    (_, at) => 0.54 - 0.46 * Math.cos((2 * Math.PI * at) / (size - 1)),
  );
  const cosines = Array.from({ length: FEATURES }, (_, one) =>
    Float64Array.from({ length: BANDS }, (__, band) =>
      Math.cos((Math.PI * (one + 1) * (band + 0.5)) / BANDS),
    ),
  );
  const many = Math.max(0, Math.floor((samples.length - size) / step) + 1);
  const values = new Float32Array(many * FEATURES);
  const dbfs = new Float32Array(many);
  const taken = new Array<number>(size).fill(0);
  const out = fft.createComplexArray() as number[];
  const logs = new Float64Array(BANDS);
  for (let look = 0; look < many; look++) {
    const from = Math.round(look * step);
    let power = 0;
    for (let at = 0; at < size; at++) {
      const sample = samples[from + at] ?? 0;
      power += sample * sample;
      // High sounds are made as strong as low ones.
      taken[at] = (sample - 0.97 * (samples[from + at - 1] ?? 0)) * window[at]!;
    }
    dbfs[look] = 10 * Math.log10(power / size + 1e-12);
    fft.realTransform(out, taken);
    for (let band = 0; band < BANDS; band++) {
      const weights = bands[band]!;
      let sum = 1e-9;
      for (let bin = 1; bin < weights.length; bin++) {
        const weight = weights[bin]!;
        if (weight > 0) sum += weight * (out[2 * bin]! ** 2 + out[2 * bin + 1]! ** 2);
      }
      logs[band] = Math.log(sum);
    }
    for (let one = 0; one < FEATURES; one++) {
      let sum = 0;
      for (let band = 0; band < BANDS; band++) sum += logs[band]! * cosines[one]![band]!;
      values[look * FEATURES + one] = sum;
    }
  }
  return { values, dbfs };
};

/** Looks with the mean and the spread of each of their numbers taken out: what a microphone and a voice add to all of them. */
export const evened = (values: Float32Array): Float32Array => {
  const many = values.length / FEATURES;
  const out = new Float32Array(values.length);
  for (let one = 0; one < FEATURES; one++) {
    let [sum, squares] = [0, 0];
    for (let look = 0; look < many; look++) {
      const value = values[look * FEATURES + one]!;
      sum += value;
      squares += value * value;
    }
    const mean = sum / Math.max(1, many);
    const spread = Math.sqrt(Math.max(1e-9, squares / Math.max(1, many) - mean * mean));
    for (let look = 0; look < many; look++)
      out[look * FEATURES + one] = (values[look * FEATURES + one]! - mean) / spread;
  }
  return out;
};
