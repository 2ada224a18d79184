import { aspectOf } from '../../lesson/arrangement';
import { insetRect, WHOLE } from '../geometry';
import type { ReadSource, Shown } from './source';

/** A picture that lies over all of the film, in its place. */
export const watermarkSource: ReadSource = ({ lesson: { decisions } }) => {
  const { watermark, frame } = decisions;
  const shown: Shown = { layers: [], moving: false };
  if (!watermark) return { borders: [], at: () => shown };
  const { of, placeX, placeY, size, strength } = watermark;
  const inset = { placeX, placeY, size, shape: 'square-cornered' as const };
  const to = insetRect(inset, of.aspect, aspectOf(frame.shape));
  const laid: Shown = {
    layers: [{ kind: 'page', of, from: WHOLE, to, opacity: strength, clear: true }],
    moving: false,
  };
  return { borders: [], at: () => laid };
};
