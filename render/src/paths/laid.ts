import type { Layer } from '@under-chalk/core/scene/layers';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import type { Scene } from '@under-chalk/core/scene/scene';

/** A part of the frame that is painted frame by frame, and laid over what stands still. */
export interface Laid {
  /** What stands still. */
  readonly scene: Scene;
  /** The layer of it that it is laid above. */
  readonly above: Layer;
  /** The part in which frames differ, on even px. */
  readonly box: RectPx;
  /** What lies under it is seen through it. */
  readonly isClear: boolean;
  /** That part of each frame, as RGBA (with its colours not multiplied); each is valid until the next. */
  readonly parts: () => Generator<Buffer, void>;
}
