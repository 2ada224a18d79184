import type { LayerKind } from './kind';

/** The words of a card, in the middle of the frame. */
export interface TitleCardLayer {
  readonly kind: 'title-card';
  readonly heading: string;
  readonly line: string;
  /** What they stand on: something dark, something light, or a picture of any kind. */
  readonly on: 'dark' | 'light' | 'picture';
}

export const titleCard: LayerKind<TitleCardLayer> = {
  standsStill: (before, after) =>
    before.heading === after.heading && before.line === after.line && before.on === after.on,
};
