import { titleCard, type TitleCardLayer } from './layers/title-card';
import { clock, type ClockLayer } from './layers/clock';
import { crossFade, type CrossFadeLayer } from './layers/cross-fade';
import { edge, type EdgeLayer } from './layers/edge';
import { ink, type InkLayer } from './layers/ink';
import { ground, type GroundLayer } from './layers/ground';
import type { LayerKind } from './layers/kind';
import { caption, type CaptionLayer } from './layers/caption';
import { textOverlay, type TextOverlayLayer } from './layers/text-overlay';
import { mark, type MarkLayer } from './layers/mark';
import { page, type PageLayer } from './layers/page';
import { picture, type PictureLayer } from './layers/picture';
import { pointer, type PointerLayer } from './layers/pointer';
import { shadow, type ShadowLayer } from './layers/shadow';
import { words, type WordsLayer } from './layers/words';

/** What can lie in a frame. A new kind is a file in `layers/`, a line here, and how it is painted in `paint`. */
export type Layer =
  | GroundLayer
  | WordsLayer
  | PictureLayer
  | EdgeLayer
  | InkLayer
  | PointerLayer
  | PageLayer
  | TextOverlayLayer
  | CaptionLayer
  | MarkLayer
  | ClockLayer
  | TitleCardLayer
  | ShadowLayer
  | CrossFadeLayer<Layer>;

const KINDS: { readonly [Name in Layer['kind']]: LayerKind<Extract<Layer, { kind: Name }>> } = {
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

/** Whether all layers of a frame stand still until the next one. */
export const standStill = (before: readonly Layer[], after: readonly Layer[]): boolean =>
  before.length === after.length &&
  before.every((layer, index) => {
    const next = after[index]!;
    return (
      layer.kind === next.kind && (KINDS[layer.kind] as LayerKind<Layer>).standsStill(layer, next)
    );
  });

/** All layers, with those that a layer is made of. */
export function* everyLayer(layers: readonly Layer[]): Generator<Layer, void> {
  for (const layer of layers) {
    yield layer;
    if (layer.kind === 'cross-fade') yield* everyLayer(layer.layers);
  }
}

/**
 * The pictures among some layers, each with a name for what it reads: the track, and which one of it this is in
 * the order of the layers, for a track can be seen twice in a frame.
 */
export const pictureSlots = (layers: readonly Layer[]): [slot: string, PictureLayer][] => {
  const seen = new Map<string, number>();
  return [...everyLayer(layers)].filter(isPictureLayer).map((layer) => {
    const number = seen.get(layer.trackId) ?? 0;
    seen.set(layer.trackId, number + 1);
    return [`${layer.trackId} ${number}`, layer];
  });
};

export const isPictureLayer = (layer: Layer): layer is PictureLayer => layer.kind === 'picture';
