import { INK_COLOURS } from '@under-chalk/core/ink/pen';
import type { PointerLayer } from '@under-chalk/core/scene/layers/pointer';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import type { Context2D } from '../context';
import { boxPx, radiusPx, roundedPath, type Frame, type LayerPainter } from './layer-painter';

/** How much of what lies under it a halo covers, and how much light is taken from the rest by a spotlight. */
const HALO = 0.42;
const DIM = 0.62;
/** A ring's line, of the pointer's size; and how far it grows. */
const RING_LINE = 0.09;
const RING_GROWS = 0.9;
const CHALK = '#f7f3e9';
const SLATE = '#1d252c';
/** Darker than the darkest paper: it has to be seen there too. */
const SHADOW = '#05070a';

const circle = (x: number, y: number, across: number): RectPx => ({
  ...{ x: x - across / 2, y: y - across / 2, width: across, height: across },
});

/** A wedge of chalk that touches its place with its corner: corners in parts of its size, clockwise. */
const WEDGE = [
  [0, 0],
  [0.62, 0.3],
  [0.36, 0.4],
  [0.27, 0.68],
] as const;

const wedge = <P>(context: Context2D<P>, x: number, y: number, size: number): void => {
  context.beginPath();
  WEDGE.forEach(([right, down], index) => {
    const [toX, toY] = [x + right * size, y + down * size];
    if (index === 0) context.moveTo(toX, toY);
    else context.lineTo(toX, toY);
  });
  context.closePath();
};

/** Everything but a circle, as the current path: the frame the one way round and the circle the other. */
const allBut = <P>(context: Context2D<P>, box: RectPx, hole: RectPx): void => {
  roundedPath(context, hole, hole.width / 2);
  context.moveTo(box.x, box.y);
  context.lineTo(box.x, box.y + box.height);
  context.lineTo(box.x + box.width, box.y + box.height);
  context.lineTo(box.x + box.width, box.y);
  context.closePath();
};

/** The part of the canvas that a pointer is drawn on. */
const reach = (layer: PointerLayer, frame: Pick<Frame<unknown>, 'size' | 'still'>): RectPx => {
  const over = boxPx({ to: layer.over }, frame);
  // Light on one place is taken from all others.
  if (layer.mark === 'spotlight') return over;
  const { widthPx, heightPx } = frame.size;
  const across = layer.size * widthPx;
  const out = across * 0.85 + 4;
  const ringOut = Math.min(across, widthPx * 0.12) * (0.5 + RING_GROWS) + 4;
  const places = [
    { x: layer.x * widthPx, y: layer.y * heightPx, out },
    ...(layer.ring
      ? [{ x: layer.ring.x * widthPx, y: layer.ring.y * heightPx, out: ringOut }]
      : []),
  ];
  const inside = (value: number, from: number, length: number) =>
    Math.min(from + length, Math.max(from, value));
  const left = Math.min(...places.map((one) => one.x - one.out));
  const top = Math.min(...places.map((one) => one.y - one.out));
  const right = Math.max(...places.map((one) => one.x + one.out));
  const bottom = Math.max(...places.map((one) => one.y + one.out));
  const x = inside(left, over.x, over.width - 2);
  const y = inside(top, over.y, over.height - 2);
  return {
    ...{ x, y },
    width: inside(right, x + 2, over.x + over.width - x - 2) - x,
    height: inside(bottom, y + 2, over.y + over.height - y - 2) - y,
  };
};

export const pointer: LayerPainter<PointerLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const { mark, colour, size, ring, opacity } = layer;
    const { widthPx, heightPx } = frame.size;
    const over = boxPx({ to: layer.over }, frame);
    const [x, y, across] = [layer.x * widthPx, layer.y * heightPx, size * widthPx];
    const light = INK_COLOURS.dark[colour];
    context.save();
    roundedPath(context, over, radiusPx(layer, over));
    context.clip();
    context.lineJoin = 'round';
    if (mark === 'halo') {
      const box = circle(x, y, across);
      context.globalAlpha = opacity * HALO;
      context.fillStyle = light;
      roundedPath(context, box, across / 2);
      context.fill();
      // Two lines, a light and a dark one: seen on any ground.
      for (const [line, part] of [
        [SLATE, 0.05],
        [light, 0.03],
      ] as const) {
        context.globalAlpha = opacity * 0.9;
        context.strokeStyle = line;
        context.lineWidth = Math.max(1, across * part);
        roundedPath(context, box, across / 2);
        context.stroke();
      }
    } else if (mark === 'arrow') {
      context.globalAlpha = opacity;
      context.lineWidth = Math.max(2, across * 0.07);
      context.strokeStyle = SLATE;
      wedge(context, x, y, across);
      context.stroke();
      context.fillStyle = CHALK;
      wedge(context, x, y, across);
      context.fill();
    } else if (mark === 'spotlight') {
      context.globalAlpha = opacity * DIM;
      context.fillStyle = SHADOW;
      allBut(context, over, circle(x, y, across));
      context.fill();
    }
    if (ring) {
      const grown = Math.min(across, widthPx * 0.12) * (0.5 + ring.part * RING_GROWS);
      const place = circle(ring.x * widthPx, ring.y * heightPx, grown);
      for (const [line, part] of [
        [SLATE, RING_LINE * 1.9],
        [light, RING_LINE],
      ] as const) {
        context.globalAlpha = 1 - ring.part;
        context.strokeStyle = line;
        context.lineWidth = Math.max(1.5, Math.min(across, widthPx * 0.08) * part);
        roundedPath(context, place, grown / 2);
        context.stroke();
      }
    }
    context.restore();
  },
  bounds: reach,
};
