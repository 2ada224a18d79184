import type { TimeRange } from '../../time/ranges';
import type { Us } from '../../time/us';
import { median, surenessOf } from '../align/sureness';
import type { Aligned } from '../align/windows';
import type { WordTime } from '../cue';
import { evened, FEATURES, STEP_S, type Likeness } from './features';
import { roughWayOf, wayOf, type Rough } from './warp';

/** A text as a synthesizer says it. */
export interface SaidBefore {
  readonly likeness: Likeness;
  /** How long each of its words is against the others: letters. */
  readonly letters: readonly number[];
}

/** Quieter than what is loud by so much nobody speaks, dB. */
const QUIET_DB = 32;
/** Of a text that was said so much goes with the sound. */
const SAID = 0.5;
/** What goes with no text for so long is something besides, µs. */
const LEAST_BESIDE_US = 900_000;
/** A sentence begins where speech does, if that is so near, µs. */
const SNAP_US = 280_000;
/** More than this no other voice tells: a machine's is not a person's. */
const MOST_SURE = 80;

/** Looks in which somebody speaks. */
const spokenLooks = ({ dbfs }: Likeness): number[] => {
  const sorted = Float32Array.from(dbfs).sort();
  const loud = sorted[Math.floor(0.9 * (sorted.length - 1))] ?? -100;
  return [...dbfs.keys()].filter((look) => dbfs[look]! > loud - QUIET_DB);
};

const picked = (values: Float32Array, looks: readonly number[]): Float32Array => {
  const out = new Float32Array(looks.length * FEATURES);
  looks.forEach((look, at) =>
    out.set(values.subarray(look * FEATURES, (look + 1) * FEATURES), at * FEATURES),
  );
  return out;
};

const toUs = (look: number): Us => Math.round(look * STEP_S * 1e6);

/** Said so many times as fast, or as slowly, as the others, a text has lost a part or got one. */
const UNEVEN = 1.35;

/** So long nobody speaks between two texts, looks; and so near to it one begins. */
const PAUSE_LOOKS = 6;
const NEAR_LOOKS = 3;

/** Which of the looks in which somebody speaks come after a pause, or near to one that does. */
const onsetsOf = (heard: readonly number[]): Uint8Array => {
  const onsets = new Uint8Array(heard.length);
  heard.forEach((look, at) => {
    if (at > 0 && look - heard[at - 1]! < PAUSE_LOOKS) return;
    for (let by = -1; by <= NEAR_LOOKS; by++) if (heard[at + by] !== undefined) onsets[at + by] = 1;
  });
  return onsets;
};

/** Whether a look goes with nothing: of one that was jumped over those beside it tell. */
const near = (taken: Uint8Array, at: number): boolean =>
  !taken[at] && !(taken[at - 1] && taken[at + 1]);

/** How a script that a synthesizer said goes together with a sound. */
interface Compared {
  readonly texts: readonly SaidBefore[];
  readonly said: readonly (readonly number[])[];
  readonly script: Float32Array;
  readonly rough: Rough | null;
}

/**
 * Finds when texts are said in a sound, in their order, by how alike it is to what a synthesizer says of them. For languages that
 * nothing better knows: less sure; a text that wasn't said goes with nothing, and so does what isn't written.
 *
 * @param voices the same texts in voices of several kinds, high and low: the one that is most like the sound is taken
 * @param speech where somebody speaks in the sound, in order
 */
export const alignByLikeness = (
  sound: Likeness,
  voices: readonly (readonly SaidBefore[])[],
  speech: readonly TimeRange[],
): Aligned => {
  const heard = spokenLooks(sound);
  const voice = evened(picked(sound.values, heard));
  const compared = voices.map((texts): Compared => {
    const said = texts.map(({ likeness }) => spokenLooks(likeness));
    const all = said.reduce((sum, looks) => sum + looks.length, 0);
    const values = new Float32Array(all * FEATURES);
    let put = 0;
    texts.forEach(({ likeness }, index) => {
      values.set(picked(likeness.values, said[index]!), put * FEATURES);
      put += said[index]!.length;
    });
    const script = evened(values);
    return { texts, said, script, rough: all > 0 ? roughWayOf(voice, script) : null };
  });
  const costOf = ({ rough }: Compared): number => rough?.cost ?? Number.POSITIVE_INFINITY;
  const best = compared.reduce<Compared | null>(
    (least, one) => (!least || costOf(one) < costOf(least) ? one : least),
    null,
  );
  const all = (best?.script.length ?? 0) / FEATURES;
  if (!best || heard.length === 0 || all === 0) {
    return { units: (voices[0] ?? []).map(() => null), unwritten: [] };
  }
  return placed(best, voice, heard, speech);
};

