import { loadImage } from '@napi-rs/canvas';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { groundAt } from '@under-chalk/core/ink/ink-track';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import type { MaterialPage } from '@under-chalk/core/material/material';
import { everyLayer } from '@under-chalk/core/scene/layers';
import type { InkLayer } from '@under-chalk/core/scene/layers/ink';
import { toEvenPx } from '@under-chalk/core/scene/pixels';
import type { Scene } from '@under-chalk/core/scene/scene';
import { materialWidth, type PageOf, type Picture } from '@under-chalk/paint';

/** Makes a picture of a material's page, so many px wide. @returns where it lies */
export type PageFile = (page: MaterialPage, widthPx: number) => Promise<string>;

/** Wider than this no page is painted, px. */
const WIDEST_PX = 3840;

const nameOf = ({ content, page }: MaterialPage) => `${content} ${page}`;

/** Loads pages, each as wide as it is shown widest. */
export const loadPages = async (
  shown: Iterable<readonly [page: MaterialPage, widthPx: number]>,
  pageFile: PageFile,
): Promise<PageOf<unknown>> => {
  const widths = new Map<string, { page: MaterialPage; widthPx: number }>();
  for (const [page, shownPx] of shown) {
    const widthPx = Math.min(WIDEST_PX, Math.max(2, Math.round(shownPx)));
    if (widthPx > (widths.get(nameOf(page))?.widthPx ?? 0)) {
      widths.set(nameOf(page), { page, widthPx });
    }
  }
  const pictures = new Map<string, Picture<unknown>>();
  for (const [name, { page, widthPx }] of widths) {
    const image = await loadImage(await pageFile(page, widthPx));
    pictures.set(name, { image, widthPx: image.width, heightPx: image.height });
  }
  return (page) => pictures.get(nameOf(page));
};

/** The pages of materials that some scenes show, and how wide. */
export function* pagesIn(
  scenes: Iterable<Scene>,
  size: SizePx,
  inkOf: InkOf,
): Generator<readonly [page: MaterialPage, widthPx: number]> {
  const seen = new Set<string>();
  for (const { layers } of scenes) {
    for (const layer of everyLayer(layers)) {
      if (layer.kind === 'page') {
        yield [layer.of, toEvenPx(layer.to, size).width / layer.from.width];
      }
      if (layer.kind !== 'ink') continue;
      const { takeId, sinceUs, from, to } = layer satisfies InkLayer;
      const track = inkOf(takeId);
      const ground = track && groundAt(track, sinceUs);
      const name = JSON.stringify([ground, from, to]);
      if (!ground?.of || seen.has(name)) continue;
      seen.add(name);
      yield [ground.of, materialWidth(ground, from, toEvenPx(to, size))];
    }
  }
}
