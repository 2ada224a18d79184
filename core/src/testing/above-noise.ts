/** Mean of the squares of some samples. */
export const powerOf = (samples: ArrayLike<number>, from = 0, to = samples.length): number => {
  let sum = 0;
  for (let at = from; at < to; at++) sum += samples[at]! ** 2;
  return sum / (to - from);
};

/**
 * How far what doesn't go with a pure sound lies below it in what is heard, dB: its signal-to-noise ratio, whatever it was made
 * louder by (scale-invariant; Le Roux et al., 2019). For tests and benchmarks.
 */
export const aboveNoise = (heard: Float32Array, pure: Float32Array): number => {
  let [both, own] = [0, 0];
  for (let at = 0; at < pure.length; at++) {
    both += heard[at]! * pure[at]!;
    own += pure[at]! ** 2;
  }
  const scale = both / own;
  const rest = heard.map((sample, at) => sample - scale * pure[at]!);
  return 10 * Math.log10((scale ** 2 * own) / pure.length / (powerOf(rest) + 1e-20));
};
