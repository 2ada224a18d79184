import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { ShadowLayer } from '@under-chalk/core/scene/layers/shadow';
import { boxPx, radiusPx, roundedPath, type LayerPainter } from './layer-painter';

/** How far it reaches, and how far below it lies, as fractions of the frame's shorter side. */
const REACH = 0.03;
const BELOW = 0.008;
/** It is painted as so many outlines, each a little further in. */
const STEPS = 12;
const DARKEST = 0.5;

const reachOf = ({ widthPx, heightPx }: SizePx) => REACH * Math.min(widthPx, heightPx);

/** Soft at its edges; the same on every canvas, for it is made of plain shapes. */
export const shadow: LayerPainter<ShadowLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const { x, y, width, height } = boxPx(layer, frame);
    const radius = radiusPx(layer, { x, y, width, height });
    const reach = reachOf(frame.size);
    const down = BELOW * Math.min(frame.size.widthPx, frame.size.heightPx);
    context.save();
    context.fillStyle = '#000000';
    // Laid over one another, what is covered by all of them is as dark as is wanted.
    context.globalAlpha = layer.opacity * (1 - (1 - DARKEST) ** (1 / STEPS));
    for (let step = 0; step < STEPS; step++) {
      const out = reach * (1 - (2 * step) / STEPS);
      const box = {
        x: x - out,
        y: y - out + down,
        width: width + 2 * out,
        height: height + 2 * out,
      };
      roundedPath(context, box, Math.max(0, radius + out));
      context.fill();
    }
    context.restore();
  },
  bounds(layer, frame) {
    const { x, y, width, height } = boxPx(layer, frame);
    const out = reachOf(frame.size) + BELOW * Math.min(frame.size.widthPx, frame.size.heightPx) + 2;
    return { x: x - out, y: y - out, width: width + 2 * out, height: height + 2 * out };
  },
};
