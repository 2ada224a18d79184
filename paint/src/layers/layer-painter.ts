import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { toEvenPx, toPx, type RectPx } from '@under-chalk/core/scene/pixels';
import type { ShownPage } from '@under-chalk/core/ink/ink-track';
import type { Layer } from '@under-chalk/core/scene/layers';
import type { PictureBox, Rect } from '@under-chalk/core/scene/geometry';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import type { Context2D, PageOf, PictureOf } from '../context';

/** Paints pages of ink that are painted again and again, and holds what of them stays (`held-ink`). */
export interface PageHolder<P> {
  paint(
    context: Context2D<P>,
    trackId: string,
    page: ShownPage,
    from: Rect,
    box: RectPx,
    pageOf: PageOf<P>,
  ): void;
}

/** A canvas to paint on that can itself be painted as a picture. */
export interface Sheet<P> {
  readonly context: Context2D<P>;
  readonly image: P;
}

/** Makes one, so many px wide and high, with nothing on it. */
export type MakeSheet<P> = (widthPx: number, heightPx: number) => Sheet<P>;

/** The frame that a layer is painted into. */
export interface Frame<P> {
  /** The canvas, px. */
  readonly size: SizePx;
  /** Nothing moves: rectangles lie on whole even pixels. */
  readonly still: boolean;
  readonly pictureOf: PictureOf<P>;
  readonly inkOf: InkOf;
  /** The pages of materials that are written on. */
  readonly pageOf: PageOf<P>;
  /** Where frames are painted one after another: what of a page need not be painted anew. */
  readonly held?: PageHolder<P>;
  /** A canvas to paint on that is then painted as a picture; where there is none, what needs one is left out. */
  readonly makeSheet?: MakeSheet<P>;
  /** Paints layers as those of a frame like this one. */
  readonly paintLayers: (context: Context2D<P>, layers: readonly Layer[]) => void;
}

/** How a kind of layer is painted. */
export interface LayerPainter<L> {
  /** Part of the key of every chunk that shows one: raise it when it is painted differently. */
  readonly version: number;
  readonly paint: <P>(context: Context2D<P>, layer: L, frame: Frame<P>) => void;
  /** The part of the canvas that it can touch. */
  readonly bounds: (layer: L, frame: Pick<Frame<unknown>, 'size' | 'still'>) => RectPx;
}

/** All of the canvas. */
export const wholeFrame = ({ size }: Pick<Frame<unknown>, 'size'>): RectPx => ({
  x: 0,
  y: 0,
  width: size.widthPx,
  height: size.heightPx,
});

/** Where a box lies on the canvas. */
export const boxPx = (
  { to }: Pick<PictureBox, 'to'>,
  { size, still }: Pick<Frame<unknown>, 'size' | 'still'>,
): RectPx => (still ? toEvenPx(to, size) : toPx(to, size));

/** Rounding of a box's corners, px. */
export const radiusPx = ({ radius }: Pick<PictureBox, 'radius'>, box: RectPx): number =>
  radius * Math.min(box.width, box.height);

/** A rectangle with round corners as the current path. Radius in px, at most half the shorter side. */
export const roundedPath = <P>(context: Context2D<P>, box: RectPx, radius: number): void => {
  const { x, y, width, height } = box;
  const corner = Math.min(radius, width / 2, height / 2);
  context.beginPath();
  context.moveTo(x + corner, y);
  context.arcTo(x + width, y, x + width, y + height, corner);
  context.arcTo(x + width, y + height, x, y + height, corner);
  context.arcTo(x, y + height, x, y, corner);
  context.arcTo(x, y, x + width, y, corner);
  context.closePath();
};
