import type { GroundLayer } from '@under-chalk/core/scene/layers/ground';
import { wholeFrame, type LayerPainter } from './layer-painter';

export const ground: LayerPainter<GroundLayer> = {
  version: 1,
  paint(context, { colour }, { size }) {
    context.fillStyle = colour;
    context.fillRect(0, 0, size.widthPx, size.heightPx);
  },
  bounds: (_layer, frame) => wholeFrame(frame),
};
