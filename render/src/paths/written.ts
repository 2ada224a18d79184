import { createCanvas } from '@napi-rs/canvas';
import {
  pageAt,
  type InkTrack,
  type ShownPage,
  type ShownStroke,
} from '@under-chalk/core/ink/ink-track';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { Rect } from '@under-chalk/core/scene/geometry';
import { isPictureLayer, standStill, type Layer } from '@under-chalk/core/scene/layers';
import type { PointerLayer } from '@under-chalk/core/scene/layers/pointer';
import type { InkLayer } from '@under-chalk/core/scene/layers/ink';
import { toEvenPx, type RectPx } from '@under-chalk/core/scene/pixels';
import type { Scene } from '@under-chalk/core/scene/scene';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { boundsOf, HeldInk, NO_PAGES, paintLayers, placeOf, type PageOf } from '@under-chalk/paint';
import type { Laid } from './laid';
import { makeSheet } from './sheet';

const inkIn = ({ layers }: Scene): InkLayer[] =>
  layers.filter((layer): layer is InkLayer => layer.kind === 'ink');

/** What points at the page: it lies right above what is written. */
const pointerIn = ({ layers }: Scene): PointerLayer | null => {
  const above = layers[layers.findIndex(({ kind }) => kind === 'ink') + 1];
  return above?.kind === 'pointer' ? above : null;
};

const withoutPointer = ({ layers }: Scene): Layer[] =>
  layers.filter(({ kind }) => kind !== 'pointer');

/** Whether a scene is another one but for what has been written, and pointed at, meanwhile. */
const isWrittenOn = (before: Scene, after: Scene): boolean => {
  const [was] = inkIn(before);
  const alike = withoutPointer(after).map((layer) =>
    layer.kind === 'ink' && was ? { ...layer, sinceUs: was.sinceUs } : layer,
  );
  return after.still && standStill(withoutPointer(before), alike);
};

/** The box round some boxes. */
const around = (boxes: readonly RectPx[]): RectPx => {
  const x = Math.min(...boxes.map((box) => box.x));
  const y = Math.min(...boxes.map((box) => box.y));
  const right = Math.max(...boxes.map((box) => box.x + box.width));
  const bottom = Math.max(...boxes.map((box) => box.y + box.height));
  return { x, y, width: right - x, height: bottom - y };
};

/** How far from its points a stroke can reach, widths of the page: a pressed pen, the head of an arrow. */
const reachOf = ({ stroke: { pen } }: ShownStroke): number =>
  pen.tool === 'arrow' ? pen.width * 6 : pen.width * 2;

/** Where two looks of a page differ, each as the corners of a part of the page; null: anywhere. */
const differences = (before: ShownPage, after: ShownPage): Rect[] | null => {
  if (before.index !== after.index || before.paper !== after.paper) return null;
  if (JSON.stringify(before.view) !== JSON.stringify(after.view)) return null;
  const was = new Map(before.strokes.map((shown) => [shown.stroke, shown]));
  const is = new Map(after.strokes.map((shown) => [shown.stroke, shown]));
  const changed = [...new Set([...was.keys(), ...is.keys()])].flatMap((stroke) => {
    const [one, other] = [was.get(stroke), is.get(stroke)];
    const same =
      one &&
      other &&
      one.done === other.done &&
      one.opacity === other.opacity &&
      one.points.length === other.points.length &&
      one.points[0]!.x === other.points[0]!.x &&
      one.points[0]!.y === other.points[0]!.y;
    return same ? [] : [one, other].flatMap((shown) => shown ?? []);
  });
  if (changed.some(({ stroke }) => stroke.pen.tool === 'text')) return null;
  return changed.map((shown) => {
    const reach = reachOf(shown);
    const [xs, ys] = [shown.points.map(({ x }) => x), shown.points.map(({ y }) => y)];
    const [x, y] = [Math.min(...xs) - reach, Math.min(...ys) - reach];
    return { x, y, width: Math.max(...xs) + reach - x, height: Math.max(...ys) + reach - y };
  });
};

