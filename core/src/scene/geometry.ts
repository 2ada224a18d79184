import type { Layout, Inset } from '../lesson/layout';
import { PLAIN_CAMERA, type CameraLook } from '../lesson/camera-look';
import { zoomedTo } from '../lesson/close-up';
import { sameCrop, UNCROPPED, type Crop } from '../lesson/crop';
import type { Track } from '../lesson/take';

/** A rectangle in fractions of what it lies in: a source picture, or the frame. */
export interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** How one picture lies in the frame. */
export interface PictureBox {
  /** Part of the source picture that is shown. */
  readonly from: Rect;
  /** Where in the frame. */
  readonly to: Rect;
  /** Rounding of the corners, as a fraction of the shorter side of `to` in px: 0 square, 0.5 round. */
  readonly radius: number;
  readonly opacity: number;
}

/** Where something lies in the frame, whatever is seen in it. */
export type Outline = Pick<PictureBox, 'to' | 'radius' | 'opacity'>;

/** How surface and camera lie in the frame; null: not shown. */
export interface LaidOut {
  readonly surface: PictureBox | null;
  readonly camera: PictureBox | null;
}

/** The least rectangle that some lie in; of at least one. */
export const aroundAll = (rects: readonly Rect[]): Rect => {
  const [left, top] = [Math.min(...rects.map(({ x }) => x)), Math.min(...rects.map(({ y }) => y))];
  return {
    ...{ x: left, y: top },
    width: Math.max(...rects.map(({ x, width }) => x + width)) - left,
    height: Math.max(...rects.map(({ y, height }) => y + height)) - top,
  };
};

/** Whether two rectangles are the same. */
export const sameRect: (a: Rect, b: Rect) => boolean = sameCrop;

/** Whether two boxes have the same outline, and let as much through. */
export const sameOutline = (a: Outline, b: Outline): boolean =>
  sameRect(a.to, b.to) && a.radius === b.radius && a.opacity === b.opacity;

export const WHOLE: Rect = { x: 0, y: 0, width: 1, height: 1 };

/** Room between the inset and the edge of the frame, as a fraction of the frame's shorter side. */
const MARGIN = 0.035;

const RADIUS = { rounded: 0.1, circle: 0.5, 'square-cornered': 0 } as const;

const aspectOfTrack = (track: Track) =>
  track.widthPx > 0 && track.heightPx > 0 ? track.widthPx / track.heightPx : 16 / 9;

/** The largest part of a source with the aspect wanted, taken from the middle. */
export const croppedTo = (sourceAspect: number, aspect: number): Rect =>
  sourceAspect > aspect
    ? { x: (1 - aspect / sourceAspect) / 2, y: 0, width: aspect / sourceAspect, height: 1 }
    : { x: 0, y: (1 - sourceAspect / aspect) / 2, width: 1, height: sourceAspect / aspect };

/** The part of a camera's picture that is shown in a box of an aspect: as near as is wanted, and inside of it. */
export const lookedAt = (
  { x, y, near }: CameraLook,
  sourceAspect: number,
  aspect: number,
): Rect => {
  const { width, height } = croppedTo(sourceAspect, aspect);
  const side = (middle: number, size: number) => ({
    start: Math.min(1 - size, Math.max(0, middle - size / 2)),
    size,
  });
  const [across, down] = [side(x, width / near), side(y, height / near)];
  return { x: across.start, y: down.start, width: across.size, height: down.size };
};

/** Where a picture of an aspect lies to be seen whole inside a box, in the middle. */
export const containedIn = (box: Rect, sourceAspect: number, frameAspect: number): Rect => {
  const boxAspect = (box.width * frameAspect) / box.height;
  const width = sourceAspect >= boxAspect ? box.width : (box.height * sourceAspect) / frameAspect;
  const height = sourceAspect >= boxAspect ? (box.width * frameAspect) / sourceAspect : box.height;
  return {
    x: box.x + (box.width - width) / 2,
    y: box.y + (box.height - height) / 2,
    width,
    height,
  };
};

/** Which point of a picture lies at a point of the frame; fractions of both. May be outside of what is shown. */
export const pointOf = (
  { from, to }: Pick<PictureBox, 'from' | 'to'>,
  at: { readonly x: number; readonly y: number },
): { readonly x: number; readonly y: number } => ({
  x: from.x + ((at.x - to.x) / to.width) * from.width,
  y: from.y + ((at.y - to.y) / to.height) * from.height,
});

/** Room that is kept at the edges of a frame, fractions of its width and height. */
export const marginsOf = (frameAspect: number): { readonly x: number; readonly y: number } => ({
  x: frameAspect >= 1 ? MARGIN / frameAspect : MARGIN,
  y: frameAspect >= 1 ? MARGIN : MARGIN * frameAspect,
});

