import type { CaptionLook } from '../../words/caption-look';
import type { LayerKind } from './kind';

/** What is said, at the moment that it is, in the lines that it is read in. */
export interface CaptionLayer extends Pick<CaptionLook, 'size' | 'ground'> {
  readonly kind: 'caption';
  readonly place: Exclude<CaptionLook['place'], 'clear'>;
  readonly lines: readonly string[];
}

export const caption: LayerKind<CaptionLayer> = {
  standsStill: (before, after) => JSON.stringify(before) === JSON.stringify(after),
};
