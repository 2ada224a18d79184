import type { PictureLayer } from '@under-chalk/core/scene/layers/picture';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import type { Context2D } from '../context';
import { boxPx, radiusPx, roundedPath, type LayerPainter } from './layer-painter';

/** A picture that isn't there is left out. */
export const picture: LayerPainter<PictureLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const shown = frame.pictureOf(layer);
    if (!shown) return;
    const box = boxPx(layer, frame);
    const { from } = layer;
    context.save();
    context.globalAlpha = layer.opacity;
    if (layer.radius > 0) {
      roundedPath(context, box, radiusPx(layer, box));
      context.clip();
    }
    context.imageSmoothingEnabled = true;
    context.imageSmoothingQuality = 'high';
    if (layer.mirrored) {
      context.translate(2 * box.x + box.width, 0);
      context.scale(-1, 1);
    }
    context.drawImage(
      shown.image,
      from.x * shown.widthPx,
      from.y * shown.heightPx,
      from.width * shown.widthPx,
      from.height * shown.heightPx,
      box.x,
      box.y,
      box.width,
      box.height,
    );
    context.restore();
  },
  bounds: boxPx,
};

/**
 * Paints the shape of a picture in white on black, filling a canvas of the size of its box. With `alphamerge` it
 * gives a video the same outline that {@link picture} gives a picture.
 */
export const paintMask = <P>(context: Context2D<P>, layer: PictureLayer, box: RectPx): void => {
  const whole = { x: 0, y: 0, width: box.width, height: box.height };
  context.fillStyle = '#000';
  context.fillRect(0, 0, box.width, box.height);
  context.fillStyle = '#fff';
  roundedPath(context, whole, radiusPx(layer, whole));
  context.fill();
};
