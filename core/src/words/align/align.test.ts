import { grammarOf, readHeard, type HeardWord, type Unit } from './grammar';
import { spokenWords } from './spoken';
import { surenessOf } from './sureness';
import { alignInWindows, type Decode } from './windows';

const s = (seconds: number) => Math.round(seconds * 1e6);
const unit = (words: number): Unit => ({ words: Array.from({ length: words }, () => [['AH']]) });

it.each([
  ['Tides,', ['tides']],
  ['3.5', ['three', 'point', 'five']],
  ['1,204', ['one', 'thousand', 'two', 'hundred', 'four']],
  ['1990', ['nineteen', 'ninety']],
  ['007', ['zero', 'zero', 'seven']],
  ['50%', ['fifty', 'percent']],
  ['harbour-master’s', ['harbour', "master's"]],
  ['–', []],
])('%s is said', (written, said) => {
  expect(spokenWords(written)).toEqual(said);
});

it('a grammar has each unit once, in order, to be left out or cut off, and speech that isn’t written', () => {
  const { fsg, dictionary } = grammarOf([{ words: [[['DH AH', 'DH IY'], ['S IY']]] }, unit(1)]);
  expect(dictionary).toContain('w0_0_0 DH AH\nw0_0_0(2) DH IY\nw0_0_1 S IY\nw1_0_0 AH\n');
  expect(fsg).toMatch(/^FSG_BEGIN script\nNUM_STATES 5\nSTART_STATE 0\nFINAL_STATE 4\n/);
  expect(fsg).toContain('TRANSITION 0 2 1e-20\n');
  expect(fsg).toContain('TRANSITION 1 4 1e-3\n');
  expect(fsg).toContain('TRANSITION 2 2 1e-6 _AH\n');
});

it('what was heard is read: words of several parts, their other ways to be said, and speech that isn’t written', () => {
  const line =
    'sound S 0 T -9 A -9 L 0 0 -1 0 <sil> 20 -100 0 w0_0_0(2) 30 -300 0 w0_0_1 50 0 0 (NULL) 50 -80 0 _AH 56 -1 0 <sil> 60 -70 0 _T 70 -50 0 w1_0_0 90';
  const { words, other } = readHeard(line, s(1.2));
  expect(words.map(({ unit: of, word, startUs, endUs }) => [of, word, startUs, endUs])).toEqual([
    [0, 0, s(0.2), s(0.5)],
    [1, 0, s(0.7), s(1.2)],
  ]);
  expect(other).toEqual([{ startUs: s(0.5), endUs: s(0.7), phones: 2 }]);
  expect(readHeard('', s(1))).toEqual({ words: [], other: [] });
});

/** Units that are said, one word a second, from given times on; what a window cuts off is heard in part. */
const voiceOf =
  (said: ReadonlyMap<Unit, number>): Decode =>
  (fromUs, toUs, units) => {
    const words = units.flatMap((wanted, at): HeardWord[] => {
      const startS = said.get(wanted);
      if (startS === undefined) return [];
      return wanted.words.flatMap((_, word) => {
        const startUs = s(startS + word);
        const inside = startUs >= fromUs && startUs + s(0.8) <= toUs;
        return inside ? [{ unit: at, word, startUs, endUs: startUs + s(0.8), score: -100 }] : [];
      });
    });
    return Promise.resolve({ words, other: [] });
  };

describe('windows', () => {
  it('find every unit over ten minutes, also those that a window cuts off; what isn’t said is told', async () => {
    const units = Array.from({ length: 120 }, () => unit(4));
    const unsaid = [7, 8, 60, 119];
    const said = new Map(
      units.flatMap((one, at) => (unsaid.includes(at) ? [] : [[one, at * 5 + 0.3] as const])),
    );
    const shares: number[] = [];
    const found = await alignInWindows(s(600), units, voiceOf(said), {
      onProgress: (share) => shares.push(share),
      quietBefore: (us) => Promise.resolve(us - s(1.7)),
    });
    expect(found.units.flatMap((one, at) => (one ? [] : [at]))).toEqual(unsaid);
    found.units.forEach((one, at) => {
      if (one)
        expect(one.map(([startUs]) => startUs)).toEqual(
          [0, 1, 2, 3].map((word) => s(at * 5 + 0.3 + word)),
        );
    });
    expect(shares.length).toBeGreaterThan(8);
    expect(shares.at(-1)).toBe(1);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
  });

  it('a phrase that is heard far on in the script doesn’t take all before it for not said', async () => {
    const units = Array.from({ length: 60 }, () => unit(3));
    const said = new Map(units.map((one, at) => [one, 4 + at * 4] as const));
    const voice = voiceOf(said);
    // In the first minute the last sentence seems to be said as well.
    const misheard: Decode = async (fromUs, toUs, wanted) => {
      const heard = await voice(fromUs, toUs, wanted);
      const wrong = wanted.indexOf(units[40]!);
      if (fromUs > 0 || wrong < 0) return heard;
      const words = [0, 1, 2].map((word) => ({
        ...{ unit: wrong, word, startUs: s(56 + word), endUs: s(56.8 + word), score: -100 },
      }));
      return {
        ...heard,
        words: [...heard.words.filter(({ startUs }) => startUs < s(52)), ...words],
      };
    };
    const found = await alignInWindows(s(250), units, misheard);
    expect(found.units.every((one, at) => one?.[0]?.[0] === s(4 + at * 4))).toBe(true);
  });

  it('ends, where nothing is heard at all', async () => {
    const silent: Decode = () => Promise.resolve({ words: [], other: [] });
    const found = await alignInWindows(s(200), [unit(2)], silent);
    expect(found).toEqual({ units: [null], unwritten: [] });
  });
});

it('a word that sounds unlike the others of the same voice is less sure, and so is one that nobody says so shortly', () => {
  const words = Array.from({ length: 40 }, (_, at) => ({
    startUs: 0,
    endUs: s(0.3),
    score: -100 - (at % 7),
  }));
  const sure = surenessOf(words);
  expect(sure(words[0]!)).toBeGreaterThan(90);
  expect(sure({ ...words[0]!, score: -180 })).toBeLessThan(20);
  expect(sure({ ...words[0]!, endUs: 10_000 })).toBeLessThan(50);
});
