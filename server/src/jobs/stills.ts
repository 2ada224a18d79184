import { NEW_DECISIONS, type Decisions } from '@under-chalk/core/edit/decisions';
import { AppError } from '@under-chalk/core/errors/errors';
import { pictureTrackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import { createCanvas } from '@napi-rs/canvas';
import { changedTrack } from '@under-chalk/core/ink/changed-track';
import { pageAt } from '@under-chalk/core/ink/ink-track';
import { PAGE_ASPECT } from '@under-chalk/core/ink/page';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { materialWidth, paintPage } from '@under-chalk/paint';
import { loadPages } from '@under-chalk/render';
import { writeFile } from 'node:fs/promises';
import type { MediaStore } from '../store/media-store';
import { inkOfTakes } from './ink-of';
import type { PagePictures } from './materials/page-pictures';
import type { StillMaker } from './still-maker';

/** Small pictures of takes, made when they are asked for. */
export class Stills {
  readonly #media: MediaStore;
  readonly #maker: StillMaker;
  readonly #pages: PagePictures;

  constructor(media: MediaStore, maker: StillMaker, pages: PagePictures) {
    this.#pages = pages;
    this.#media = media;
    this.#maker = maker;
  }

  /**
   * A JPEG of what the take showed at a recorded time (to the tenth of a second).
   *
   * @param decisions what was changed about its writing, where it is a board
   * @returns its path
   * @throws AppError `not-found` when the take has no picture
   */
  async of(
    take: Take,
    atUs: Us,
    widthPx = 320,
    decisions: Pick<Decisions, 'addedInk' | 'inkChanges'> = NEW_DECISIONS,
    of: 'surface' | 'camera' = 'surface',
  ): Promise<string> {
    const track = pictureTrackOf(take, of);
    if (!track || take.state !== 'ready') throw new AppError('not-found', 'no picture');
    const lastUs = Math.max(0, track.durationUs - 100_000);
    const placeUs = Math.floor(Math.min(atUs, lastUs) / 100_000) * 100_000;
    const name = JSON.stringify([track.id, placeUs, widthPx]);
    if (track.kind === 'ink') {
      const changes = [decisions.addedInk, decisions.inkChanges].map((list) =>
        list.filter(({ takeId }) => takeId === take.id),
      );
      const asChanged = changes.flat().length > 0 ? `${name} ${JSON.stringify(changes)}` : name;
      return this.#maker.made(asChanged, async (draft) => {
        const inkOf = await inkOfTakes([take], this.#media);
        const canvas = createCanvas(widthPx, Math.round(widthPx / PAGE_ASPECT));
        const box = { x: 0, y: 0, width: canvas.width, height: canvas.height };
        const ink = changedTrack(inkOf(track.id), take.id, decisions)!;
        const page = pageAt(ink, placeUs);
        const shown = page.of ? ([[page.of, materialWidth(page, WHOLE, box)]] as const) : [];
        const pageOf = await loadPages(shown, this.#pages.forFilm);
        paintPage(canvas.getContext('2d') as never, page, WHOLE, box, pageOf);
        await writeFile(draft, await canvas.encode('jpeg', 80));
      });
    }
    return this.#maker.of(name, {
      media: this.#media.media(track.id),
      atUs: placeUs,
      widthPx,
      quality: 5,
    });
  }
}
