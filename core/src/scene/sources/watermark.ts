import { aspectOf } from '../../lesson/layout';
import type { Watermark } from '../../lesson/watermark';
import { insetRect, WHOLE } from '../geometry';
import type { Layer } from '../layers';
import type { ReadSource, Shown } from './source';

/** How high the letters' box of words is, of the height that a picture would have. */
const WORDS_HIGH = 0.45;

const layerOf = (watermark: Watermark, frameAspect: number): Layer => {
  const { of, placeX, placeY, size, strength: opacity } = watermark;
  if ('text' in of)
    return { kind: 'mark', text: of.text, placeX, placeY, size: size * WORDS_HIGH, opacity };
  const inset = { placeX, placeY, size, shape: 'square-cornered' as const };
  const to = insetRect(inset, of.aspect, frameAspect);
  return { kind: 'page', of, from: WHOLE, to, opacity, clear: true };
};

/** A picture or words that lie over all of the film, in their place. */
export const watermarkSource: ReadSource = ({ lesson: { decisions } }) => {
  const { watermark, frame } = decisions;
  const shown: Shown = {
    layers: watermark ? [layerOf(watermark, aspectOf(frame.shape))] : [],
    moving: false,
  };
  return { borders: [], at: () => shown };
};
