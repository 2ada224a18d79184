import type { ShownPage } from '@under-chalk/core/ink/ink-track';
import type { Rect } from '@under-chalk/core/scene/geometry';
import type { RectPx } from '@under-chalk/core/scene/pixels';
import { NO_PAGES, type Context2D, type PageOf } from './context';
import { materialWidth, paintPage } from './layers/ink';
import type { MakeSheet, PageHolder, Sheet } from './layers/layer-painter';

/**
 * A page that is painted again and again while somebody writes on it: what is done is painted once, into a picture
 * that is held; a new stroke is added to it. Only what is being drawn, or fades, is painted every time.
 */
export class HeldInk<P> implements PageHolder<P> {
  readonly #makeSheet: MakeSheet<P>;
  #sheet: Sheet<P> | null = null;
  /** What has to be the same for the picture to be of use. */
  #needs = '';
  /** The picture of the material's page that is in it. */
  #picture: unknown;
  /** The strokes that are in it. */
  #strokes: ShownPage['strokes'] = [];

  constructor(makeSheet: MakeSheet<P>) {
    this.#makeSheet = makeSheet;
  }

  paint(
    context: Context2D<P>,
    of: string,
    page: ShownPage,
    from: Rect,
    box: RectPx,
    pageOf: PageOf<P> = NO_PAGES,
  ): void {
    const { width, height } = box;
    const own = { x: 0, y: 0, width, height };
    const { index, paper, view } = page;
    const needs = JSON.stringify([of, index, paper, page.of, view, from, width, height]);
    // It comes when it has been fetched, and again when there is a sharper one.
    const picture = page.of && pageOf(page.of, materialWidth(page, from, box))?.image;
    // Up to the first that isn't done: what lies over it stays over it.
    const firstMoving = page.strokes.findIndex(({ done, opacity }) => !done || opacity < 1);
    const held = firstMoving < 0 ? page.strokes : page.strokes.slice(0, firstMoving);
    const grows =
      this.#sheet !== null &&
      this.#needs === needs &&
      this.#picture === picture &&
      this.#strokes.length <= held.length &&
      this.#strokes.every(
        ({ stroke, points }, index) =>
          stroke === held[index]!.stroke && points === held[index]!.points,
      );
    if (!grows) {
      if (this.#needs !== needs || !this.#sheet) this.#sheet = this.#makeSheet(width, height);
      this.#sheet.context.clearRect(0, 0, width, height);
      paintPage(this.#sheet.context, { ...page, strokes: held }, from, own, pageOf);
    } else if (held.length > this.#strokes.length) {
      const strokes = held.slice(this.#strokes.length);
      paintPage(this.#sheet!.context, { ...bare(page), strokes }, from, own);
    }
    this.#needs = needs;
    this.#picture = picture;
    this.#strokes = held;
    context.globalAlpha = 1;
    context.drawImage(this.#sheet!.image, 0, 0, width, height, box.x, box.y, width, height);
    const moving = page.strokes.slice(held.length);
    paintPage(context, { ...bare(page), strokes: moving }, from, box);
  }
}

/** The page's colours without its paper and what lies on it. */
const bare = (page: ShownPage): ShownPage => ({
  ...page,
  paper: { ...page.paper, ruling: 'none' },
  of: undefined,
});
