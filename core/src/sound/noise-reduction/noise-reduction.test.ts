import * as fc from 'fast-check';
import { aboveNoise, powerOf } from '../../testing/above-noise';
import type { LevelLine } from '../level-line';
import { noiseIn, noiseInWords, REDUCED_DB } from './noise-reduction';
import { softenClicks } from './clicks';
import { fillGap } from './fill-gap';
import { NOISE_REDUCTION_RATE } from './rate';
import { NoiseListener } from './noise-profile';
import { NoiseReducer } from './noise-reducer';

/** Numbers between -1 and 1, always the same. */
const numbers = (seed: number) => {
  let state = seed;
  return () => {
    state = (state * 48_271) % 2_147_483_647;
    return (state / 2_147_483_647) * 2 - 1;
  };
};

const SECONDS = 16;
const LENGTH = SECONDS * NOISE_REDUCTION_RATE;

/** Something like a voice: vowels of some harmonics, in words with pauses between them, and hisses. */
const voice = (length = LENGTH): Float32Array => {
  const random = numbers(7);
  return Float32Array.from({ length }, (_, at) => {
    const t = at / NOISE_REDUCTION_RATE;
    const said =
      Math.max(0, Math.sin(2 * Math.PI * t * 0.9)) ** 0.5 *
      Math.max(0, Math.min(1, (4 - (t % 5)) * 9));
    const pitch = 2 * Math.PI * (140 * t + 3 * Math.sin(2 * t));
    let vowel = 0;
    for (let harmonic = 1; harmonic < 9; harmonic++)
      vowel += Math.sin(pitch * harmonic + harmonic) / harmonic;
    const hiss = t % 1.1 < 0.09 ? random() * 0.05 : 0;
    return said * (0.18 * vowel + hiss);
  });
};

/** A fan: noise that grows towards the low. */
const fan = (loud: number, length = LENGTH): Float32Array => {
  const random = numbers(11);
  let low = 0;
  return Float32Array.from({ length }, () => {
    low = 0.9 * low + 0.1 * random();
    return loud * (low * 2 + random() * 0.2);
  });
};

const mixed = (a: Float32Array, b: Float32Array) => a.map((sample, at) => sample + (b[at] ?? 0));

const profileOf = (samples: Float32Array, from = 0) => {
  const listener = new NoiseListener(from);
  listener.next(samples);
  return listener.finish();
};

const noiseReduced = (
  samples: Float32Array,
  reduction: 'gently' | 'firmly' = 'firmly',
  sizes: readonly number[] = [37_000],
): Float32Array => {
  const cleaner = new NoiseReducer(profileOf(samples), reduction);
  const out = new Float32Array(samples.length + 10);
  let [at, put] = [0, 0];
  const keep = (part: Float32Array) => {
    out.set(part, put);
    put += part.length;
  };
  for (let turn = 0; at < samples.length; turn++) {
    const size = sizes[turn % sizes.length]!;
    keep(cleaner.next(samples.subarray(at, at + size)));
    at += size;
  }
  keep(cleaner.finish());
  expect(put).toBe(samples.length);
  return out.subarray(0, put);
};

const db = (power: number) => 10 * Math.log10(power + 1e-20);

const farthest = (a: Float32Array, b: Float32Array, from = 0, to = a.length): number => {
  let most = 0;
  for (let at = from; at < to; at++) most = Math.max(most, Math.abs(a[at]! - b[at]!));
  return most;
};

describe('the room under a voice', () => {
  const pure = voice();

  it('is left alone where there is none: every sample is what it was', () => {
    expect(farthest(noiseReduced(pure), pure)).toBeLessThan(1e-6);
  });

  it.each([
    ['a fan', fan(0.03)],
    [
      'hum of the mains',
      Float32Array.from({ length: LENGTH }, (_, at) => {
        const t = (2 * Math.PI * at) / NOISE_REDUCTION_RATE;
        return 0.02 * (Math.sin(50 * t) + Math.sin(150 * t + 1) + 0.6 * Math.sin(250 * t));
      }),
    ],
    [
      'hiss',
      fan(0, LENGTH).map(
        (
          (random) => () =>
            0.015 * random()
        )(numbers(3)),
      ),
    ],
  ])('is taken down, and the voice stays: %s', (_, noise) => {
    const before = mixed(pure, noise);
    const was = aboveNoise(before, pure);
    for (const reduction of ['gently', 'firmly'] as const) {
      const after = noiseReduced(before, reduction);
      expect(aboveNoise(after, pure) - was).toBeGreaterThan(3);
      // Where nobody speaks, by what was said, less what flutters.
      const [from, to] = [4.3, 4.8].map((s) => Math.round(s * NOISE_REDUCTION_RATE)) as [
        number,
        number,
      ];
      const down = db(powerOf(before, from, to)) - db(powerOf(after, from, to));
      expect(down).toBeGreaterThan(0.7 * REDUCED_DB[reduction]);
      expect(down).toBeLessThan(REDUCED_DB[reduction] + 1);
      // Where somebody does, it is as loud as it was.
      const loud = [1.1, 1.4].map((s) => Math.round(s * NOISE_REDUCTION_RATE)) as [number, number];
      expect(Math.abs(db(powerOf(after, ...loud)) - db(powerOf(pure, ...loud)))).toBeLessThan(0.5);
    }
  });

  it('is taken down only where it is: a fan that was turned on in the middle', () => {
    const long = voice(60 * NOISE_REDUCTION_RATE);
    const noise = fan(0.03, long.length).map((sample, at) => (at < long.length / 2 ? 0 : sample));
    const before = mixed(long, noise);
    const after = noiseReduced(before);
    expect(farthest(after, before, 0, LENGTH)).toBeLessThan(1e-6);
    const quiet = [54.3, 54.8].map((s) => Math.round(s * NOISE_REDUCTION_RATE)) as [number, number];
    expect(db(powerOf(before, ...quiet)) - db(powerOf(after, ...quiet))).toBeGreaterThan(15);
  });

  it('is none where whatever recorded has cut it away itself, and where the microphone was off', () => {
    const noisy = mixed(pure, fan(0.02));
    const gated = noisy.map((sample, at) => (Math.abs(pure[at]!) < 1e-6 ? 0 : sample));
    expect(profileOf(gated).parts.every(({ share }) => share === 0)).toBe(true);
    const off = noisy.map((sample, at) => (at < 6 * NOISE_REDUCTION_RATE ? 0 : sample));
    expect(profileOf(off).parts[0]!.share).toBe(1);
    expect(farthest(noiseReduced(new Float32Array(LENGTH)), new Float32Array(LENGTH))).toBe(0);
  });

  it('comes out the same in whatever pieces it comes, of any length', () => {
    const noisy = mixed(pure, fan(0.03)).subarray(0, 3 * NOISE_REDUCTION_RATE + 123);
    const whole = noiseReduced(noisy, 'gently', [noisy.length]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 90_000 }), { minLength: 1 }), (sizes) => {
        expect(farthest(noiseReduced(noisy, 'gently', sizes), whole)).toBe(0);
      }),
      { seed: 4, numRuns: 8 },
    );
    for (const length of [0, 1, 100, 2_048, 5_000]) noiseReduced(noisy.subarray(0, length));
  });
});

