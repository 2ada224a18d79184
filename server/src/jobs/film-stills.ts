import { sizeOf } from '@under-chalk/core/destination/picture-size';
import { AppError } from '@under-chalk/core/errors/errors';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { readScenes, type Scene, type SceneReader } from '@under-chalk/core/scene/scene';
import { paintStill } from '@under-chalk/render';
import { availableParallelism } from 'node:os';
import pLimit from 'p-limit';
import type { MediaStore } from '../store/media-store';
import { inkOfFilm, seenInFilm } from './ink-of';
import type { PagePictures } from './materials/page-pictures';

/** A film that pictures are taken of. */
export interface OpenFilm {
  readonly film: Film;
  readonly scenes: SceneReader;
}

/** Pictures painted at a time, for all requests together: each decodes with a process or two. */
const PAINTED_AT_ONCE = availableParallelism();

/** Single frames of films, painted as the film will have them, whether it has been made or not. */
export class FilmStills {
  readonly #media: MediaStore;
  readonly #pages: PagePictures;
  readonly #inTurn = pLimit(PAINTED_AT_ONCE);

  constructor(media: MediaStore, pages: PagePictures) {
    this.#media = media;
    this.#pages = pages;
  }

  /** @throws AppError `footage-missing` */
  async open(lesson: Lesson): Promise<OpenFilm> {
    const film = filmOf(lesson);
    const inkOf = await inkOfFilm(film, this.#media);
    return { film, scenes: readScenes(film, inkOf, await seenInFilm(film, this.#media)) };
  }

  /**
   * A picture of a film: one of its frames, or a scene that is made of its parts.
   *
   * @param scene null where there is none
   * @param widthPx of its picture; the height follows from the frame's shape
   * @throws AppError `not-found` where there is no scene; FfmpegError
   */
  async paint({ film, scenes }: OpenFilm, scene: Scene | null, widthPx: number) {
    if (!scene) throw new AppError('not-found', 'a picture of the film');
    const full = sizeOf(film.lesson, '720p');
    const heightPx = Math.round((full.heightPx * widthPx) / full.widthPx / 2) * 2;
    const tracks = new Map(
      film.lesson.takes.flatMap(({ tracks: all }) => all.map((track) => [track.id, track])),
    );
    return this.#inTurn(() =>
      paintStill(
        {
          ...{ scene, inkOf: scenes.inkOf, pageFile: this.#pages.forFilm },
          trackOf: (id) => tracks.get(id)!,
          mediaOf: this.#media.media,
          // What a film begins with is waited for more.
          background: true,
        },
        { widthPx, heightPx },
      ),
    );
  }
}
