import { standStill } from './layers';
import type { Scene } from './scene';

/** What frames that follow on one another show. */
export interface FramesShown {
  /**
   * All of their scenes as canonical text: equal text, equal scenes, frame by frame. A frame in which all stands
   * still is written as a count.
   */
  readonly text: string;
  /** Nothing moves in any of them; they differ only in which picture of a track is on show. */
  readonly still: boolean;
}

/**
 * Writes down what frames show.
 *
 * @param scenes in order, one at least; gone through once
 */
export const framesShown = (scenes: Iterable<Scene>): FramesShown => {
  const parts: string[] = [];
  let before: Scene | null = null;
  let standing = 0;
  let still = true;
  for (const scene of scenes) {
    if (before?.still === scene.still && standStill(before.layers, scene.layers)) {
      standing++;
    } else {
      if (before) still = false;
      if (standing > 0) parts.push(`+${standing}`);
      standing = 0;
      parts.push(JSON.stringify([scene.still, scene.layers]));
    }
    still &&= scene.still;
    before = scene;
  }
  if (standing > 0) parts.push(`+${standing}`);
  return { text: parts.join('\n'), still };
};
