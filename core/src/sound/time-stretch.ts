import type { Rate } from '../time/rate';

/**
 * Recorded sound at another speed and its own pitch, by overlapping what fits best (waveform similarity overlap-add:
 * W. Verhelst and M. Roelands, “An overlap-add technique based on waveform similarity (WSOLA)”, ICASSP 1993).
 *
 * It is made in blocks over *recorded* time, each of which depends on nothing but the sound round it: whoever makes a
 * part of a film, wherever that was cut, and in whichever order, makes the same samples. Blocks meet where it is
 * quietest near their border.
 */

/** Length of a block of recorded sound, seconds. */
const BLOCK_S = 4;
/** How far from its border it is looked for where it is quietest, seconds. */
const SEAM_REACH_S = 0.5;
/** How much is heard at once where that is looked for, and how far apart, seconds. */
const SEAM_WINDOW_S = 0.02;
const SEAM_STEP_S = 0.005;
/** Two blocks overlap by this much of what is made, seconds. */
const OVERLAP_S = 0.01;
/** Length of the pieces that are laid over one another, by half, seconds: two periods of a low voice. */
const PIECE_S = 0.03;
/** How far from its place a piece is looked for that fits, either way, seconds. */
const REACH_S = 0.008;
/** The search goes by averages of so many samples first, then by each. */
const COARSE = 8;

/** Some recorded sound. */
export interface RecordedSound {
  /** Samples a second. */
  readonly sampleRate: number;
  /** The recorded sample that it begins with. What lies before 0 and after its end is silent. */
  readonly from: number;
  /** Equally many samples in each. */
  readonly channels: readonly Float32Array[];
}

/** Some sound at another speed. */
export interface StretchedSound {
  /** Sample that it begins with, where sample 0 is that of recorded time 0. */
  readonly from: number;
  readonly channels: readonly Float32Array[];
}

/** A part of recorded sound, in samples; half open. */
interface Part {
  readonly from: number;
  readonly to: number;
}

const inSamples = (seconds: number, sampleRate: number): number => Math.round(seconds * sampleRate);

/** Where the border before a block lies as the crow flies, recorded samples. */
const borderOf = (block: number, sampleRate: number): number =>
  Math.max(0, block) * inSamples(BLOCK_S, sampleRate);

/** The blocks that some of the sound at a rate lies in; from and to are samples at that rate. */
export const blocksOf = (rate: Rate, { from, to }: Part, sampleRate: number): number[] => {
  const reach = inSamples(SEAM_REACH_S + SEAM_WINDOW_S, sampleRate);
  const recorded = (sample: number) => (sample * rate.recorded) / rate.film;
  const overlap = inSamples(OVERLAP_S, sampleRate);
  const step = inSamples(BLOCK_S, sampleRate);
  const first = Math.max(0, Math.floor((recorded(from - overlap) - reach) / step));
  const last = Math.max(first, Math.floor((recorded(to) + reach) / step));
  return Array.from({ length: last - first + 1 }, (_, index) => first + index);
};

/** The recorded sound that a block is made from. */
export const neededFor = (block: number, sampleRate: number): Part => {
  const reach = inSamples(SEAM_REACH_S + 2 * SEAM_WINDOW_S, sampleRate);
  // The last pieces of a block reach past its end: they are as long as what overlaps, at any speed that is heard.
  const past = inSamples(2 * (PIECE_S + REACH_S + OVERLAP_S), sampleRate) * 2;
  return {
    from: Math.max(0, borderOf(block, sampleRate) - reach - past),
    to: borderOf(block + 1, sampleRate) + reach + past,
  };
};

/** All channels as one, for what is looked for. */
const asOne = ({ channels }: RecordedSound): Float32Array => {
  const [first] = channels;
  if (!first || channels.length === 1) return first ?? new Float32Array(0);
  const one = new Float32Array(first.length);
  for (const channel of channels) {
    for (let at = 0; at < one.length; at++) one[at]! += channel[at]!;
  }
  return one;
};

/** Where it is quietest near the border before a block, as a recorded sample. */
const seamOf = (one: Float32Array, sound: RecordedSound, block: number): number => {
  if (block <= 0) return 0;
  const { sampleRate, from } = sound;
  const border = borderOf(block, sampleRate);
  const reach = inSamples(SEAM_REACH_S, sampleRate);
  const window = inSamples(SEAM_WINDOW_S, sampleRate);
  const step = inSamples(SEAM_STEP_S, sampleRate);
  let best = border;
  let least = Infinity;
  for (let seam = border - reach; seam <= border + reach; seam += step) {
    let energy = 0;
    const start = seam - window / 2 - from;
    for (let at = Math.max(0, start); at < Math.min(one.length, start + window); at++) {
      energy += one[at]! * one[at]!;
    }
    if (energy < least) {
      least = energy;
      best = seam;
    }
  }
  return best;
};

