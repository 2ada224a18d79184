import type { ShownPage } from './ink-track';

/** So many strokes, as it would be said. */
export const strokesInWords = (count: number): string =>
  count === 1 ? 'one stroke' : `${count} strokes`;

/** The words that stand on a page; empty where there are none. */
export const wordsOn = ({ strokes }: Pick<ShownPage, 'strokes'>): string =>
  strokes.flatMap(({ stroke }) => stroke.text || []).join(', ');
