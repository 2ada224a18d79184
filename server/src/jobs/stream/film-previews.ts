import { AppError } from '@under-chalk/core/errors/errors';
import { previewSheet } from '@under-chalk/core/stream/preview-sheet';
import { makePreviews } from '@under-chalk/render';
import type { StoredFilm } from '../../store/film-store';
import type { MediaStore } from '../../store/media-store';
import type { StillMaker } from '../still-maker';

/** Part of every sheet's name: raise it when they are made differently. */
const VERSION = 1;

/** Sheets of small pictures of films that are handed out, made out of the finished film when somebody looks for a place in it. */
export class FilmPreviews {
  readonly #maker: StillMaker;
  readonly #media: MediaStore;

  constructor(maker: StillMaker, media: MediaStore) {
    this.#maker = maker;
    this.#media = media;
  }

  /**
   * A JPEG as `core/stream/preview-sheet` lays it out.
   *
   * @returns its path
   * @throws AppError `not-ready` while the film is being made
   */
  async of({ id, manifest_id, film_us, state }: StoredFilm): Promise<string> {
    if (state !== 'done') throw new AppError('not-ready');
    return this.#maker.made(`previews ${VERSION} ${manifest_id}`, (draft) =>
      makePreviews(this.#media.film(id), previewSheet(film_us), draft),
    );
  }
}