const placed = (
  { texts, said, script, rough }: Compared,
  voice: Float32Array,
  heard: readonly number[],
  speech: readonly TimeRange[],
): Aligned => {
  const all = script.length / FEATURES;
  const starts: number[] = [];
  let counted = 0;
  for (const looks of said) {
    starts.push(counted);
    counted += looks.length;
  }
  const beginnings = { a: onsetsOf(heard), b: new Uint8Array(all) };
  for (const start of starts) if (start < all) beginnings.b[start] = 1;
  const way = wayOf(voice, script, rough, beginnings);
  const unwritten: TimeRange[] = [];
  /** How long each takes against the synthesizer. */
  const tempos: number[] = [];
  const scored: { startUs: Us; endUs: Us; score: number }[][] = [];
  const units = texts.map(({ letters }, index): [Us, Us][] | null => {
    const many = said[index]!.length;
    const first = starts[index]!;
    const found = Array.from({ length: many }, (_, at) => way.at[first + at]!);
    const matched = found.filter((place) => place >= 0);
    if (matched.length === 0 || matched.length < SAID * many) {
      scored.push([]);
      return null;
    }
    const [begins, ends] = [matched[0]!, matched.at(-1)!];
    /** The look of the sound at a share of the text: the nearest that went with one, and no further than its ends. */
    const placeAt = (share: number, after: boolean): number => {
      const at = Math.min(many - 1, Math.max(0, Math.floor(share * many) - (after ? 1 : 0)));
      for (let by = 0; by < many; by++) {
        const place = [found[at + by], found[at - by]].find((one) => one !== undefined && one >= 0);
        if (place !== undefined) return Math.min(ends, Math.max(begins, place));
      }
      return begins;
    };
    const total = letters.reduce((sum, count) => sum + count, 0);
    let done = 0;
    const words = letters.map((count): [Us, Us] => {
      const [from, to] = [done / total, (done + count) / total];
      done += count;
      const start = done === count ? begins : placeAt(from, false);
      const end = done === total ? ends : placeAt(to, true);
      return [toUs(heard[start]!), toUs(heard[Math.max(start, end)]! + 1)];
    });
    const startUs = words[0]![0];
    const onset = speech
      .map((range) => range.startUs)
      .filter((us) => Math.abs(us - startUs) <= SNAP_US && us < words[0]![1])
      .sort((x, y) => Math.abs(x - startUs) - Math.abs(y - startUs))[0];
    if (onset !== undefined) words[0] = [onset, words[0]![1]];
    tempos[index] = (ends - begins + 1) / many;
    let apart = 0;
    for (let at = 0; at < many; at++) if (found[at]! >= 0) apart += way.apart[first + at]!;
    const score = -apart / matched.length;
    scored.push(words.map(([from, to]) => ({ startUs: from, endUs: to, score })));
    return words;
  });
  // What goes with nothing that is written.
  const taken = new Uint8Array(heard.length);
  for (const place of way.at) if (place >= 0) taken[place] = 1;
  for (let at = 0; at < heard.length;) {
    let end = at;
    while (end < heard.length && near(taken, end)) end++;
    const range = { startUs: toUs(heard[at]!), endUs: toUs(heard[Math.max(at, end - 1)]! + 1) };
    if ((end - at) * STEP_S * 1e6 >= LEAST_BESIDE_US) unwritten.push(range);
    at = Math.max(end, at + 1);
  }
  // In order, whatever was snapped to.
  let lastUs = 0;
  const sure = surenessOf(scored.flat());
  const usual = median(tempos.filter((tempo) => tempo > 0));
  /** One that is said far faster or slower than the others has lost a part to its neighbour, or got one. */
  const even = (index: number): number => {
    const [own, after] = [tempos[index] ?? usual, tempos[index - 1] ?? usual];
    const odd = [own, after].some((tempo) => tempo < usual / UNEVEN || tempo > usual * UNEVEN);
    return odd ? 0.5 : 1;
  };
  return {
    units: units.map((words, index) => {
      if (!words) return null;
      return words.map(([startUs, endUs], at): WordTime => {
        const from = Math.max(lastUs, startUs);
        lastUs = Math.max(from, endUs);
        return [
          from,
          lastUs,
          Math.round(even(index) * Math.min(MOST_SURE, sure(scored[index]![at]!))),
        ];
      });
    }),
    unwritten,
  };
};