/** Averages of so many samples, on a grid of recorded samples: the same wherever the sound begins. */
interface Coarse {
  readonly averages: Float32Array;
  /** Sample of the sound that the first average begins with. */
  readonly offset: number;
}

const averaged = (one: Float32Array, from: number): Coarse => {
  const offset = (COARSE - (from % COARSE)) % COARSE;
  const averages = new Float32Array(Math.max(0, Math.floor((one.length - offset) / COARSE)));
  for (let at = 0; at < averages.length; at++) {
    let sum = 0;
    for (let more = 0; more < COARSE; more++) sum += one[offset + at * COARSE + more]!;
    averages[at] = sum / COARSE;
  }
  return { averages, offset };
};

/** How alike two places of a sound are, over some samples: their correlation by the energy of the second. */
const likeness = (
  sound: Float32Array,
  wanted: number,
  tried: number,
  length: number,
  step: number,
): number => {
  let both = 0;
  let energy = 1e-9;
  // What lies outside is silent.
  const first = Math.max(0, -wanted, -tried);
  const end = Math.min(length, sound.length - wanted, sound.length - tried);
  for (let at = first; at < end; at += step) {
    const one = sound[wanted + at]!;
    const other = sound[tried + at]!;
    both += one * other;
    energy += other * other;
  }
  return both / Math.sqrt(energy);
};

/** Offsets in order of distance: 0, -1, 1, -2, 2 … Of equally good places the nearest wins. */
const outwards = (reach: number): number[] =>
  Array.from({ length: 2 * reach + 1 }, (_, index) =>
    index % 2 === 0 ? index / 2 : -(index + 1) / 2,
  );

/** The place near another that goes on best as what was laid last does. Places count from the beginning of the sound. */
const bestPlace = (
  one: Float32Array,
  { averages, offset }: Coarse,
  near: number,
  wanted: number,
  length: number,
  reach: number,
): number => {
  let best = near;
  let most = -Infinity;
  const coarseLength = Math.floor(length / COARSE);
  const coarseWanted = Math.round((wanted - offset) / COARSE);
  const middle = Math.round((near - offset) / COARSE);
  const coarseReach = Math.floor(reach / COARSE);
  for (const step of outwards(coarseReach)) {
    const alike = likeness(averages, coarseWanted, middle + step, coarseLength, 1);
    if (alike > most) {
      most = alike;
      best = step === 0 ? near : (middle + step) * COARSE + offset;
    }
  }
  const about = best;
  most = -Infinity;
  for (const step of outwards(COARSE)) {
    const alike = likeness(one, wanted, about + step, length, 2);
    if (alike > most) {
      most = alike;
      best = about + step;
    }
  }
  return best;
};

/**
 * A block of sound at another speed. Neighbours overlap a little, faded: added up they are the sound.
 *
 * @param sound what {@link neededFor} says, or more
 */
export const stretchedBlock = (sound: RecordedSound, block: number, rate: Rate): StretchedSound => {
  const { sampleRate, from: soundFrom, channels } = sound;
  const one = asOne(sound);
  const coarse = averaged(one, soundFrom);
  const seams = [seamOf(one, sound, block), seamOf(one, sound, block + 1)] as const;
  const made = (recorded: number) => Math.round((recorded * rate.film) / rate.recorded);
  const overlap = inSamples(OVERLAP_S, sampleRate);
  const from = made(seams[0]);
  const length = made(seams[1]) - from + overlap;
  const hop = inSamples(PIECE_S / 2, sampleRate);
  const reach = inSamples(REACH_S, sampleRate);
  const out = channels.map(() => new Float32Array(length));
  // Rising half of a Hann window; falling and rising add up to 1.
  const rise = Float32Array.from(
    { length: hop },
    (_, at) => 0.5 - 0.5 * Math.cos((Math.PI * (at + 0.5)) / hop),
  );
  const start = seams[0] - soundFrom;
  let place = start;
  for (let at = 0; at < length; at += hop) {
    // A piece fades in for one hop and out for the next, so its middle lies at the end of the first.
    const near = Math.round(start + ((at + hop) * rate.recorded) / rate.film - hop);
    const next = bestPlace(one, coarse, near, place, hop, reach);
    const count = Math.min(hop, length - at);
    channels.forEach((channel, index) => {
      const into = out[index]!;
      for (let more = 0; more < count; more++) {
        // What was laid last goes on, falling, while the next rises.
        const falls = channel[place + more] ?? 0;
        const rises = channel[next + more] ?? 0;
        into[at + more] = falls * (1 - rise[more]!) + rises * rise[more]!;
      }
    });
    place = next + hop;
  }
  for (const channel of out) {
    for (let at = 0; at < overlap; at++) {
      const part = (at + 0.5) / overlap;
      if (block > 0) channel[at]! *= part;
      channel[length - overlap + at]! *= 1 - part;
    }
  }
  return { from, channels: out };
};
