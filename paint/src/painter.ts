import type { SizePx } from '@under-chalk/core/place/picture-size';
import { toEvenPx, toPx, type RectPx } from '@under-chalk/core/scene/pixels';
import type { Layer, Scene } from '@under-chalk/core/scene/scene';
import type { Context2D, PictureOf } from './context';

/** Part of every chunk's key: raise it when the painter paints something differently. */
export const PAINTER_VERSION = 3;

/** The family that titles are set in; whoever makes the canvas has it loaded under this name. */
export const TITLE_FONT = 'Bitter';

const EDGE_COLOUR = 'rgba(247, 243, 233, 0.92)';
const TITLE_COLOUR = '#f7f3e9';

/** Width of the line round an inset, as a fraction of the frame's shorter side. */
const EDGE_WIDTH = 0.0045;

const boxOf = (layer: Layer, scene: Scene, size: SizePx): RectPx =>
  scene.still ? toEvenPx(layer.to, size) : toPx(layer.to, size);

const radiusPx = (layer: Layer, box: RectPx) => layer.radius * Math.min(box.width, box.height);

/** A rectangle with round corners as the current path. Radius in px, at most half the shorter side. */
const roundedPath = <P>(context: Context2D<P>, box: RectPx, radius: number): void => {
  const { x, y, width, height } = box;
  const corner = Math.min(radius, width / 2, height / 2);
  context.beginPath();
  context.moveTo(x + corner, y);
  context.arcTo(x + width, y, x + width, y + height, corner);
  context.arcTo(x + width, y + height, x, y + height, corner);
  context.arcTo(x, y + height, x, y, corner);
  context.arcTo(x, y, x + width, y, corner);
  context.closePath();
};

/** Breaks words into lines no wider than `most` px in the context's font. */
const linesOf = <P>(context: Context2D<P>, text: string, most: number): string[] => {
  const lines: string[] = [];
  for (const word of text.split(/\s+/).filter(Boolean)) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last !== undefined && context.measureText(longer).width <= most) {
      lines[lines.length - 1] = longer;
    } else {
      lines.push(word);
    }
  }
  return lines;
};

const paintTitle = <P>(context: Context2D<P>, size: SizePx, title: string): void => {
  const fontPx = Math.round(Math.min(size.widthPx, size.heightPx) * 0.085);
  context.font = `600 ${fontPx}px ${TITLE_FONT}, serif`;
  context.fillStyle = TITLE_COLOUR;
  context.textAlign = 'center';
  context.textBaseline = 'middle';
  const lines = linesOf(context, title, size.widthPx * 0.8);
  const lineHeight = fontPx * 1.3;
  lines.forEach((line, index) => {
    const y = size.heightPx / 2 + (index - (lines.length - 1) / 2) * lineHeight;
    context.fillText(line, size.widthPx / 2, y);
  });
};

/** Paints the lines round insets. Apart from the pictures, so that they can be laid over video as a still. */
export const paintEdges = <P>(context: Context2D<P>, size: SizePx, scene: Scene): void => {
  for (const layer of scene.layers) {
    if (!layer.edged) continue;
    const box = boxOf(layer, scene, size);
    context.save();
    context.globalAlpha = layer.opacity;
    context.strokeStyle = EDGE_COLOUR;
    context.lineWidth = EDGE_WIDTH * Math.min(size.widthPx, size.heightPx);
    roundedPath(context, box, radiusPx(layer, box));
    context.stroke();
    context.restore();
  }
};

/** Paints what lies behind all pictures: the background, and the title of a film without pictures. */
export const paintGround = <P>(context: Context2D<P>, size: SizePx, scene: Scene): void => {
  context.fillStyle = scene.background;
  context.fillRect(0, 0, size.widthPx, size.heightPx);
  if (scene.title) paintTitle(context, size, scene.title);
};

/**
 * Paints the shape of one layer in white on black, filling a canvas of the size of the layer's box.
 * With `alphamerge` it gives a video the same outline that {@link paint} gives a picture.
 */
export const paintMask = <P>(context: Context2D<P>, layer: Layer, box: RectPx): void => {
  const whole = { x: 0, y: 0, width: box.width, height: box.height };
  context.fillStyle = '#000';
  context.fillRect(0, 0, box.width, box.height);
  context.fillStyle = '#fff';
  roundedPath(context, whole, radiusPx(layer, whole));
  context.fill();
};

/**
 * Paints one moment of a film. The one painter: preview, worker and server all draw with it, so what
 * the teacher sees is what is exported.
 *
 * @param size the canvas, px
 * @param pictureOf the pictures of the scene's tracks; a layer whose picture is missing is left out
 */
export const paint = <P>(
  context: Context2D<P>,
  size: SizePx,
  scene: Scene,
  pictureOf: PictureOf<P>,
): void => {
  paintGround(context, size, scene);
  for (const layer of scene.layers) {
    const picture = pictureOf(layer.trackId);
    if (!picture) continue;
    const box = boxOf(layer, scene, size);
    context.save();
    context.globalAlpha = layer.opacity;
    if (layer.radius > 0) {
      roundedPath(context, box, radiusPx(layer, box));
      context.clip();
    }
    context.imageSmoothingEnabled = true;
    context.imageSmoothingQuality = 'high';
    context.drawImage(
      picture.image,
      layer.from.x * picture.widthPx,
      layer.from.y * picture.heightPx,
      layer.from.width * picture.widthPx,
      layer.from.height * picture.heightPx,
      box.x,
      box.y,
      box.width,
      box.height,
    );
    context.restore();
  }
  paintEdges(context, size, scene);
};
