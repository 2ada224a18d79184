import type { ShownStroke } from '@under-chalk/core/ink/ink-track';
import type { XY } from '@under-chalk/core/ink/page';
import type { InkTool, Pen } from '@under-chalk/core/ink/pen';
import type { InkRecord } from '@under-chalk/core/ink/record';

/** A place under the hand: fractions of the page's width, pressure 0 to 1, and when, µs of the common clock. */
export interface HandSample {
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
  readonly atUs: number;
}

/** What the hand does from coming down to being lifted. */
export interface Doing {
  readonly move: (samples: readonly HandSample[]) => void;
  /** It is lifted. @param atUs of the common clock */
  readonly up: (atUs: number) => void;
  /** It was not meant: nothing of it stays. */
  readonly abandon: () => void;
  /** It rests where it is. */
  readonly rest?: (atUs: number) => void;
}

/** What undo takes back: all that was done in one go. */
export interface Step {
  readonly drawn: readonly string[];
  readonly wiped: readonly string[];
  readonly moved: {
    readonly strokes: readonly string[];
    readonly x: number;
    readonly y: number;
  } | null;
}

/** A step in which no more was done than is named. */
export const stepOf = (did: Partial<Step>): Step => ({ drawn: [], wiped: [], moved: null, ...did });

/** The page under the hand, as what is done to it sees it. */
export interface UnderHand {
  /** What is on it, the lower ones first. */
  readonly strokes: () => readonly ShownStroke[];
  /** How much larger it is than the whole page. */
  readonly zoom: () => number;
  readonly pen: (tool: InkTool) => Pen;
  readonly tell: (record: InkRecord) => void;
  readonly did: (step: Step) => void;
  readonly selected: () => readonly ShownStroke[];
  readonly select: (ids: readonly string[]) => void;
  /** Shows the rectangle between two corners in which is being selected; null: none. */
  readonly band: (corners: readonly [XY, XY] | null) => void;
}

/** As exact as it has to be on any screen. */
export const rounded = (value: number): number => Math.round(value * 1e5) / 1e5;
