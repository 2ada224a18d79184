import type { Id } from '../lesson/take';
import { countUpTo } from '../time/sorted';
import type { Us } from '../time/us';
import type { InkRecord } from '../ink/record';

/** Where something points: widths of what is shown, from its upper left corner. */
export interface PointerMove {
  readonly atUs: Us;
  readonly x: number;
  readonly y: number;
}

/** From a press to its release; Infinity for one that never was released. */
export interface PointerPress extends PointerMove {
  readonly untilUs: Us;
}

/** What was pointed at while a take was recorded. */
export interface PointerPath {
  /** Unbroken runs, in order: between two of them nothing is pointed at. */
  readonly runs: readonly PointerRun[];
  readonly presses: readonly PointerPress[];
  /** When another page was turned to, in order. */
  readonly turnsUs?: readonly Us[];
  /** It was seen where it was, and no hand trembles in it: nothing is taken out. */
  readonly isSeen?: boolean;
}

/** What was seen of a pointer in the pictures of a take; null where nothing was, or nobody has looked yet. */
export type SeenPointerOf = (takeId: Id) => PointerPath | null;

export const NONE_SEEN: SeenPointerOf = () => null;

export interface PointerRun {
  readonly moves: readonly PointerMove[];
  /** When it goes; Infinity for one that stays to the end. */
  readonly untilUs: Us;
}

export const NO_POINTER: PointerPath = { runs: [], presses: [] };

/** Gathers what was pointed at, record by record. */
export class PointerTrail {
  readonly #runs: { moves: PointerMove[]; untilUs: Us }[] = [];
  readonly #presses: (PointerMove & { untilUs: Us })[] = [];
  readonly #turnsUs: Us[] = [];

  path(): PointerPath {
    return { runs: this.#runs, presses: this.#presses, turnsUs: this.#turnsUs };
  }

  /** Adds what happened next, where it has to do with pointing. Another page is no end of it. */
  add(record: InkRecord): void {
    const { at } = record;
    if (record.do === 'point') {
      let atUs = at;
      for (const [later, x, y] of record.samples) this.#move({ atUs: (atUs += later), x, y });
    } else if (record.do === 'press') {
      const { x, y } = record;
      this.#release(at);
      this.#move({ atUs: at, x, y });
      this.#presses.push({ atUs: at, x, y, untilUs: Infinity });
    } else if (record.do === 'release') this.#release(at);
    else if (record.do === 'page') this.#turnsUs.push(at);
    else if (record.do === 'away') {
      this.#release(at);
      const run = this.#runs.at(-1);
      if (run?.untilUs === Infinity) run.untilUs = at;
    }
  }

  #release(at: Us): void {
    const press = this.#presses.at(-1);
    if (press?.untilUs === Infinity) press.untilUs = at;
  }

  #move(move: PointerMove): void {
    const run = this.#runs.at(-1);
    if (run?.untilUs !== Infinity)
      return void this.#runs.push({ moves: [move], untilUs: Infinity });
    // Never before what is there.
    const atUs = Math.max(move.atUs, run.moves.at(-1)!.atUs);
    run.moves.push({ ...move, atUs });
  }
}

/** Places are worked out on a grid of so many µs. */
const GRID_US = 10_000;
/** A pointer that tells nothing for so long rested where it was. */
const RESTED_US = 50_000;
/** Half of the window that is smoothed over, steps of the grid: 70 ms to either side. */
const HALF = 7;

/**
 * Weights of a quadratic least-squares fit at the middle of 2·HALF + 1 places (A. Savitzky and M. J. E. Golay,
 * “Smoothing and Differentiation of Data by Simplified Least Squares Procedures”, Analytical Chemistry 36, 1964; in
 * closed form by H. H. Madden, 1978). It looks as far ahead as back, so it comes neither late nor early, and a curve is
 * not cut short as a mean would.
 */
const WEIGHTS = Array.from({ length: 2 * HALF + 1 }, (_, index) => {
  const [m, j] = [HALF, index - HALF];
  return (3 * (3 * m * m + 3 * m - 1 - 5 * j * j)) / ((2 * m - 1) * (2 * m + 1) * (2 * m + 3));
});

/** A run with its jitter taken out. */
interface Smooth {
  readonly fromUs: Us;
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  /** When it was told where it was, in order. */
  readonly times: readonly Us[];
}

/** The places of a run on the grid, as they were told. */
const onGrid = ({ moves }: PointerRun): Omit<Smooth, 'times'> => {
  const fromUs = moves[0]!.atUs;
  const count = Math.ceil((moves.at(-1)!.atUs - fromUs) / GRID_US) + 1;
  const [xs, ys] = [new Float64Array(count), new Float64Array(count)];
  let next = 0;
  for (let step = 0; step < count; step++) {
    const atUs = fromUs + step * GRID_US;
    while (moves[next + 1] && moves[next + 1]!.atUs <= atUs) next++;
    const [one, other] = [moves[next]!, moves[next + 1] ?? moves[next]!];
    // It is told when it moves: after a rest it set out from where it rested, shortly before.
    const setOutUs = Math.max(one.atUs, other.atUs - RESTED_US);
    const span = other.atUs - setOutUs;
    const part = span > 0 ? Math.min(1, Math.max(0, (atUs - setOutUs) / span)) : 0;
    xs[step] = one.x + (other.x - one.x) * part;
    ys[step] = one.y + (other.y - one.y) * part;
  }
  return { fromUs, xs, ys };
};

