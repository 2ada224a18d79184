import type { InkPoint, PageView, ShownPage, ShownStroke } from '@under-chalk/core/ink/ink-track';
import { pageAt } from '@under-chalk/core/ink/ink-track';
import { outlineOf } from '@under-chalk/core/ink/outline';
import type { XY } from '@under-chalk/core/ink/page';
import { pathsOf } from '@under-chalk/core/ink/paths';
import { RULING } from '@under-chalk/core/ink/drawing';
import { LINE_HEIGHT } from '@under-chalk/core/ink/text';
import {
  HIGHLIGHT,
  INK_COLOURS,
  PAPER_COLOURS,
  RULING_COLOURS,
  type Paper,
  type Pen,
} from '@under-chalk/core/ink/pen';
import type { Rect } from '@under-chalk/core/scene/geometry';
import type { InkLayer } from '@under-chalk/core/scene/layers/ink';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import { placeOnPage } from '@under-chalk/core/material/page-place';
import { NO_PAGES, type Context2D, type PageOf } from '../context';
import { boxPx, radiusPx, roundedPath, type LayerPainter } from './layer-painter';
import { TITLE_FONT } from './set-words';

/** From the page to the canvas. */
interface Place {
  readonly x: (pageX: number) => number;
  readonly y: (pageY: number) => number;
  /** A page's width, px. */
  readonly widthPx: number;
}

/** Where a page lies, of which a view, and of that a part, fills a box. */
export const placeOf = ({ x, y, zoom }: PageView, from: Rect, box: RectPx): Place => {
  const shownPx = box.width / from.width;
  const widthPx = shownPx * zoom;
  const left = box.x - from.x * shownPx;
  // Whatever the shape of what is written on: the board's, or that of a window that was captured.
  const top = box.y - (from.y * box.height) / from.height;
  return {
    x: (pageX) => left + (pageX - x) * widthPx,
    y: (pageY) => top + (pageY - y) * widthPx,
    widthPx,
  };
};

/** Closer than this they would be a grey. */
const LEAST_RULING_PX = 5;

const paintPaper = <P>(
  context: Context2D<P>,
  { ruling, shade }: Paper,
  place: Place,
  box: RectPx,
): void => {
  if (ruling === 'none') return;
  context.fillStyle = PAPER_COLOURS[shade];
  context.fillRect(box.x, box.y, box.width, box.height);
  if (ruling === 'plain') return;
  const step = RULING[ruling] * place.widthPx;
  if (step < LEAST_RULING_PX) return;
  context.fillStyle = RULING_COLOURS[shade];
  // On whole pixels: half over two, a line is neither thin nor clear.
  const thin = Math.max(1, Math.round(place.widthPx / 900));
  const onPixel = (at: number, size: number) => Math.round(at - size / 2);
  const firstFrom = (edge: number, origin: number) =>
    origin + Math.ceil((edge - origin) / step) * step;
  const along = (from: number, length: number, origin: number, draw: (at: number) => void) => {
    for (let at = firstFrom(from, origin); at < from + length; at += step) draw(at);
  };
  const down = (draw: (y: number) => void) => along(box.y, box.height, place.y(0), draw);
  const across = (draw: (x: number) => void) => along(box.x, box.width, place.x(0), draw);
  if (ruling === 'dotted') {
    const dot = thin * 2;
    down((y) => across((x) => context.fillRect(onPixel(x, dot), onPixel(y, dot), dot, dot)));
    return;
  }
  down((y) => context.fillRect(box.x, onPixel(y, thin), box.width, thin));
  if (ruling === 'squared')
    across((x) => context.fillRect(onPixel(x, thin), box.y, thin, box.height));
};

/** The material's page that lies on the paper, as sharp as it is shown. */
const paintMaterial = <P>(
  context: Context2D<P>,
  of: NonNullable<ShownPage['of']>,
  place: Place,
  pageOf: PageOf<P>,
): void => {
  const { x, y, width, height } = placeOnPage(of);
  const picture = pageOf(of, width * place.widthPx);
  if (!picture) return;
  // On whole pixels: what was made in the size that it is shown in stays as sharp.
  const [left, top] = [Math.round(place.x(x)), Math.round(place.y(y))];
  const toX = Math.round(place.x(x + width));
  const toY = Math.round(place.y(y + height));
  // Pictures may let through what lies under them: theirs is white paper.
  context.fillStyle = '#fff';
  context.fillRect(left, top, toX - left, toY - top);
  context.imageSmoothingEnabled = true;
  context.imageSmoothingQuality = 'high';
  context.drawImage(
    picture.image,
    ...([0, 0, picture.widthPx, picture.heightPx] as const),
    ...([left, top, toX - left, toY - top] as const),
  );
};

