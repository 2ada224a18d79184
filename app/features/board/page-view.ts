import { placeOnPage } from '@under-chalk/core/material/page-place';
import { WHOLE_VIEW, type PageView } from '@under-chalk/core/ink/ink-track';
import { PAGE_ASPECT, type XY } from '@under-chalk/core/ink/page';
import type { MaterialPage } from '@under-chalk/core/material/material';

/** The middle of what is shown, in its widths. */
export const MIDDLE: XY = [0.5, 0.5 / PAGE_ASPECT];

/** From twice the page, for more room around it, to an eighth of its width. */
const LEAST_ZOOM = 0.5;
const MOST_ZOOM = 8;
/** Nearly the whole page is meant to be it. */
const NEARLY = 0.04;

const rounded = (value: number) => Math.round(value * 1e4) / 1e4;

/** The view that is meant by one: not too near, not too far, never beside the page, and whole where nearly so. */
export const nearerView = ({ x, y, zoom }: PageView): PageView => {
  const by = Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, zoom));
  if (Math.abs(by - 1) < NEARLY && Math.abs(x) < NEARLY && Math.abs(y) < NEARLY) return WHOLE_VIEW;
  const [width, height] = [1 / by, 1 / by / PAGE_ASPECT];
  const inside = (at: number, size: number, page: number) =>
    // A page's room all round, half of it at most out of sight.
    Math.min(page * 1.5 - size / 2, Math.max(-page / 2 - size / 2, at));
  return {
    x: rounded(inside(x, width, 1)),
    y: rounded(inside(y, height, 1 / PAGE_ASPECT)),
    zoom: rounded(by),
  };
};

/**
 * A view so many times as near, in which what was under a place is still under it.
 *
 * @param at the place, and where it is to be afterwards: fractions of the width of what is shown
 */
export const zoomedAt = (view: PageView, times: number, at: XY, to: XY = at): PageView => {
  const zoom = Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, view.zoom * times));
  return {
    x: view.x + at[0] / view.zoom - to[0] / zoom,
    y: view.y + at[1] / view.zoom - to[1] / zoom,
    zoom,
  };
};

/** The place on the page that is under a place of what is shown; both in widths. */
export const onPage = ({ x, y, zoom }: PageView, [atX, atY]: XY): XY => [
  x + atX / zoom,
  y + atY / zoom,
];

/** The upper part of a material's page, as wide as what is shown. */
export const acrossView = (of: Pick<MaterialPage, 'aspect' | 'beside'>): PageView => {
  const { x, y, width } = placeOnPage(of);
  return nearerView({ x, y, zoom: 1 / width });
};
