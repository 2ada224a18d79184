import { alignByLikeness, type SaidBefore } from './align-likeness';
import { evened, FEATURES, likenessOf, STEP_S } from './features';
import { wayOf } from './warp';

const RATE = 16_000;

/** Something like a vowel: two resonances, and a pitch. */
const sound = (seconds: number, low: number, high: number, pitch = 120): Float32Array => {
  const out = new Float32Array(Math.round(seconds * RATE));
  for (let at = 0; at < out.length; at++) {
    const t = at / RATE;
    for (let harmonic = 1; harmonic * pitch < 4_000; harmonic++) {
      const hz = harmonic * pitch;
      const near =
        Math.exp(-(((hz - low) / 150) ** 2)) + 0.6 * Math.exp(-(((hz - high) / 250) ** 2));
      out[at]! += 0.2 * near * Math.sin(2 * Math.PI * hz * t);
    }
  }
  return out;
};
const VOWELS = {
  a: [750, 1_200],
  i: [300, 2_300],
  u: [320, 800],
  e: [500, 1_900],
  o: [480, 900],
} as const;
const silence = (seconds: number) => new Float32Array(Math.round(seconds * RATE));
const joined = (...parts: Float32Array[]): Float32Array =>
  Float32Array.from(parts.flatMap((part) => [...part]));

/** A text of vowels as a voice says it, each so long. */
const say = (text: string, each: number, pitch = 120): Float32Array =>
  joined(
    ...[...text].map((vowel) => {
      const [low, high] = VOWELS[vowel as keyof typeof VOWELS];
      return sound(each, low, high, pitch);
    }),
  );
const before = (...texts: string[]): SaidBefore[] =>
  texts.map((text) => ({
    likeness: likenessOf(say(text, 0.2, 100), RATE),
    letters: [text.length],
  }));
const TEXTS = ['aiueo', 'iaoue', 'uoiea'];

it('what a sound is like is the same in another voice, and other for another sound', () => {
  const looks = (text: string, pitch: number) => likenessOf(say(text, 1, pitch), RATE);
  const middle = (text: string, pitch: number) =>
    looks(text, pitch).values.subarray(20 * FEATURES, 21 * FEATURES);
  const apart = (a: Float32Array, b: Float32Array) =>
    Math.sqrt(a.reduce((sum, one, at) => sum + (one - b[at]!) ** 2, 0));
  for (const other of ['i', 'u', 'e'] as const) {
    expect(apart(middle('a', 100), middle('a', 140))).toBeLessThan(
      apart(middle('a', 100), middle(other, 100)),
    );
  }
  expect(looks('a', 100).dbfs[20]).toBeGreaterThan(-40);
  expect(likenessOf(new Float32Array(100), RATE).dbfs).toHaveLength(0);
});

it('two rows go together look by look, one slower than the other, and what is in one alone goes with none', () => {
  const script = evened(likenessOf(say('aiueoiau', 0.2), RATE).values);
  const slower = evened(likenessOf(say('aiueoiau', 0.3, 150), RATE).values);
  const { at } = wayOf(slower, script);
  for (const look of [15, 35, 55]) expect(Math.abs(at[look]! - look * 1.5)).toBeLessThan(6);
  expect([...at].filter((place) => place >= 0).length).toBeGreaterThan(0.8 * at.length);
  expect(wayOf(new Float32Array(0), script).at.every((place) => place === -1)).toBe(true);
});

describe('texts are found in a sound', () => {
  const spoken = (...texts: string[]) => {
    const starts: number[] = [];
    const parts: Float32Array[] = [silence(0.5)];
    let at = 0.5;
    for (const text of texts) {
      starts.push(at);
      parts.push(say(text, 0.27, 150), silence(0.4));
      at += text.length * 0.27 + 0.4;
    }
    const speech = starts.map((start, index) => ({
      startUs: Math.round(start * 1e6),
      endUs: Math.round((start + texts[index]!.length * 0.27) * 1e6),
    }));
    return { starts, likeness: likenessOf(joined(...parts), RATE), speech };
  };

  it('where each begins, and how sure that is', () => {
    const { starts, likeness, speech } = spoken(...TEXTS);
    const { units, unwritten } = alignByLikeness(likeness, [before(...TEXTS)], speech);
    expect(unwritten).toEqual([]);
    units.forEach((words, index) => {
      expect(Math.abs(words![0]![0] / 1e6 - starts[index]!)).toBeLessThan(2 * STEP_S);
      expect(words![0]![2]).toBeGreaterThan(0);
      expect(words![0]![2]).toBeLessThanOrEqual(80);
    });
  });

  it('the voice that is most like it is taken', () => {
    const { starts, likeness, speech } = spoken(...TEXTS);
    const nonsense = before('uuuuu', 'uuuuu', 'uuuuu');
    const { units } = alignByLikeness(likeness, [nonsense, before(...TEXTS)], speech);
    units.forEach((words, index) =>
      expect(Math.abs(words![0]![0] / 1e6 - starts[index]!)).toBeLessThan(2 * STEP_S),
    );
  });

  it('nothing in nothing', () => {
    const none = likenessOf(silence(2), RATE);
    expect(alignByLikeness(none, [[]], [])).toEqual({ units: [], unwritten: [] });
    expect(alignByLikeness(likenessOf(silence(0), RATE), [before('aiu')], [])).toEqual({
      units: [null],
      unwritten: [],
    });
  });
});