/** How wide the material's page on a page is shown, px; 0 where there is none. */
export const materialWidth = (
  { of, view }: Pick<ShownPage, 'of' | 'view'>,
  from: Rect,
  box: RectPx,
): number => (of ? placeOnPage(of).width * placeOf(view, from, box).widthPx : 0);

/** Outlines of strokes that are done: what makes them is dear, and they are painted again and again. */
const OUTLINES = new WeakMap<readonly InkPoint[], readonly XY[]>();

const outlineOnce = (points: readonly InkPoint[], pen: Pen): readonly XY[] => {
  let outline = OUTLINES.get(points);
  if (!outline) {
    outline = outlineOf(points, pen, true);
    OUTLINES.set(points, outline);
  }
  return outline;
};

/** A closed outline, smooth: its corners are controls of quadratic curves between the middles of its edges. */
const smoothPath = <P>(context: Context2D<P>, outline: readonly XY[], place: Place): void => {
  const points = outline.map(([x, y]) => [place.x(x), place.y(y)] as const);
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return;
  context.beginPath();
  context.moveTo((last[0] + first[0]) / 2, (last[1] + first[1]) / 2);
  points.forEach(([x, y], index) => {
    const [nextX, nextY] = points[(index + 1) % points.length]!;
    context.quadraticCurveTo(x, y, (x + nextX) / 2, (y + nextY) / 2);
  });
  context.closePath();
  context.fill();
};

const lines = <P>(context: Context2D<P>, place: Place, paths: readonly (readonly XY[])[]): void => {
  context.beginPath();
  for (const path of paths) {
    path.forEach(([x, y], index) =>
      index === 0 ? context.moveTo(place.x(x), place.y(y)) : context.lineTo(place.x(x), place.y(y)),
    );
  }
  context.stroke();
};

const paintStroke = <P>(
  context: Context2D<P>,
  shown: ShownStroke,
  colour: string,
  place: Place,
  layerOpacity: number,
): void => {
  const { stroke, points, opacity, done } = shown;
  const { pen, text } = stroke;
  const { tool, width } = pen;
  const first = points[0]!;
  context.globalAlpha = layerOpacity * opacity * (tool === 'highlighter' ? HIGHLIGHT : 1);
  context.fillStyle = colour;
  context.strokeStyle = colour;
  context.lineWidth = width * place.widthPx;
  context.lineCap = 'round';
  context.lineJoin = 'round';
  switch (tool) {
    case 'pen':
    case 'highlighter':
      return smoothPath(
        context,
        done ? outlineOnce(points, pen) : outlineOf(points, pen, false),
        place,
      );
    case 'line':
    case 'arrow':
    case 'box':
    case 'ellipse':
      return lines(context, place, pathsOf(shown));
    case 'text': {
      context.font = `600 ${width * place.widthPx}px ${TITLE_FONT}, serif`;
      context.textAlign = 'left';
      context.textBaseline = 'top';
      text.split('\n').forEach((line, index) => {
        const y = first.y + index * width * LINE_HEIGHT;
        context.fillText(line, place.x(first.x), place.y(y));
      });
    }
  }
};

/** Paints a page as it looks at some time into a box. */
export const paintPage = <P>(
  context: Context2D<P>,
  { paper, of, view, strokes }: ShownPage,
  from: Rect,
  box: RectPx,
  pageOf: PageOf<P> = NO_PAGES,
  opacity = 1,
): void => {
  const place = placeOf(view, from, box);
  context.globalAlpha = opacity;
  paintPaper(context, paper, place, box);
  if (of) paintMaterial(context, of, place, pageOf);
  const colours = INK_COLOURS[paper.shade];
  for (const shown of strokes) {
    paintStroke(context, shown, colours[shown.stroke.pen.colour], place, opacity);
  }
};

/** Ink that isn't there is left out. */
export const ink: LayerPainter<InkLayer> = {
  version: 1,
  paint(context, layer, frame) {
    const track = frame.inkOf(layer.takeId);
    if (!track) return;
    const box = boxPx(layer, frame);
    context.save();
    roundedPath(context, box, radiusPx(layer, box));
    context.clip();
    const page = pageAt(track, layer.sinceUs);
    if (frame.held && layer.opacity === 1) {
      frame.held.paint(context, layer.takeId, page, layer.from, box, frame.pageOf);
    } else paintPage(context, page, layer.from, box, frame.pageOf, layer.opacity);
    context.restore();
  },
  bounds: boxPx,
};
