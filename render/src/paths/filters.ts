import { createCanvas } from '@napi-rs/canvas';
import type { Track } from '@under-chalk/core/lesson/take';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { isPictureLayer, type Layer } from '@under-chalk/core/scene/layers';
import type { PictureLayer } from '@under-chalk/core/scene/layers/picture';
import { toEvenPx, type RectPx } from '@under-chalk/core/scene/pixels';
import type { Scene } from '@under-chalk/core/scene/scene';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { FILM_FPS, nearestFrame } from '@under-chalk/core/time/frames';
import { boundsOf, paintLayers, paintMask, type PageOf } from '@under-chalk/paint';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Laid } from './laid';
import { framesFilter, openPictures, picturesFrom, rgbaToFilm, toFilm } from '../ffmpeg/pictures';
import type { MediaFile } from '../ffmpeg/run';

/** Where the pictures of a chunk come from. */
export interface Footage {
  readonly mediaOf: (trackId: string) => MediaFile;
  readonly trackOf: (trackId: string) => Track;
  readonly inkOf: InkOf;
  readonly pageOf: PageOf<unknown>;
}

/** A still picture for ffmpeg: one frame of it. */
const openStill = (path: string): string[] => [
  ...['-protocol_whitelist', 'file', '-f', 'png_pipe', '-framerate', String(FILM_FPS)],
  ...['-i', path],
];

/**
 * Has a still shown for as long as it is asked for. Behind what it is made into: else it would be read and converted
 * anew for every frame.
 */
const STAYS = `loop=loop=-1:size=1,setpts=N/${FILM_FPS}/TB`;

/** Frames of RGBA that are painted as they are asked for. */
const openPainted = (width: number, height: number): string[] => [
  ...['-protocol_whitelist', 'pipe', '-f', 'rawvideo', '-pix_fmt', 'rgba'],
  ...['-s', `${width}x${height}`, '-r', String(FILM_FPS), '-i', 'pipe:0'],
];

/** Whether a layer hides the whole frame, so that nothing under it needs laying. */
const fillsFrame = (layer: Layer, size: SizePx): layer is PictureLayer => {
  if (!isPictureLayer(layer)) return false;
  const box = toEvenPx(layer.to, size);
  return box.width === size.widthPx && box.height === size.heightPx && layer.radius === 0;
};

/** Crops to the part that is shown and scales it to its box. */
const placed = ({ from, mirrored }: PictureLayer, box: RectPx, track: Track): string => {
  const { x, y, width, height } = from;
  const whole = width > 0.9999 && height > 0.9999;
  // To the nearest pixel: without `exact` it is moved to where chroma samples lie, up to two away.
  const part = (side: string, of: number) => `round(${side}*${of.toFixed(6)})`;
  const crop = `${part('iw', width)}:${part('ih', height)}:${part('iw', x)}:${part('ih', y)}:exact=1`;
  return [
    toFilm({
      to: box,
      crop: whole ? null : crop,
      isLarger: box.width > width * track.widthPx,
    }),
    ...(mirrored ? ['hflip'] : []),
    'setsar=1',
  ].join(',');
};

/**
 * Layers that lie on one another without a picture between: they are one still.
 *
 * @param under what lies above this one is another still: something that moves lies between
 */
const gathered = (
  layers: readonly Layer[],
  under: Layer | undefined,
): (PictureLayer | readonly Layer[])[] => {
  const parts: (PictureLayer | Layer[])[] = [];
  let parted = false;
  for (const layer of layers) {
    const last = parts.at(-1);
    if (isPictureLayer(layer)) parts.push(layer);
    else if (Array.isArray(last) && !parted) last.push(layer);
    else parts.push([layer]);
    parted = layer === under;
  }
  return parts;
};

/**
 * The cheap render path: arguments with which ffmpeg alone makes a chunk in which everything stands still. Whatever is
 * no picture, and the outlines of pictures, are painted before by the painter as stills, so that the two render paths
 * agree.
 *
 * @param scene what stands still in the chunk: only its pictures go on
 * @param folder for the stills; the caller removes it
 * @param laid a part of the frame that comes frame by frame, as RGBA, by `pipe:0`
 * @returns input arguments, and the filter graph whose result is labelled `film`
 */
