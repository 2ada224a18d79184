import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { Layer } from '@under-chalk/core/scene/layers';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import type { Scene } from '@under-chalk/core/scene/scene';
import { NO_INK } from '@under-chalk/core/ink/changed-track';
import { NO_PAGES, type Context2D } from './context';
import { titleCard } from './layers/title-card';
import { clock } from './layers/clock';
import { crossFade } from './layers/cross-fade';
import { edge } from './layers/edge';
import { ground } from './layers/ground';
import { ink } from './layers/ink';
import type { Frame, LayerPainter } from './layers/layer-painter';
import { caption } from './layers/caption';
import { textOverlay } from './layers/text-overlay';
import { mark } from './layers/mark';
import { page } from './layers/page';
import { picture } from './layers/picture';
import { pointer } from './layers/pointer';
import { shadow } from './layers/shadow';
import { words } from './layers/words';

const PAINTERS: {
  readonly [Name in Layer['kind']]: LayerPainter<Extract<Layer, { kind: Name }>>;
} = {
  ground,
  words,
  picture,
  edge,
  ink,
  pointer,
  page,
  'text-overlay': textOverlay,
  caption,
  mark,
  clock,
  'title-card': titleCard,
  shadow,
  'cross-fade': crossFade,
};

/** How a kind of layer is painted now; part of the key of every chunk that shows one. */
export const versionOf = (kind: Layer['kind']): number => PAINTERS[kind].version;

/** Where what layers ask for comes from; what is missing is left out. */
export type Shown<P> = Partial<
  Pick<Frame<P>, 'pictureOf' | 'inkOf' | 'pageOf' | 'held' | 'makeSheet'>
>;

const NO_PICTURES = () => undefined;

/** Paints some layers of a frame, the first one lowest. */
export const paintLayers = <P>(
  context: Context2D<P>,
  layers: readonly Layer[],
  on: Pick<Frame<P>, 'size' | 'still'>,
  shown: Shown<P>,
): void => {
  const frame: Frame<P> = {
    ...{ pictureOf: NO_PICTURES, inkOf: NO_INK, pageOf: NO_PAGES, ...shown, ...on },
    // Held for what is painted here again and again, and not for what is painted beside it.
    paintLayers: (beside, others) => {
      const { held: _, ...rest } = shown;
      paintLayers(beside, others, on, rest);
    },
  };
  for (const layer of layers) {
    (PAINTERS[layer.kind] as LayerPainter<Layer>).paint(context, layer, frame);
  }
};

/** The part of the canvas that some layers can touch, on even px inside it. */
export const boundsOf = (
  layers: readonly Layer[],
  frame: Pick<Frame<unknown>, 'size' | 'still'>,
): RectPx => {
  const all = layers.map((layer) =>
    (PAINTERS[layer.kind] as LayerPainter<Layer>).bounds(layer, frame),
  );
  const evenDown = (value: number) => Math.max(0, Math.floor(value / 2) * 2);
  const evenUp = (value: number, most: number) => Math.min(most, Math.ceil(value / 2) * 2);
  const x = evenDown(Math.min(...all.map((box) => box.x)));
  const y = evenDown(Math.min(...all.map((box) => box.y)));
  const { widthPx, heightPx } = frame.size;
  return {
    x,
    y,
    width: evenUp(Math.max(...all.map((box) => box.x + box.width)), widthPx) - x,
    height: evenUp(Math.max(...all.map((box) => box.y + box.height)), heightPx) - y,
  };
};

/**
 * Paints one moment of a film. The one painter: preview, worker and server all draw with it, so what
 * the teacher sees is what is exported.
 *
 * @param size the canvas, px
 */
export const paint = <P>(
  context: Context2D<P>,
  size: SizePx,
  { layers, still }: Scene,
  shown: Shown<P>,
): void => paintLayers(context, layers, { size, still }, shown);
