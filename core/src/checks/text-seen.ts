import type { InkOf } from '../ink/changed-track';
import { groundAt } from '../ink/ink-track';
import { PAGE_ASPECT } from '../ink/page';
import { placeOnPage } from '../material/page-place';
import type { PicturesRead, ShownText } from '../picture/reading';
import type { Rect } from '../scene/geometry';
import type { Layer } from '../scene/layers';
import type { InkLayer } from '../scene/layers/ink';
import type { PageLayer } from '../scene/layers/page';
import type { PictureLayer } from '../scene/layers/picture';

/** Something that can be read in a frame of the film: where it lies, in fractions of the frame. */
export interface TextSeen extends Rect {
  /** From the top of its tall letters to the bottom of its deep ones, of the frame’s height. */
  readonly letters: number;
  readonly text: string;
  readonly signs: number;
}

/** A layer that something can be read in. */
export type ReadLayer = PictureLayer | PageLayer | InkLayer;

/** What comes of something that lies in a layer's source, in fractions of it. */
const placed = ({ from, to }: Pick<ReadLayer, 'from' | 'to'>, text: ShownText): TextSeen => {
  const [wide, high] = [to.width / from.width, to.height / from.height];
  return {
    x: to.x + (text.x - from.x) * wide,
    y: to.y + (text.y - from.y) * high,
    width: text.width * wide,
    height: text.height * high,
    letters: text.letters * high,
    text: text.text,
    signs: text.signs,
  };
};

const isInside = ({ x, y, width, height }: Rect, to: Rect): boolean => {
  const [middleX, middleY] = [x + width / 2, y + height / 2];
  return (
    middleX >= to.x && middleX <= to.x + to.width && middleY >= to.y && middleY <= to.y + to.height
  );
};

/** What was read on the page of a material that is written on, in fractions of what the board shows. */
const onBoard = (layer: InkLayer, inkOf: InkOf, read: PicturesRead): ShownText[] => {
  const ink = inkOf(layer.takeId);
  const { of, view } = ink ? groundAt(ink, layer.sinceUs) : { of: undefined, view: null };
  const page = of && read.ofPage(of.content, of.page);
  if (!of || !page || !view) return [];
  const place = placeOnPage(of);
  // The page is told in its widths; what the board shows of it, in the board's own widths and heights.
  const high = view.zoom * PAGE_ASPECT;
  return page.shown.map((text) => ({
    x: (place.x + text.x * place.width - view.x) * view.zoom,
    y: (place.y + text.y * place.height - view.y) * high,
    width: text.width * place.width * view.zoom,
    height: text.height * place.height * high,
    letters: text.letters * place.height * high,
    text: text.text,
    signs: text.signs,
  }));
};

const textsOf = (layer: Layer, inkOf: InkOf, read: PicturesRead): readonly ShownText[] => {
  switch (layer.kind) {
    case 'picture': {
      const { takeUs } = layer;
      const texts = read.ofTrack(layer.trackId)?.texts;
      return texts?.find(({ startUs, endUs }) => startUs <= takeUs && takeUs < endUs)?.shown ?? [];
    }
    case 'page':
      return read.ofPage(layer.of.content, layer.of.page)?.shown ?? [];
    case 'ink':
      return onBoard(layer, inkOf, read);
    default:
      return [];
  }
};

/** What can be read in a layer of a frame, as far as it is known. */
export const textSeenIn = (layer: ReadLayer, inkOf: InkOf, read: PicturesRead): TextSeen[] =>
  textsOf(layer, inkOf, read)
    .map((text) => placed(layer, text))
    .filter((text) => isInside(text, layer.to));

export const isReadLayer = (layer: Layer): layer is ReadLayer =>
  (layer.kind === 'picture' || layer.kind === 'page' || layer.kind === 'ink') &&
  layer.opacity >= 0.5;
