import { LEAST_INSET, MOST_INSET, type Inset } from '../lesson/layout';
import { insetAt, insetRect } from './geometry';

/** Nearer than this to a guide it is meant to be at it, a fraction of the frame's width. */
const REACH = 0.012;
/** Lines that the middle of an inset can be meant to lie on. */
const MIDDLES = [1 / 3, 1 / 2, 2 / 3];

/** A line across the frame that an inset lies at. */
export interface Guide {
  readonly axis: 'x' | 'y';
  /** A fraction of the frame's width, or of its height. */
  readonly at: number;
}

/** Shapes, width over height, of the camera's picture and of the frame. */
export interface InsetShapes {
  readonly cameraAspect: number;
  readonly frameAspect: number;
}

/** An inset with its middle moved by fractions of the frame; it stays inside of the margins. */
export const nudged = (
  inset: Inset,
  byX: number,
  byY: number,
  { cameraAspect, frameAspect }: InsetShapes,
): Inset => {
  const { x, y, width, height } = insetRect(inset, cameraAspect, frameAspect);
  return insetAt(inset, x + width / 2 + byX, y + height / 2 + byY, cameraAspect, frameAspect);
};

/** An inset so many times as large, its middle where it was as far as there is room. */
export const sized = (
  inset: Inset,
  times: number,
  { cameraAspect, frameAspect }: InsetShapes,
): Inset => {
  const { x, y, width, height } = insetRect(inset, cameraAspect, frameAspect);
  const size = Math.min(MOST_INSET, Math.max(LEAST_INSET, inset.size * times));
  const after = { ...inset, size };
  return insetAt(after, x + width / 2, y + height / 2, cameraAspect, frameAspect);
};

/** The way to the nearest of some guides along one side; null where none is near. */
const nearest = (
  guides: readonly { readonly way: number; readonly at: number }[],
  reach: number,
): { way: number; at: number } | null => {
  const near = guides
    .filter(({ way }) => Math.abs(way) <= reach)
    .sort((a, b) => Math.abs(a.way) - Math.abs(b.way));
  return near[0] ?? null;
};

/** An inset drawn to the guides that it is near: the margins, the thirds and the middle of the frame. */
export const atGuides = (
  inset: Inset,
  shapes: InsetShapes,
): { readonly inset: Inset; readonly guides: readonly Guide[] } => {
  const { cameraAspect, frameAspect } = shapes;
  const rect = insetRect(inset, cameraAspect, frameAspect);
  const low = insetRect({ ...inset, placeX: 0, placeY: 0 }, cameraAspect, frameAspect);
  const high = insetRect({ ...inset, placeX: 1, placeY: 1 }, cameraAspect, frameAspect);
  const along = (side: 'x' | 'y', size: 'width' | 'height', reach: number) => {
    const [start, length] = [rect[side], rect[size]];
    return nearest(
      [
        ...MIDDLES.map((at) => ({ way: at - (start + length / 2), at })),
        { way: low[side] - start, at: low[side] },
        { way: high[side] - start, at: high[side] + length },
      ],
      reach,
    );
  };
  const [x, y] = [along('x', 'width', REACH), along('y', 'height', REACH * frameAspect)];
  return {
    inset: nudged(inset, x?.way ?? 0, y?.way ?? 0, shapes),
    guides: [
      ...(x ? [{ axis: 'x' as const, at: x.at }] : []),
      ...(y ? [{ axis: 'y' as const, at: y.at }] : []),
    ],
  };
};
