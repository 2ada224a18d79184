import { pathTo } from '@under-chalk/core/contract/api';
import { pictureWidthFor, PICTURE_WIDTHS, type MaterialPage } from '@under-chalk/core/material/material';
import type { PageOf } from '@under-chalk/paint';
import { LiveValue } from './live-value';

/** Most that is held, px in all: a decoded picture takes four bytes for each. */
const MOST_PX = 14_000_000;
/** What could not be fetched is tried again after this long. */
const AGAIN_MS = 2_000;

/** Pictures of pages of materials: fetched when they are asked for, and the last ones held. */
export class PagePictures {
  readonly #held = new Map<string, ImageBitmap>();
  readonly #coming = new Set<string>();
  readonly #failed = new Map<string, number>();
  readonly #listeners = new Set<() => void>();
  readonly #fetch: (address: string) => Promise<ImageBitmap>;
  #heldPx = 0;
  /** Some page that is wanted can't be had just now. */
  readonly lacking = new LiveValue(false);

  constructor(fetchPicture: (address: string) => Promise<ImageBitmap> = fetchedPicture) {
    this.#fetch = fetchPicture;
  }

  /** The picture of a page, as sharp as it is shown or the nearest there is; that one is fetched. */
  readonly of: PageOf<CanvasImageSource> = (page, shownPx) => {
    const wanted = pictureWidthFor(shownPx);
    const found = this.#use(page, wanted);
    if (!found) this.#want(page, wanted);
    const image =
      found ?? [...PICTURE_WIDTHS].reverse().flatMap((width) => this.#use(page, width) ?? [])[0];
    return image && { image, widthPx: image.width, heightPx: image.height };
  };

  /** Has a picture fetched that will be wanted next. */
  ahead(page: MaterialPage, shownPx: number): void {
    const width = pictureWidthFor(shownPx);
    if (!this.#held.has(nameOf(page, width))) this.#want(page, width);
  }

  /** Has something told whenever a picture has come. @returns ends it */
  onCome(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  #use(page: MaterialPage, width: number): ImageBitmap | undefined {
    const name = nameOf(page, width);
    const image = this.#held.get(name);
    if (!image) return undefined;
    // The last one used stays longest.
    this.#held.delete(name);
    this.#held.set(name, image);
    return image;
  }

  #want(page: MaterialPage, width: number): void {
    const name = nameOf(page, width);
    if (this.#coming.has(name) || Date.now() - (this.#failed.get(name) ?? 0) < AGAIN_MS) return;
    this.#coming.add(name);
    this.#fetch(pictureAddress(page, width))
      .then(
        (image) => {
          this.#failed.delete(name);
          this.#hold(name, image);
        },
        () => {
          this.#failed.set(name, Date.now());
          // Whoever shows it asks again.
          setTimeout(() => this.#tell(), AGAIN_MS + 100);
        },
      )
      .finally(() => {
        this.#coming.delete(name);
        this.lacking.set(this.#failed.size > 0);
        this.#tell();
      });
  }

  #hold(name: string, image: ImageBitmap): void {
    this.#held.set(name, image);
    this.#heldPx += image.width * image.height;
    for (const [oldest, picture] of this.#held) {
      if (this.#heldPx <= MOST_PX || oldest === name) break;
      this.#held.delete(oldest);
      this.#heldPx -= picture.width * picture.height;
      picture.close();
    }
  }

  #tell(): void {
    this.#listeners.forEach((listener) => listener());
  }
}

/** Where the picture of a page is. */
export const pictureAddress = (
  { content, page }: Pick<MaterialPage, 'content' | 'page'>,
  width: number,
): string => `${pathTo('pagePicture', { content, page })}?width=${width}`;

const nameOf = ({ content, page }: MaterialPage, width: number) => `${content} ${page} ${width}`;

/** Fetches a picture and decodes it. @throws Error when it can't be had */
export const fetchedPicture = async (address: string): Promise<ImageBitmap> => {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`a page can’t be fetched: ${response.status}`);
  return createImageBitmap(await response.blob());
};

/** The one store of them: the board, its overview and the preview show the same pages. */
export const pagePictures = new PagePictures();
