import type { PageLayer } from '@under-chalk/core/scene/layers/page';
import { boxPx, type LayerPainter } from './layer-painter';

/** A page that isn't there is left out. */
export const page: LayerPainter<PageLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const box = boxPx(layer, frame);
    const { from } = layer;
    const shown = frame.pageOf(layer.of, box.width / from.width);
    if (!shown) return;
    context.save();
    context.globalAlpha = layer.opacity;
    if (!layer.clear) {
      context.fillStyle = '#fff';
      context.fillRect(box.x, box.y, box.width, box.height);
    }
    context.imageSmoothingEnabled = true;
    context.imageSmoothingQuality = 'high';
    context.drawImage(
      shown.image,
      ...([from.x * shown.widthPx, from.y * shown.heightPx] as const),
      ...([from.width * shown.widthPx, from.height * shown.heightPx] as const),
      ...([box.x, box.y, box.width, box.height] as const),
    );
    context.restore();
  },
  bounds: boxPx,
};
