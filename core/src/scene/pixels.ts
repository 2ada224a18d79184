import type { SizePx } from '../destination/picture-size';
import type { Rect } from './geometry';

/** A rectangle in px. */
export interface RectPx {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A rectangle of the frame in px. Fractions of a px are kept. */
export const toPx = (rect: Rect, size: SizePx): RectPx => ({
  x: rect.x * size.widthPx,
  y: rect.y * size.heightPx,
  width: rect.width * size.widthPx,
  height: rect.height * size.heightPx,
});

const even = (value: number) => Math.round(value / 2) * 2;

/**
 * The same on even px, never empty and never outside: where 4:2:0 chroma samples lie, so that ffmpeg's
 * filters and the painter put a still picture in exactly the same place.
 */
export const toEvenPx = (rect: Rect, size: SizePx): RectPx => {
  const x = Math.min(size.widthPx - 2, Math.max(0, even(rect.x * size.widthPx)));
  const y = Math.min(size.heightPx - 2, Math.max(0, even(rect.y * size.heightPx)));
  return {
    x,
    y,
    width: Math.min(size.widthPx - x, Math.max(2, even(rect.width * size.widthPx))),
    height: Math.min(size.heightPx - y, Math.max(2, even(rect.height * size.heightPx))),
  };
};
