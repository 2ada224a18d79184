import { createCanvas, type Canvas } from '@napi-rs/canvas';
import type { PointerLayer } from '@under-chalk/core/scene/layers/pointer';
import { paintLayers } from '../painter';

const size = { widthPx: 320, heightPx: 180 };
const WHOLE = { x: 0, y: 0, width: 1, height: 1 };
const layer = (change: Partial<PointerLayer>): PointerLayer => ({
  ...{ kind: 'pointer', mark: 'halo', colour: 'amber', x: 0.5, y: 0.5, size: 0.1, ring: null },
  ...{ over: WHOLE, radius: 0, opacity: 1 },
  ...change,
});
/** A grey frame with a pointer on it. */
const painted = (change: Partial<PointerLayer>): Canvas => {
  const canvas = createCanvas(size.widthPx, size.heightPx);
  const context = canvas.getContext('2d');
  context.fillStyle = '#808080';
  context.fillRect(0, 0, size.widthPx, size.heightPx);
  paintLayers(context as never, [layer(change)], { size, still: true }, {});
  return canvas;
};
const lightAt = (canvas: Canvas, x: number, y: number) =>
  canvas.getContext('2d').getImageData(x, y, 1, 1).data[0]!;

it('lays a halo on the place, and nothing elsewhere', () => {
  const halo = painted({});
  expect(lightAt(halo, 160, 90)).toBeGreaterThan(150);
  expect([lightAt(halo, 160, 60), lightAt(halo, 200, 90)]).toEqual([128, 128]);
});

it('takes light from all but the place', () => {
  const spotlight = painted({ mark: 'spotlight', size: 0.25 });
  expect(lightAt(spotlight, 160, 90)).toBe(128);
  expect(lightAt(spotlight, 160, 60)).toBe(128);
  expect(lightAt(spotlight, 10, 10)).toBeLessThan(90);
  expect(lightAt(spotlight, 250, 90)).toBeLessThan(90);
  // Only from what is pointed at: the camera beside it keeps its own.
  const half = painted({ mark: 'spotlight', size: 0.1, x: 0.25, over: { ...WHOLE, width: 0.5 } });
  expect([lightAt(half, 100, 20) < 90, lightAt(half, 300, 20)]).toEqual([true, 128]);
});

it('touches the place with the corner of a wedge', () => {
  const arrow = painted({ mark: 'arrow', size: 0.2 });
  expect(lightAt(arrow, 172, 102)).toBeGreaterThan(220);
  expect(lightAt(arrow, 150, 80)).toBe(128);
});

it('rings where it was pressed, wider as time goes', () => {
  const ringAt = (part: number) => {
    const canvas = painted({ mark: 'none', ring: { x: 0.5, y: 0.5, part } });
    return Array.from({ length: 60 }, (_, out) => lightAt(canvas, 160 + out, 90)).findIndex(
      (light) => light !== 128,
    );
  };
  expect(ringAt(0.1)).toBeGreaterThan(3);
  expect(ringAt(0.7)).toBeGreaterThan(ringAt(0.1));
});
