import type { Layer } from '@under-chalk/core/scene/layers';
import type { CrossFadeLayer } from '@under-chalk/core/scene/layers/cross-fade';
import { wholeFrame, type LayerPainter } from './layer-painter';

/** A whole picture over another: painted by itself first, so that all of it is as clear. */
export const crossFade: LayerPainter<CrossFadeLayer<Layer>> = {
  version: 1,
  paint(context, { layers, opacity }, { size, makeSheet, paintLayers }) {
    const { widthPx, heightPx } = size;
    const sheet = makeSheet?.(widthPx, heightPx);
    if (!sheet) return;
    paintLayers(sheet.context, layers);
    context.save();
    context.globalAlpha = opacity;
    context.drawImage(sheet.image, 0, 0, widthPx, heightPx, 0, 0, widthPx, heightPx);
    context.restore();
  },
  bounds: (_layer, frame) => wholeFrame(frame),
};
