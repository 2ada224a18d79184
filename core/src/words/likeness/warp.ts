import { evened, FEATURES } from './features';

/** Looks that are taken together where the way is first looked for. */
const COARSE = 6;
/** As far as one may be ahead of the other against going on evenly, looks taken together: three minutes and a half. */
const MOST_AHEAD = 1_800;
/** Round the way that was found so, it is looked for look by look. */
const ROUND = 120;
/** What it costs that a look goes with none: between how far apart two are that belong together, and two that don't. */
const ALONE = 4.8;

const distance = (a: Float32Array, at: number, b: Float32Array, other: number): number => {
  let sum = 0;
  for (let one = 0; one < FEATURES; one++) {
    const apart = a[at * FEATURES + one]! - b[other * FEATURES + one]!;
    sum += apart * apart;
  }
  return Math.sqrt(sum);
};

/** The mean of so many looks each. */
const together = (values: Float32Array, by: number): Float32Array => {
  const many = Math.floor(values.length / FEATURES / by);
  const out = new Float32Array(many * FEATURES);
  for (let look = 0; look < many; look++) {
    for (let one = 0; one < FEATURES; one++) {
      let sum = 0;
      for (let at = 0; at < by; at++) sum += values[(look * by + at) * FEATURES + one]!;
      out[look * FEATURES + one] = sum / by;
    }
  }
  return out;
};

/** What it costs that a text begins where nobody has paused. */
const NO_PAUSE = 14;

/** Where texts begin in `b`, and where somebody begins to speak after a pause in `a`: looks that aren't 0. */
export interface Beginnings {
  readonly a: Uint8Array;
  readonly b: Uint8Array;
}

/** For each look of `b` the look of `a` that it goes with, -1 where it goes with none, and how far apart they are. */
export interface Way {
  readonly at: Int32Array;
  readonly apart: Float32Array;
}

/** Steps on the way: both go on by one; one goes on by two; one goes on alone. */
const [BOTH, A_TWICE, B_TWICE, A_ALONE, B_ALONE] = [0, 1, 2, 3, 4] as const;
const FAR = Number.POSITIVE_INFINITY;

/**
 * The way on which two rows of looks go together from beginning to end at the least cost, within a band: dynamic time warping with
 * slopes of a half to two (Sakoe and Chiba, 1978), in which looks may also go with none.
 *
 * @param middle the look of `a` that the band lies round at a look of `b`
 */
