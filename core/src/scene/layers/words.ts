import type { LayerKind } from './kind';

/** Words set in the middle of the frame, in as many lines as they need. */
export interface WordsLayer {
  readonly kind: 'words';
  readonly text: string;
}

export const words: LayerKind<WordsLayer> = {
  standsStill: (before, after) => before.text === after.text,
};
