import type { Film } from '../../film/film';
import type { Span } from '../../film/span';
import type { InkOf } from '../../ink/changed-track';
import type { SeenPointerOf } from '../../pointer/path';
import type { Layer } from '../layers';

/** What a feature puts into the frames of a film. */
export interface SceneSource {
  /** Frames of the film at which something of it begins, ends, or begins or ends to move; in order. Found when they are asked for: to show a frame needs none of them. */
  readonly borders: readonly number[];
  /** What it shows in a frame. */
  readonly at: (frame: number, span: Span) => Shown;
}

export interface Shown {
  /** The lower ones first. */
  readonly layers: readonly Layer[];
  /** Something of it is moving: it may lie between pixels. */
  readonly moving: boolean;
  /** Nothing of what lies lower is seen. */
  readonly covers?: boolean;
}

/** Reads a film once for a feature; frames are then asked for one by one. */
export type ReadSource = (film: Film, inkOf: InkOf, seenOf: SeenPointerOf) => SceneSource;
