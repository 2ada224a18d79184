import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { ClockLayer } from '@under-chalk/core/scene/layers/clock';
import { roundedPath, type LayerPainter } from './layer-painter';
import { BAND, BAND_COVERS, LIGHT_WORDS, TITLE_FONT } from './set-words';

const SECONDS = 60;

/** The plate that the clock and its words lie on, px. */
const plateOf = ({ size }: ClockLayer, { widthPx, heightPx }: SizePx) => {
  const high = size * Math.min(widthPx, heightPx);
  const away = high * 0.3;
  return { x: away, y: away, width: high * 2.15, height: high };
};

/** A clock with one hand, drawn as with chalk on slate, and how many times as fast it goes beside it. */
export const clock: LayerPainter<ClockLayer> = {
  version: 1,
  paint(context, layer, { size }) {
    const plate = plateOf(layer, size);
    const { x, y, height } = plate;
    const [middleX, middleY, radius] = [x + height / 2, y + height / 2, height * 0.34];
    const line = Math.max(1.5, height * 0.045);
    context.save();
    context.globalAlpha = BAND_COVERS;
    context.fillStyle = BAND;
    roundedPath(context, plate, height / 2);
    context.fill();
    context.globalAlpha = 1;
    context.strokeStyle = LIGHT_WORDS;
    context.lineWidth = line;
    context.lineCap = 'round';
    const face = { x: middleX - radius, y: middleY - radius };
    roundedPath(context, { ...face, width: 2 * radius, height: 2 * radius }, radius);
    context.stroke();
    const turn = (layer.second / SECONDS) * 2 * Math.PI;
    context.beginPath();
    context.moveTo(middleX, middleY);
    context.lineTo(
      middleX + Math.sin(turn) * radius * 0.72,
      middleY - Math.cos(turn) * radius * 0.72,
    );
    context.stroke();
    context.font = `600 ${Math.round(height * 0.44)}px ${TITLE_FONT}, serif`;
    context.fillStyle = LIGHT_WORDS;
    context.textAlign = 'left';
    context.textBaseline = 'middle';
    context.fillText(`${layer.times} ×`, x + height * 0.98, middleY);
    context.restore();
  },
  bounds: (layer, { size }) => plateOf(layer, size),
};
