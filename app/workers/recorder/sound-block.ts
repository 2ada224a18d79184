/** How samples are given: how many a second, and in how many channels. */
export interface Form {
  /** Hz. */
  readonly sampleRate: number;
  readonly channels: number;
}

/** Samples as a source delivers them, one plane a channel after another. */
export interface Block extends Form {
  readonly planes: Float32Array<ArrayBuffer>;
  /** Samples in each channel. */
  readonly frames: number;
  /** µs. */
  readonly lengthUs: number;
}

/** Channels made more by giving each the first, or fewer by the mean of all. */
const remix = ({ planes, frames, channels }: Block, wanted: number): Float32Array<ArrayBuffer> => {
  const mixed = new Float32Array(frames * wanted);
  if (wanted > channels) {
    for (let channel = 0; channel < wanted; channel++) {
      mixed.set(planes.subarray(0, frames), channel * frames);
    }
    return mixed;
  }
  for (let index = 0; index < frames; index++) {
    let sum = 0;
    for (let channel = 0; channel < channels; channel++) sum += planes[channel * frames + index]!;
    mixed[index] = sum / channels;
  }
  return mixed;
};

/** As many samples as the other rate has in the same time, each on the line between its neighbours. */
const resample = (
  { planes, frames, channels, sampleRate }: Block,
  wanted: number,
): { planes: Float32Array<ArrayBuffer>; frames: number } => {
  const made = Math.max(1, Math.round((frames * wanted) / sampleRate));
  const resampled = new Float32Array(made * channels);
  for (let channel = 0; channel < channels; channel++) {
    const plane = planes.subarray(channel * frames, (channel + 1) * frames);
    for (let index = 0; index < made; index++) {
      const at = Math.min(frames - 1, (index * sampleRate) / wanted);
      const before = Math.floor(at);
      const from = plane[before]!;
      const to = plane[Math.min(frames - 1, before + 1)]!;
      resampled[channel * made + index] = from + (to - from) * (at - before);
    }
  }
  return { planes: resampled, frames: made };
};

/**
 * The same sound in another form: a device that takes another's place may count otherwise, and an encoder
 * goes on as it began. (Told by the first block, so that nearly always nothing is to be done.)
 */
export const inForm = (block: Block, form: Form): Block => {
  let same = block;
  if (same.channels !== form.channels) {
    same = { ...same, planes: remix(same, form.channels), channels: form.channels };
  }
  if (same.sampleRate !== form.sampleRate) {
    const { planes, frames } = resample(same, form.sampleRate);
    const lengthUs = (frames * 1e6) / form.sampleRate;
    same = { ...same, planes, frames, sampleRate: form.sampleRate, lengthUs };
  }
  return same;
};