/** The part of a box that some parts of a page lie in, on even px; all of it where they could lie anywhere. */
const partOf = (
  parts: readonly (Rect[] | null)[],
  page: ShownPage,
  from: Rect,
  box: RectPx,
): RectPx => {
  if (parts.includes(null)) return box;
  const all = parts.flatMap((part) => part ?? []);
  const place = placeOf(page.view, from, box);
  const inside = (value: number, least: number, most: number) =>
    Math.min(most, Math.max(least, value));
  const down = (value: number) => Math.floor(value / 2) * 2;
  const up = (value: number) => Math.ceil(value / 2) * 2;
  const left = down(
    inside(place.x(Math.min(...all.map(({ x }) => x))), box.x, box.x + box.width - 2),
  );
  const top = down(
    inside(place.y(Math.min(...all.map(({ y }) => y))), box.y, box.y + box.height - 2),
  );
  const right = inside(
    place.x(Math.max(...all.map(({ x, width }) => x + width))),
    left + 2,
    box.x + box.width,
  );
  const bottom = inside(
    place.y(Math.max(...all.map(({ y, height }) => y + height))),
    top + 2,
    box.y + box.height,
  );
  return { x: left, y: top, width: up(right) - left, height: up(bottom) - top };
};

/**
 * What is written in a chunk in which nothing moves but a hand that writes, or points: what it does lies within a part of
 * the frame.
 *
 * @param scenes of its frames, in order
 * @param pageOf the pages of materials that are written on
 * @returns null where something else moves, or what lies under the ink is seen through the page
 */
export const writtenIn = (
  scenes: readonly Scene[],
  size: SizePx,
  inkOf: InkOf,
  pageOf: PageOf<unknown> = NO_PAGES,
): Laid | null => {
  const [first] = scenes;
  const [layer, ...more] = first ? inkIn(first) : [];
  const track: InkTrack | null = layer ? inkOf(layer.takeId) : null;
  if (!first?.still || !layer || !track || more.length > 0) return null;
  if (layer.opacity < 1 || layer.radius > 0) return null;
  if (first.layers.some((one) => isPictureLayer(one) && one.opacity < 1)) return null;
  if (!scenes.every((scene, index) => index === 0 || isWrittenOn(scenes[index - 1]!, scene))) {
    return null;
  }
  const since = scenes.map((scene) => inkIn(scene)[0]!.sinceUs);
  const looks = [...new Set(since)].map((us) => pageAt(track, us));
  if (looks.some(({ paper }) => paper.ruling === 'none')) return null;
  const parts = looks.slice(1).map((look, index) => differences(looks[index]!, look));
  const whole = toEvenPx(layer.to, size);
  const pointers = scenes.flatMap((scene) => pointerIn(scene) ?? []);
  // One that isn’t right above the page would be painted over.
  const all = scenes.flatMap(({ layers }) => layers.filter(({ kind }) => kind === 'pointer'));
  if (all.length !== pointers.length) return null;
  const changed = looks.length > 1 ? [partOf(parts, looks[0]!, layer.from, whole)] : [];
  // Each lies on even px.
  const boxes = [
    ...changed,
    ...(pointers.length > 0 ? [boundsOf(pointers, { size, still: true })] : []),
  ];
  const box = boxes.length > 0 ? around(boxes) : whole;
  return {
    // The page as it is in the first frame.
    ...{ scene: first, above: layer, box, isClear: false },
    *parts() {
      const canvas = createCanvas(box.width, box.height);
      const context = canvas.getContext('2d');
      context.translate(-box.x, -box.y);
      const held = new HeldInk<unknown>(makeSheet);
      const frame = { size, still: true };
      const shown = { inkOf, pageOf, held };
      let painted = '';
      for (const [index, scene] of scenes.entries()) {
        const sinceUs = since[index]!;
        const pointer = pointerIn(scene);
        const name = JSON.stringify([sinceUs, pointer]);
        if (name !== painted) {
          const drawn = [{ ...layer, sinceUs }, ...(pointer ? [pointer] : [])];
          paintLayers(context as never, drawn, frame, shown);
        }
        painted = name;
        yield canvas.data();
      }
    },
  };
};
