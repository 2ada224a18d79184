import { createCanvas } from '@napi-rs/canvas';
import type { Track } from '@under-chalk/core/lesson/take';
import type { SizePx } from '@under-chalk/core/place/picture-size';
import { toEvenPx } from '@under-chalk/core/scene/pixels';
import type { Layer, Scene } from '@under-chalk/core/scene/scene';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import { paintEdges, paintGround, paintMask } from '@under-chalk/paint';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FILM_COLOURS, framesFilter, openPictures, picturesFrom } from '../ffmpeg/pictures';
import type { MediaFile } from '../ffmpeg/run';

export interface StillChunk {
  readonly scene: Scene;
  readonly startFrame: number;
  readonly frames: number;
}

/** Where the pictures of a chunk come from. */
export interface Footage {
  readonly mediaOf: (trackId: string) => MediaFile;
  readonly trackOf: (trackId: string) => Track | undefined;
}

/** A still picture for ffmpeg, shown for as long as it is asked for. */
const openStill = (path: string): string[] => [
  '-protocol_whitelist',
  'file',
  '-f',
  'png_pipe',
  '-framerate',
  String(FILM_FPS),
  '-loop',
  '1',
  '-i',
  path,
];

/** Whether a layer hides the whole frame, so that nothing under it needs laying. */
const fillsFrame = (layer: Layer, size: SizePx) => {
  const box = toEvenPx(layer.to, size);
  return box.width === size.widthPx && box.height === size.heightPx && layer.radius === 0;
};

const whole = (layer: Layer) => layer.from.width > 0.9999 && layer.from.height > 0.9999;

/** Crops to the part that is shown and scales it to its box. */
const placed = (layer: Layer, size: SizePx): string => {
  const box = toEvenPx(layer.to, size);
  const { x, y, width, height } = layer.from;
  const crop = whole(layer)
    ? []
    : [`crop=iw*${width.toFixed(6)}:ih*${height.toFixed(6)}:iw*${x.toFixed(6)}:ih*${y.toFixed(6)}`];
  return [
    ...crop,
    `scale=${box.width}:${box.height}:${FILM_COLOURS}`,
    'setsar=1',
    'format=yuv420p',
  ].join(',');
};

/**
 * The cheap road: arguments with which ffmpeg alone makes a chunk in which everything stands still.
 * Outlines and edges are pre-painted by the painter as stills, so that the two roads agree.
 *
 * @param folder for the pre-painted stills; the caller removes it
 * @returns input arguments, and the filter graph whose result is labelled `film`
 */
export const filterRoad = async (
  chunk: StillChunk,
  size: SizePx,
  { mediaOf, trackOf }: Footage,
  folder: string,
): Promise<{ inputs: string[]; graph: string }> => {
  const { scene, startFrame, frames } = chunk;
  const inputs: string[] = [];
  const graph: string[] = [];
  let count = 0;
  const pictures = (layer: Layer) =>
    picturesFrom(mediaOf(layer.trackId), trackOf(layer.trackId)?.durationUs ?? 0, startFrame);
  const addStill = async (name: string, png: Promise<Buffer>) => {
    const path = join(folder, name);
    await writeFile(path, await png);
    inputs.push(...openStill(path));
    return count++;
  };

  const layers = scene.layers;
  const bottom = layers[0];
  let below: string;
  let rest = layers;
  if (bottom && fillsFrame(bottom, size)) {
    inputs.push(...openPictures(pictures(bottom)));
    graph.push(
      `[${count++}:v:0]${framesFilter(pictures(bottom), frames)},${placed(bottom, size)}[under]`,
    );
    rest = layers.slice(1);
  } else {
    const canvas = createCanvas(size.widthPx, size.heightPx);
    paintGround(canvas.getContext('2d') as never, size, scene);
    const at = await addStill('ground.png', canvas.encode('png'));
    graph.push(
      `[${at}:v]trim=end_frame=${frames},scale=${FILM_COLOURS},format=yuv420p,setsar=1[under]`,
    );
  }
  below = 'under';

  for (const [index, layer] of rest.entries()) {
    const box = toEvenPx(layer.to, size);
    inputs.push(...openPictures(pictures(layer)));
    const picture = `${framesFilter(pictures(layer), frames)},${placed(layer, size)}`;
    if (layer.radius > 0) {
      graph.push(`[${count++}:v:0]${picture}[picture${index}]`);
      const canvas = createCanvas(box.width, box.height);
      paintMask(canvas.getContext('2d') as never, layer, box);
      const mask = await addStill(`mask${index}.png`, canvas.encode('png'));
      graph.push(`[${mask}:v]format=gray[mask${index}]`);
      graph.push(`[picture${index}][mask${index}]alphamerge[layer${index}]`);
    } else {
      graph.push(`[${count++}:v:0]${picture}[layer${index}]`);
    }
    graph.push(
      `[${below}][layer${index}]overlay=${box.x}:${box.y}:format=yuv420:shortest=0:eof_action=repeat[over${index}]`,
    );
    below = `over${index}`;
  }

  if (layers.some((layer) => layer.edged)) {
    const canvas = createCanvas(size.widthPx, size.heightPx);
    paintEdges(canvas.getContext('2d') as never, size, scene);
    const at = await addStill('edges.png', canvas.encode('png'));
    graph.push(
      `[${at}:v]scale=${FILM_COLOURS},format=yuva420p[edges]`,
      `[${below}][edges]overlay=0:0:format=yuv420[edged]`,
    );
    below = 'edged';
  }
  graph.push(`[${below}]trim=end_frame=${frames},setpts=N/${FILM_FPS}/TB[film]`);
  return { inputs, graph: graph.join(';') };
};