export const filterRenderPath = async (
  scene: Scene,
  frames: number,
  size: SizePx,
  { mediaOf, trackOf, inkOf, pageOf }: Footage,
  folder: string,
  laid: Pick<Laid, 'above' | 'box' | 'isClear'> | null = null,
): Promise<{ inputs: string[]; graph: string }> => {
  const inputs: string[] = [];
  const graph: string[] = [];
  let count = 0;
  /** Draws as on a canvas of the frame, and keeps the part that is drawn on. */
  const addStill = async (
    { x, y, width, height }: RectPx,
    draw: (context: never) => void,
  ): Promise<number> => {
    const canvas = createCanvas(width, height);
    const context = canvas.getContext('2d');
    context.translate(-x, -y);
    draw(context as never);
    const path = join(folder, `still-${count}.png`);
    await writeFile(path, await canvas.encode('png'));
    inputs.push(...openStill(path));
    return count++;
  };
  const addLayers = (layers: readonly Layer[], box: RectPx) =>
    addStill(box, (context) =>
      paintLayers(context, layers, { size, still: true }, { inkOf, pageOf }),
    );
  const addPicture = (layer: PictureLayer, box: RectPx): string => {
    const track = trackOf(layer.trackId);
    const from = picturesFrom(
      mediaOf(layer.trackId),
      track.durationUs,
      nearestFrame(layer.takeUs),
      layer.speed,
    );
    inputs.push(...openPictures(from));
    return `[${count++}:v:0]${framesFilter(from, frames)},${placed(layer, box, track)}`;
  };

  const whole = { x: 0, y: 0, width: size.widthPx, height: size.heightPx };
  const bottom = Math.max(
    0,
    scene.layers.findLastIndex((layer) => fillsFrame(layer, size)),
  );
  const parts = gathered(scene.layers.slice(bottom), laid?.above);
  let below = '';
  const over = (label: string, at: string) => {
    const next = `under${graph.length}`;
    graph.push(`[${below}][${label}]overlay=${at}[${next}]`);
    below = next;
  };
  for (const [index, part] of parts.entries()) {
    if (index === 0) {
      below = 'under';
      if (isGathered(part)) {
        const at = await addLayers(part, whole);
        graph.push(
          `[${at}:v]${rgbaToFilm('yuv420p')},setsar=1,${STAYS},trim=end_frame=${frames}[under]`,
        );
      } else {
        graph.push(`${addPicture(part, toEvenPx(part.to, size))}[under]`);
      }
    } else if (isGathered(part)) {
      const box = boundsOf(part, { size, still: true });
      const at = await addLayers(part, box);
      graph.push(`[${at}:v]${rgbaToFilm('yuva420p')},${STAYS}[still${index}]`);
      over(`still${index}`, `${box.x}:${box.y}:format=yuv420`);
    } else {
      const box = toEvenPx(part.to, size);
      const picture = addPicture(part, box);
      if (part.radius > 0) {
        graph.push(`${picture}[picture${index}]`);
        const mask = await addStill({ ...box, x: 0, y: 0 }, (context) =>
          paintMask(context, part, box),
        );
        graph.push(`[${mask}:v]format=gray,${STAYS}[mask${index}]`);
        graph.push(`[picture${index}][mask${index}]alphamerge[layer${index}]`);
      } else {
        graph.push(`${picture}[layer${index}]`);
      }
      over(`layer${index}`, `${box.x}:${box.y}:format=yuv420:shortest=0:eof_action=repeat`);
    }
    if (laid && (isGathered(part) ? part.includes(laid.above) : part === laid.above)) {
      const { x, y, width, height } = laid.box;
      inputs.push(...openPainted(width, height));
      graph.push(`[${count++}:v]${rgbaToFilm(laid.isClear ? 'yuva420p' : 'yuv420p')}[laid]`);
      over('laid', `${x}:${y}:format=yuv420`);
    }
  }
  graph.push(`[${below}]trim=end_frame=${frames},setpts=N/${FILM_FPS}/TB[film]`);
  return { inputs, graph: graph.join(';') };
};

const isGathered = (part: PictureLayer | readonly Layer[]): part is readonly Layer[] =>
  Array.isArray(part);
