import { rateOf } from '../lesson/speed';
import { blocksOf, neededFor, stretchedBlock, type RecordedSound } from './time-stretch';

const RATE = 48_000;

/** Something like a voice: a pitch with overtones that glides a little, in words of a second with quiet between. */
const voice = (seconds: number, pitch: number, sampleRate = RATE): Float32Array => {
  const samples = new Float32Array(seconds * sampleRate);
  let phase = 0;
  for (let at = 0; at < samples.length; at++) {
    const time = at / sampleRate;
    phase += (2 * Math.PI * pitch * (1 + 0.05 * Math.sin(time * 3))) / sampleRate;
    const word = Math.max(0, Math.sin(Math.PI * time * 1.1)) ** 0.5;
    samples[at] =
      0.3 * word * (Math.sin(phase) + 0.5 * Math.sin(2 * phase) + 0.3 * Math.sin(5 * phase));
  }
  return samples;
};

const part = (samples: Float32Array, block: number, sampleRate: number): RecordedSound => {
  const { from, to } = neededFor(block, sampleRate);
  return { sampleRate, from, channels: [samples.slice(from, to)] };
};

/** All of a sound at a speed, its blocks added up. */
const stretched = (samples: Float32Array, speed: number, sampleRate = RATE): Float32Array => {
  const rate = rateOf(speed);
  const out = new Float32Array(Math.round((samples.length * rate.film) / rate.recorded));
  for (const block of blocksOf(rate, { from: 0, to: out.length }, sampleRate)) {
    const { from, channels } = stretchedBlock(part(samples, block, sampleRate), block, rate);
    channels[0]!.forEach((sample, at) => {
      if (from + at < out.length) out[from + at]! += sample;
    });
  }
  return out;
};

const rms = (samples: Float32Array, from = 0, to = samples.length): number => {
  let sum = 0;
  for (let at = from; at < to; at++) sum += samples[at]! ** 2;
  return Math.sqrt(sum / Math.max(1, to - from));
};

/** The pitch of a stretch by its autocorrelation, Hz. */
const pitchOf = (samples: Float32Array, from: number, sampleRate: number): number => {
  let best = 0;
  let most = -Infinity;
  for (let lag = Math.round(sampleRate / 400); lag < sampleRate / 60; lag++) {
    let sum = 0;
    for (let at = from; at < from + 4_000; at++) sum += samples[at]! * samples[at + lag]!;
    // The first of those that are as good: the others are periods of several.
    if (sum > most * 1.02) {
      most = sum;
      best = lag;
    }
  }
  return sampleRate / best;
};

describe.each([50, 75, 150, 200])('sound at %i hundredths of its speed', (speed) => {
  it.each([90, 210])('keeps a pitch of %i Hz, and its words come when they should', (pitch) => {
    const samples = voice(9, pitch);
    const made = stretched(samples, speed);
    expect(made).toHaveLength(Math.round((samples.length * 100) / speed));
    // In the middle of some words.
    for (const word of [0.45, 4.09, 7.73]) {
      const at = Math.round((word * RATE * 100) / speed);
      const before = pitchOf(samples, Math.round(word * RATE), RATE);
      expect(Math.abs(pitchOf(made, at, RATE) / before - 1)).toBeLessThan(0.03);
      expect(
        rms(made, at, at + 4_800) / rms(samples, word * RATE, word * RATE + 4_800),
      ).toBeCloseTo(1, 0);
    }
    // Between them it is as quiet as it was: nothing is heard twice, or late by more than a piece.
    for (const pause of [1.36, 5, 8.63]) {
      const at = Math.round((pause * RATE * 100) / speed);
      expect(rms(made, at - 480, at + 480)).toBeLessThan(0.03);
    }
  });
});

it.each([50, 75, 125, 150, 200])('starts sounds on time at %i %%', (speed) => {
  const samples = new Float32Array(20 * RATE);
  const starts = Array.from({ length: 15 }, (_, index) => Math.round((1 + index * 1.137) * RATE));
  for (const start of starts)
    for (let at = 0; at < 0.2 * RATE; at++)
      samples[start + at] = 0.5 * Math.sin((2 * Math.PI * 1_000 * at) / RATE);
  const made = stretched(samples, speed);
  const late = starts.map((start) => {
    const wanted = Math.round((start * 100) / speed);
    for (let at = wanted - RATE / 10; at < wanted + RATE / 10; at++)
      if (Math.abs(made[at]!) > 0.125) return ((at - wanted) / RATE) * 1000;
    return Infinity;
  });
  // At lower speeds an onset occurs twice within a piece; the first one counts.
  expect(Math.min(...late)).toBeGreaterThan(speed < 100 ? -15 : -6);
  expect(Math.max(...late)).toBeLessThan(6);
});

it('has no hole and no click: how loud it is never leaps', () => {
  const steady = new Float32Array(10 * RATE);
  for (let at = 0; at < steady.length; at++)
    steady[at] = 0.5 * Math.sin((2 * Math.PI * 150 * at) / RATE);
  for (const speed of [50, 150, 200]) {
    const made = stretched(steady, speed);
    for (let at = RATE / 2; at < made.length - RATE / 2; at += 480) {
      // Where blocks meet in a tone that never pauses, it may be a little lower for a hundredth of a second.
      expect(rms(made, at, at + 960)).toBeGreaterThan(0.25);
      expect(rms(made, at, at + 960)).toBeLessThan(0.38);
    }
  }
});

it('is the same whichever part is asked for: a block needs nothing but what is said', () => {
  const samples = voice(14, 140);
  const rate = rateOf(150);
  const block = 2;
  const { from, to } = neededFor(block, RATE);
  const more = {
    sampleRate: RATE,
    from: from - 7_777,
    channels: [samples.slice(from - 7_777, to + 3_001)],
  };
  const one = stretchedBlock(part(samples, block, RATE), block, rate);
  const other = stretchedBlock(more, block, rate);
  expect(other.from).toBe(one.from);
  expect(one.channels[0]!.every((sample, at) => sample === other.channels[0]![at])).toBe(true);
});