describe('clicks', () => {
  const pure = voice(6 * NOISE_REDUCTION_RATE);

  it('are taken out, and what was under them is filled in', () => {
    const random = numbers(5);
    const clicked = Float32Array.from(pure);
    const places = Array.from({ length: 40 }, (_, index) => 9_000 + index * 6_700);
    for (const place of places) {
      const loud = 0.2 + 0.15 * random();
      for (let at = 0; at < 60; at++)
        clicked[place + at]! += loud * Math.exp(-at / 9) * Math.cos(at);
    }
    const mended = Float32Array.from(clicked);
    softenClicks(mended);
    const error = (samples: Float32Array) =>
      db(
        places.reduce(
          (sum, from) =>
            sum + powerOf(samples.subarray(from, from + 60).map((s, at) => s - pure[from + at]!)),
          0,
        ) / places.length,
      );
    expect(error(clicked) - error(mended)).toBeGreaterThan(8);
  });

  it('are not heard where there are none', () => {
    const looked = Float32Array.from(pure);
    softenClicks(looked);
    expect(farthest(looked, pure)).toBe(0);
  });

  it('leave a gap that is filled with what goes with both sides of it', () => {
    const tones = Float32Array.from(
      { length: 4_000 },
      (_, at) => 0.3 * Math.sin(at * 0.02) + 0.2 * Math.sin(at * 0.11 + 1),
    );
    const filled = Float32Array.from(tones).fill(9, 1_900, 1_980);
    fillGap(filled, 1_900, 1_980);
    expect(farthest(filled, tones)).toBeLessThan(0.01);
    const silent = new Float32Array(4_000).fill(1, 1_900, 1_950);
    fillGap(silent, 1_900, 1_950);
    expect(Math.max(...silent)).toBe(0);
  });
});

it('breath that blows into the microphone is brought down, and a low voice is not', () => {
  const pure = voice();
  const blown = Float32Array.from(pure);
  const places = [4.2, 9.2].map((s) => Math.round(s * NOISE_REDUCTION_RATE));
  for (const place of places) {
    for (let at = 0; at < 4_800; at++)
      blown[place + at]! += 0.5 * Math.sin(at * 0.006) * Math.sin((Math.PI * at) / 4_800);
  }
  const calm = noiseReduced(blown, 'gently');
  for (const place of places) {
    const of = [place, place + 4_800] as const;
    expect(db(powerOf(blown, ...of)) - db(powerOf(calm, ...of))).toBeGreaterThan(10);
  }
});

describe('what is told of a room', () => {
  const line = (room: number, said: number): LevelLine =>
    Uint8Array.from({ length: 500 }, (_, step) => (step % 10 < 3 ? room : said) + 100);

  it.each([
    [-30, -18, 'the room is loud under the voice (12 dB below it)'],
    [-45, -18, 'the room can be heard under the voice (27 dB below it)'],
    [-60, -18, null],
  ])('%s dBFS under %s', (room, said, words) => {
    expect(noiseInWords(noiseIn(line(room, said))!)).toBe(words);
  });

  it('is nothing where there is next to nothing, and a microphone that was off is no quiet room', () => {
    expect(noiseIn(Uint8Array.from({ length: 20 }, () => 60))).toBeNull();
    const off = Uint8Array.from([...new Uint8Array(300), ...line(-40, -18)]);
    expect(noiseIn(off)).toEqual({ roomDbfs: -40, voiceDbfs: -18 });
  });
});
