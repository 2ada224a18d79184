import type { Us } from '../../time/us';
import type { XY } from '../page';
import type { InkColour, InkTool } from '../pen';
import { lettersOf } from './letters';

/** Something that a scripted hand does, begun at a time from the script's start or as soon as it is free. */
export type ScriptAct = { readonly atUs: Us } & (
  | {
      readonly do: 'write';
      readonly words: string;
      readonly at: XY;
      readonly height: number;
      readonly colour?: InkColour;
    }
  | {
      readonly do: 'draw';
      readonly tool: InkTool;
      readonly way: readonly XY[];
      readonly colour?: InkColour;
    }
  | { readonly do: 'turn'; readonly page: number }
);

/** What is seen of the hand, in order of time. Places are fractions of the page's width. */
export type HandMove = { readonly atUs: Us } & (
  | { readonly do: 'take'; readonly tool: InkTool; readonly colour: InkColour }
  | {
      readonly do: 'down' | 'move';
      readonly x: number;
      readonly y: number;
      readonly pressure: number;
    }
  | { readonly do: 'up' }
  | { readonly do: 'turn'; readonly page: number }
);

/** Samples of a pen come this often. */
const EVERY_US = 16_000;
/** How fast a hand goes at its fastest, widths of the page in a second; letters are written slower. */
const FASTEST = 0.55;
const WRITING = 0.4;
/** Between two strokes of a letter, two letters, two words. */
const LIFT_US = 60_000;
const LETTER_US = 30_000;
const WORD_US = 120_000;

/** A number from 0 to 1 that looks random, and is the same for the same number each time. */
const chance = (seed: number): number => {
  const x = Math.sin(seed * 12.9898 + 4.1414) * 43_758.5453;
  return x - Math.floor(x);
};

/** A place on the curve through four places, between the second and the third (Catmull and Rom 1974). */
const onCurve = (around: readonly [XY, XY, XY, XY], t: number): XY => {
  const at = (axis: 0 | 1) => {
    const [a, b, c, d] = around.map((place) => place[axis]) as [number, number, number, number];
    return (
      0.5 *
      (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t ** 3)
    );
  };
  return [at(0), at(1)];
};

/** Finely along a way: through its places on a curve, or from one to the next on a straight line. */
const finely = (way: readonly XY[], curved: boolean): XY[] => {
  const STEPS = 12;
  const last = way.length - 1;
  return way.slice(0, -1).flatMap((from, index) =>
    Array.from({ length: index === last - 1 ? STEPS + 1 : STEPS }, (_, step): XY => {
      const to = way[index + 1]!;
      const t = step / STEPS;
      if (!curved) return [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t];
      return onCurve([way[Math.max(0, index - 1)]!, from, to, way[Math.min(last, index + 2)]!], t);
    }),
  );
};

/** Slow at both ends, as hands are (Flash and Hogan 1985, minimum jerk): share of the way after a share of the time. */
const goneAfter = (t: number): number => t ** 3 * (10 - 15 * t + 6 * t * t);

/** One stroke, from coming down to being lifted. */
const stroke = (way: readonly XY[], curved: boolean, speed: number, fromUs: Us): HandMove[] => {
  const places = finely(way, curved);
  const lengths = places.map(([x, y], index) => {
    const [px, py] = places[Math.max(0, index - 1)]!;
    return Math.hypot(x - px, y - py);
  });
  const length = lengths.reduce((sum, one) => sum + one, 0);
  const samples = Math.max(2, Math.round(((length / speed) * 1.4e6) / EVERY_US));
  const moves: HandMove[] = [];
  const seed = Math.round(way[0]![0] * 1e4 + way[0]![1] * 1e5);
  let [index, gone] = [0, 0];
  for (let n = 0; n <= samples; n++) {
    const along = goneAfter(n / samples) * length;
    while (index < places.length - 1 && gone + lengths[index + 1]! <= along)
      gone += lengths[++index]!;
    const [x, y] = places[index]!;
    const [nextX, nextY] = places[Math.min(places.length - 1, index + 1)]!;
    const into = (along - gone) / (lengths[index + 1] ?? 1) || 0;
    // Harder in the middle of a stroke than at its ends, and never twice the same.
    const share = n / samples;
    const pressure =
      0.34 + 0.26 * Math.sin(Math.PI * Math.min(1, share * 1.1)) + 0.08 * chance(seed + n / 9);
    moves.push({
      ...{ atUs: fromUs + n * EVERY_US, do: n === 0 ? 'down' : 'move' },
      x: x + (nextX - x) * Math.min(1, into),
      y: y + (nextY - y) * Math.min(1, into),
      pressure: Math.min(1, pressure),
    });
  }
  moves.push({ atUs: fromUs + (samples + 1) * EVERY_US, do: 'up' });
  return moves;
};

/**
 * What a hand does that follows a script: written at the speed of a hand, with its pressure, one thing after another.
 * The same script, the same hand.
 */
export const handOf = (script: readonly ScriptAct[]): HandMove[] => {
  const moves: HandMove[] = [];
  let nowUs: Us = 0;
  const rest = (us: Us) => {
    nowUs += us;
  };
  const draw = (way: readonly XY[], curved: boolean, speed: number) => {
    const made = stroke(way, curved, speed, nowUs);
    moves.push(...made);
    nowUs = made.at(-1)!.atUs + LIFT_US;
  };
  for (const act of script) {
    nowUs = Math.max(nowUs, act.atUs);
    if (act.do === 'turn') {
      moves.push({ atUs: nowUs, do: 'turn', page: act.page });
      rest(WORD_US);
      continue;
    }
    const tool = act.do === 'write' ? 'pen' : act.tool;
    moves.push({ atUs: nowUs, do: 'take', tool, colour: act.colour ?? 'main' });
    if (act.do === 'draw') {
      draw(act.way, tool === 'pen' || tool === 'highlighter', FASTEST);
      continue;
    }
    for (const { strokes, begins } of lettersOf(act.words, act.at, act.height)) {
      rest(begins ? WORD_US : LETTER_US);
      for (const way of strokes) draw(way, true, WRITING);
    }
  }
  return moves;
};