/** Where an inset lies in a frame, for a camera of an aspect. Aspects are width over height. */
export const insetRect = (inset: Inset, cameraAspect: number, frameAspect: number): Rect => {
  const shownAspect = inset.shape === 'circle' ? 1 : cameraAspect;
  const { x: marginX, y: marginY } = marginsOf(frameAspect);
  const width = Math.min((inset.size * shownAspect) / frameAspect, 1 - 2 * marginX);
  const height = (width * frameAspect) / shownAspect;
  return {
    x: marginX + inset.placeX * Math.max(0, 1 - width - 2 * marginX),
    y: marginY + inset.placeY * Math.max(0, 1 - height - 2 * marginY),
    width,
    height,
  };
};

/** The inset whose middle comes as near as the margins allow to a point of the frame (fractions). */
export const insetAt = (
  inset: Inset,
  middleX: number,
  middleY: number,
  cameraAspect: number,
  frameAspect: number,
): Inset => {
  const low = insetRect({ ...inset, placeX: 0, placeY: 0 }, cameraAspect, frameAspect);
  const high = insetRect({ ...inset, placeX: 1, placeY: 1 }, cameraAspect, frameAspect);
  const place = (middle: number, size: number, from: number, to: number) =>
    // Rounded, so that what lies at a margin is at it, and not a hair beside.
    to > from
      ? Math.round(Math.min(1, Math.max(0, (middle - size / 2 - from) / (to - from))) * 1e6) / 1e6
      : 0;
  return {
    ...inset,
    placeX: place(middleX, low.width, low.x, high.x),
    placeY: place(middleY, low.height, low.y, high.y),
  };
};

/** The boxes of a side-by-side picture: next to each other, or one above the other in a tall frame. */
const sideBoxes = (frameAspect: number): { surface: Rect; camera: Rect } =>
  frameAspect >= 1
    ? {
        surface: { x: 0.02, y: 0.05, width: 0.66, height: 0.9 },
        camera: { x: 0.7, y: 0.05, width: 0.28, height: 0.9 },
      }
    : {
        surface: { x: 0.04, y: 0.02, width: 0.92, height: 0.56 },
        camera: { x: 0.04, y: 0.6, width: 0.92, height: 0.38 },
      };

/**
 * Where surface and camera lie in a layout that stands still.
 *
 * @param frameAspect width over height of the frame
 * @param crop the part of the surface that is shown
 * @param look the part of the camera's picture that is
 */
export const layOut = (
  layout: Layout,
  surface: Track | undefined,
  camera: Track | undefined,
  frameAspect: number,
  crop: Crop = UNCROPPED,
  look: CameraLook = PLAIN_CAMERA,
): LaidOut => {
  const whole = { radius: 0, opacity: 1 };
  const surfaceIn = (box: Rect): PictureBox | null =>
    surface
      ? {
          from: crop,
          to: containedIn(box, (aspectOfTrack(surface) * crop.width) / crop.height, frameAspect),
          ...whole,
        }
      : null;
  switch (layout.kind) {
    case 'surface':
      return { surface: surfaceIn(WHOLE), camera: null };
    case 'inset': {
      if (!camera) return { surface: surfaceIn(WHOLE), camera: null };
      const { shape } = layout.inset;
      const aspect = aspectOfTrack(camera);
      return {
        surface: surfaceIn(WHOLE),
        camera: {
          from: lookedAt(look, aspect, shape === 'circle' ? 1 : aspect),
          to: insetRect(layout.inset, aspect, frameAspect),
          radius: RADIUS[shape],
          opacity: 1,
        },
      };
    }
    case 'side': {
      const boxes = sideBoxes(frameAspect);
      if (!camera) return { surface: surfaceIn(WHOLE), camera: null };
      const shown = frameAspect >= 1 ? 3 / 4 : aspectOfTrack(camera);
      return {
        surface: surfaceIn(boxes.surface),
        camera: {
          from: lookedAt(look, aspectOfTrack(camera), shown),
          to: containedIn(boxes.camera, shown, frameAspect),
          radius: 0.04,
          opacity: 1,
        },
      };
    }
    case 'camera': {
      if (!camera) return { surface: surfaceIn(WHOLE), camera: null };
      const aspect = aspectOfTrack(camera);
      // A camera of nearly the frame's shape fills it; a very different one (a phone held upright) is shown whole.
      const fills = Math.max(aspect / frameAspect, frameAspect / aspect) <= 1.4;
      return {
        surface: null,
        camera: fills
          ? { from: lookedAt(look, aspect, frameAspect), to: WHOLE, ...whole }
          : {
              from: lookedAt(look, aspect, aspect),
              to: containedIn(WHOLE, aspect, frameAspect),
              ...whole,
            },
      };
    }
  }
};

