import { AppError } from '@under-chalk/core/errors/errors';
import type { Log } from '../log';
import type { Binned, BinStore } from '../store/bin-store';
import type { ClassMaterials } from '../store/class-materials';
import type { ClassStore } from '../store/class-store';
import type { ShareLinkStore } from '../store/share-link-store';
import type { LessonStore } from '../store/lesson-store';
import type { MediaStore } from '../store/media-store';
import type { TakeStore } from '../store/take-store';
import type { ViewingStore } from '../store/watched-store';
import type { FilmMaker } from './film-maker';
import type { MaterialService } from './materials/material-service';
import type { TakeService } from './take-service';

interface TakeServiceParts {
  readonly bin: BinStore;
  readonly lessons: LessonStore;
  readonly takes: TakeStore;
  readonly media: MediaStore;
  readonly takeService: TakeService;
  readonly maker: FilmMaker;
  readonly materialService: MaterialService;
  readonly classMaterials: ClassMaterials;
  readonly classes: ClassStore;
  readonly shareLinks: ShareLinkStore;
  readonly watched: ViewingStore;
  readonly log: Log;
}

/** Throws things away, and lets them go for good when their time has come. */
export class BinService {
  readonly #parts: TakeServiceParts;

  constructor(parts: TakeServiceParts) {
    this.#parts = parts;
  }

  /**
   * Puts things into the bin, all of them or none; what was being done about them is broken off.
   *
   * @throws AppError `not-found`; `not-ready` for a take that is being recorded; `film-handed-out`; `take-elsewhere`
   */
  async throwAway(...all: readonly Binned[]): Promise<void> {
    const { bin, takes, takeService, maker, shareLinks } = this.#parts;
    for (const { kind, id } of all) {
      if (kind === 'take' && (await takes.get(id)).state === 'recording') {
        throw new AppError('not-ready', `take ${id}`);
      }
    }
    await bin.put(...all);
    shareLinks.changed();
    for (const { kind, id } of all) {
      if (kind === 'film') await maker.cancel(id);
      if (kind === 'take') await takeService.callOff(id);
    }
  }

  /** Lets all go whose time has come, and goes on with what a stopped server began. Never rejects. `now` in ms since 1970. */
  async sweep(now = Date.now()): Promise<void> {
    try {
      for (const binned of await this.#parts.bin.due(now)) await this.letGo(binned);
      const { classMaterials, materialService } = this.#parts;
      await materialService.forget(await classMaterials.forget(now));
      await this.#parts.classes.forget(now);
      await this.#parts.watched.forget(now);
    } catch (error) {
      this.#parts.log.error('the bin could not be emptied', error);
    }
  }

  /**
   * Removes something in the bin and its files for good. Broken off, {@link sweep} goes on with it.
   *
   * @throws AppError `not-found`
   */
  async letGo(binned: Binned): Promise<void> {
    const { bin, lessons, media, takeService, maker, materialService } = this.#parts;
    const leavings = await bin.going(binned);
    for (const { id, trackIds } of leavings.takes) {
      await takeService.callOff(id);
      await media.forgetTake(id, trackIds);
    }
    for (const filmId of leavings.filmIds) {
      await maker.cancel(filmId);
      await media.forgetFilm(filmId);
    }
    await bin.forget(binned, leavings);
    await materialService.forget(leavings.contents);
    lessons.letGo(binned.id);
  }
}