const smoothed = (values: Float64Array): Float64Array => {
  const last = values.length - 1;
  return values.map((_, step) => {
    let sum = 0;
    for (let by = -HALF; by <= HALF; by++) {
      sum += WEIGHTS[by + HALF]! * values[Math.min(last, Math.max(0, step + by))]!;
    }
    return sum;
  });
};

/**
 * The places of a run that was seen, on the grid: through each of them by a cubic that goes no further than its ends (F. N.
 * Fritsch and R. E. Carlson, “Monotone Piecewise Cubic Interpolation”, SIAM J. Numer. Anal. 17, 1980).
 */
const throughAll = ({ moves }: PointerRun): Omit<Smooth, 'times'> => {
  const fromUs = moves[0]!.atUs;
  const count = Math.ceil((moves.at(-1)!.atUs - fromUs) / GRID_US) + 1;
  const along = (of: (move: PointerMove) => number): Float64Array => {
    const slope = (index: number): number => {
      const [one, other] = [moves[index], moves[index + 1]];
      return one && other ? (of(other) - of(one)) / Math.max(1, other.atUs - one.atUs) : 0;
    };
    const tangent = (index: number): number => {
      const [before, after] = [slope(index - 1), slope(index)];
      return before * after <= 0 ? 0 : (2 * before * after) / (before + after);
    };
    const values = new Float64Array(count);
    let at = 0;
    for (let step = 0; step < count; step++) {
      const us = fromUs + step * GRID_US;
      while (moves[at + 1] && moves[at + 1]!.atUs <= us) at++;
      const [one, other] = [moves[at]!, moves[at + 1]];
      if (!other) values[step] = of(one);
      else {
        const span = other.atUs - one.atUs;
        const part = (us - one.atUs) / span;
        const back = 1 - part;
        values[step] =
          (1 + 2 * part) * back * back * of(one) +
          part * part * (3 - 2 * part) * of(other) +
          part * back * span * (back * tangent(at) - part * tangent(at + 1));
      }
    }
    return values;
  };
  return { fromUs, xs: along(({ x }) => x), ys: along(({ y }) => y) };
};

const SMOOTH = new WeakMap<PointerRun, Smooth>();

const smoothOf = (run: PointerRun, isSeen: boolean): Smooth => {
  let smooth = SMOOTH.get(run);
  if (!smooth) {
    const times = run.moves.map(({ atUs }) => atUs);
    const raw = isSeen ? throughAll(run) : onGrid(run);
    smooth = isSeen
      ? { ...raw, times }
      : { ...raw, xs: smoothed(raw.xs), ys: smoothed(raw.ys), times };
    SMOOTH.set(run, smooth);
  }
  return smooth;
};

/** Where something points at a time. */
export interface Pointing {
  readonly x: number;
  readonly y: number;
  /** Since when it has been where it is. */
  readonly restsSinceUs: Us;
  /** The press that came last, if it is still held or was let go just now. */
  readonly press: PointerPress | null;
}

/** Smaller steps than this are a tremble, widths of what is shown. */
const TREMBLE = 0.002;

/** Since when a run has been where it is at its move of some number. */
const restedSince = ({ moves }: PointerRun, index: number): Us => {
  const { x, y } = moves[index]!;
  let first = index;
  while (first > 0 && Math.hypot(moves[first - 1]!.x - x, moves[first - 1]!.y - y) < TREMBLE) {
    first--;
  }
  return moves[first]!.atUs;
};

/** Where something points at a time, its jitter taken out; null where nothing does. */
export const pointingAt = (
  { runs, presses, isSeen = false }: PointerPath,
  us: Us,
): Pointing | null => {
  const run = runs.findLast(({ moves }) => moves[0]!.atUs <= us);
  if (!run || us >= run.untilUs) return null;
  const { fromUs, xs, ys, times } = smoothOf(run, isSeen);
  const at = Math.min(xs.length - 1, (us - fromUs) / GRID_US);
  const [before, part] = [Math.floor(at), at % 1];
  const mix = (values: Float64Array) =>
    values[before]! + ((values[before + 1] ?? values[before]!) - values[before]!) * part;
  const press = presses.findLast(({ atUs }) => atUs <= us) ?? null;
  return {
    x: mix(xs),
    y: mix(ys),
    restsSinceUs: restedSince(run, Math.max(0, countUpTo(times, us) - 1)),
    press,
  };
};

/** Longer pauses than this part one movement from the next. */
const PAUSE_US = 800_000;

/** When something is seen to move, to come or to go: stretches of recorded time, in order. @param afterUs goes on so long after each */
export const pointingIn = (
  { runs, presses }: PointerPath,
  afterUs: Us,
): { startUs: Us; endUs: Us }[] => {
  const moments = [
    ...runs.flatMap(({ moves, untilUs }) => [
      ...moves.map(({ atUs }) => atUs),
      ...(untilUs < Infinity ? [untilUs] : []),
    ]),
    ...presses.flatMap(({ atUs, untilUs }) => (untilUs < Infinity ? [atUs, untilUs] : [atUs])),
  ].sort((a, b) => a - b);
  const found: { startUs: Us; endUs: Us }[] = [];
  for (const us of moments) {
    const last = found.at(-1);
    const startUs = Math.max(0, us - HALF * GRID_US);
    if (last && startUs - last.endUs < PAUSE_US) last.endUs = us + afterUs;
    else found.push({ startUs, endUs: us + afterUs });
  }
  return found;
};