/**
 * On whole even px of the source, where it has any: so that a close-up is the same px for whoever crops, of colours
 * too (4:2:0), and doesn't jump when it has come to stand.
 */
const onPixels = (rect: Rect, { widthPx, heightPx }: Track): Rect => {
  const side = (start: number, size: number, px: number) => {
    if (px === 0) return { start, size };
    const from = 2 * Math.round((start * px) / 2);
    const wide = 2 * Math.max(1, Math.round((size * px) / 2));
    return { start: from / px, size: Math.min(px - from, wide) / px };
  };
  const across = side(rect.x, rect.width, widthPx);
  const down = side(rect.y, rect.height, heightPx);
  return { x: across.start, y: down.start, width: across.size, height: down.size };
};

/** The same, with a part of the surface seen closer; of the camera's picture, where there is no surface. */
export const zoomedIn = (
  laidOut: LaidOut,
  part: Rect,
  surface: Track | undefined,
  camera: Track | undefined,
): LaidOut => {
  const closer = (box: PictureBox | null, track: Track) =>
    box && { ...box, from: onPixels(zoomedTo(box.from, part), track) };
  if (surface) return { ...laidOut, surface: closer(laidOut.surface, surface) };
  return camera ? { ...laidOut, camera: closer(laidOut.camera, camera) } : laidOut;
};

/**
 * The same with room on all sides.
 *
 * @param margin a fraction of the frame's width and of its height
 * @param rounding of the surface's corners
 */
export const withMargin = (
  { surface, camera }: LaidOut,
  margin: number,
  rounding: number,
): LaidOut => {
  const share = 1 - 2 * margin;
  const inside = (box: PictureBox): PictureBox => ({
    ...box,
    to: {
      x: margin + box.to.x * share,
      y: margin + box.to.y * share,
      width: box.to.width * share,
      height: box.to.height * share,
    },
  });
  const rounded = (box: PictureBox) => ({ ...box, radius: Math.max(box.radius, rounding) });
  return {
    surface: surface && rounded(inside(surface)),
    // A face that stands for the surface is rounded as that is.
    camera: camera && (surface ? inside(camera) : rounded(inside(camera))),
  };
};

const mix = (a: number, b: number, t: number) => a + (b - a) * t;
const mixRect = (a: Rect, b: Rect, t: number): Rect => ({
  x: mix(a.x, b.x, t),
  y: mix(a.y, b.y, t),
  width: mix(a.width, b.width, t),
  height: mix(a.height, b.height, t),
});
/**
 * A side of what is shown on the way from one part of a picture to another. It grows by the same factor in equal steps,
 * so that coming closer looks even; what both parts have in the same place of the frame stays there.
 */
const mixSide = (a: number, aSize: number, b: number, bSize: number, t: number) => {
  const size = aSize * (bSize / aSize) ** t;
  const gone = Math.abs(aSize - bSize) < 1e-6 ? t : (aSize - size) / (aSize - bSize);
  return { start: mix(a, b, gone), size };
};

const mixPart = (a: Rect, b: Rect, t: number): Rect => {
  const across = mixSide(a.x, a.width, b.x, b.width, t);
  const down = mixSide(a.y, a.height, b.y, b.height, t);
  return { x: across.start, y: down.start, width: across.size, height: down.size };
};

const mixBox = (a: PictureBox, b: PictureBox, t: number): PictureBox => ({
  from: sameRect(a.from, b.from) ? a.from : mixPart(a.from, b.from, t),
  to: mixRect(a.to, b.to, t),
  radius: mix(a.radius, b.radius, t),
  opacity: mix(a.opacity, b.opacity, t),
});

/** Slow at both ends: 0 → 0, 1 → 1 (Hermite's 3t² − 2t³). */
export const ease = (t: number): number => t * t * (3 - 2 * t);

/**
 * A moment of a soft change. A picture that is in both moves; one that is only in one fades, but a
 * surface that fills the frame under the camera does not: it would let the background shine through.
 *
 * @param t how far the change has come, 0 to 1, already eased
 */
export const mixArranged = (before: LaidOut, after: LaidOut, t: number): LaidOut => {
  const fade = (from: PictureBox | null, to: PictureBox | null): PictureBox | null => {
    if (from && to) return mixBox(from, to, t);
    if (from) return { ...from, opacity: from.opacity * (1 - t) };
    if (to) return { ...to, opacity: to.opacity * t };
    return null;
  };
  const onlySurface = before.surface && after.surface ? null : (before.surface ?? after.surface);
  const stays = onlySurface !== null && onlySurface.to.width > 0.95;
  return {
    surface: stays ? onlySurface : fade(before.surface, after.surface),
    camera: fade(before.camera, after.camera),
  };
};