const wayWithin = (
  a: Float32Array,
  b: Float32Array,
  middle: (look: number) => number,
  half: number,
  begins: Beginnings | null = null,
): Way => {
  const [long, many] = [a.length / FEATURES, b.length / FEATURES];
  const width = Math.min(long, 2 * half + 1);
  const last = long - width;
  const from = Int32Array.from({ length: many }, (_, look) =>
    Math.max(0, Math.min(last, Math.round(middle(look)) - half)),
  );
  from[0] = 0;
  from[many - 1] = last;
  const steps = new Uint8Array(many * width);
  // This row and the two before it: what it costs to get there, and how far apart the looks are.
  let [now, before, earlier] = [0, 1, 2].map(() => new Float64Array(width).fill(FAR)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  let [apartNow, apartBefore] = [0, 1].map(() => new Float32Array(width)) as [
    Float32Array,
    Float32Array,
  ];
  const cellOf = (row: Float64Array, start: number, place: number): number =>
    place < start || place >= start + width ? FAR : row[place - start]!;
  for (let look = 0; look < many; look++) {
    const start = from[look]!;
    const [startBefore, startEarlier] = [from[look - 1] ?? 0, from[look - 2] ?? 0];
    for (let at = 0; at < width; at++) apartNow[at] = distance(a, start + at, b, look);
    for (let at = 0; at < width; at++) {
      const place = start + at;
      const late = begins && begins.b[look] && !begins.a[place] ? NO_PAUSE / 2 : 0;
      const own = apartNow[at]! + late;
      let [best, step]: [number, number] = [FAR, A_ALONE];
      const take = (cost: number, how: number) => {
        if (cost < best) [best, step] = [cost, how];
      };
      // Before the first looks of both there is nothing, at no cost.
      if (look === 0) take(place * ALONE + 2 * own, BOTH);
      else if (place === 0) take(look * ALONE + 2 * own, BOTH);
      if (look >= 1 && place >= 1) {
        take(cellOf(before, startBefore, place - 1) + 2 * own, BOTH);
        if (place >= 2 && at >= 1)
          take(cellOf(before, startBefore, place - 2) + 1.5 * (own + apartNow[at - 1]!), A_TWICE);
        if (look >= 2) {
          const other = place - startBefore;
          if (other >= 0 && other < width)
            take(
              cellOf(earlier, startEarlier, place - 1) + 1.5 * (own + apartBefore[other]!),
              B_TWICE,
            );
        }
      }
      if (at >= 1) take(now[at - 1]! + ALONE, A_ALONE);
      if (look >= 1) take(cellOf(before, startBefore, place) + ALONE, B_ALONE);
      now[at] = best;
      steps[look * width + at] = step;
    }
    [now, before, earlier] = [earlier, now, before];
    [apartNow, apartBefore] = [apartBefore, apartNow];
  }
  const way = new Int32Array(many).fill(-1);
  const apart = new Float32Array(many);
  let [look, place] = [many - 1, long - 1];
  while (look >= 0 && place >= 0) {
    const at = place - from[look]!;
    if (at < 0 || at >= width) break;
    const step = steps[look * width + at]!;
    if (step === A_ALONE) {
      // The first look of all goes with none, and nothing comes before it.
      if (look === 0 && place === 0) break;
      place--;
      continue;
    }
    if (step !== B_ALONE) {
      way[look] = place;
      apart[look] = distance(a, place, b, look);
    }
    if (step === B_TWICE && look >= 1) {
      way[look - 1] = place;
      apart[look - 1] = distance(a, place, b, look - 1);
    }
    if (step !== B_ALONE) place -= step === A_TWICE ? 2 : 1;
    look -= step === B_TWICE ? 2 : 1;
    // What came before the first looks of both went with none.
    if (step === BOTH && (look < 0 || place < 0)) break;
  }
  return { at: way, apart };
};

/** The way of two rows of looks, each so many taken together as one. */
export interface Rough {
  readonly way: Way;
  readonly long: number;
  readonly many: number;
  /** How far apart those are that go together, in the mean, with what goes with none: the less, the more alike. */
  readonly cost: number;
}

/** How two rows of evened looks go together, roughly; null where they are too short for that. */
export const roughWayOf = (a: Float32Array, b: Float32Array): Rough | null => {
  const [roughA, roughB] = [evened(together(a, COARSE)), evened(together(b, COARSE))];
  const [long, many] = [roughA.length / FEATURES, roughB.length / FEATURES];
  if (long < 4 || many < 4) return null;
  const evenly = long / many;
  const way = wayWithin(roughA, roughB, (look) => look * evenly, Math.min(MOST_AHEAD, long));
  const apart = way.at.reduce(
    (sum, place, look) => sum + (place < 0 ? ALONE : way.apart[look]!),
    0,
  );
  return { way, long, many, cost: apart / many };
};

/** How two rows of evened looks go together, look by look round the way that was found roughly. */
export const wayOf = (
  a: Float32Array,
  b: Float32Array,
  rough: Rough | null = roughWayOf(a, b),
  begins: Beginnings | null = null,
): Way => {
  const [long, many] = [a.length / FEATURES, b.length / FEATURES];
  if (long === 0 || many === 0)
    return { at: new Int32Array(many).fill(-1), apart: new Float32Array(many) };
  if (!rough) return wayWithin(a, b, (look) => (look * long) / many, long, begins);
  // Where one goes with none it is between those beside it that don't.
  const middles = new Float64Array(rough.many);
  let known = -1;
  for (let look = 0; look <= rough.many; look++) {
    const place = rough.way.at[look] ?? rough.long;
    if (place < 0) continue;
    const first = known < 0 ? 0 : middles[known]!;
    for (let at = known + 1; at <= Math.min(look, rough.many - 1); at++)
      middles[at] = first + ((place - first) * (at - known)) / (look - known);
    known = look;
  }
  const middle = (look: number) =>
    middles[Math.min(rough.many - 1, Math.floor(look / COARSE))]! * COARSE + COARSE / 2;
  return wayWithin(a, b, middle, ROUND, begins);
};
