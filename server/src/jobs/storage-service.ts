import type { LessonStorage, StorageUsed } from '@under-chalk/core/contract/storage';
import { AppError } from '@under-chalk/core/errors/errors';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Folders } from '../config';
import type { FilmStore } from '../store/film-store';
import { freeBytes } from '../store/free-bytes';
import type { MediaStore } from '../store/media-store';
import type { LessonFiles, StorageStore } from '../store/storage-store';
import type { BinService } from './bin-service';

/** Sizes of the files of a folder, bytes, by name; none where there is no folder. */
const sizesIn = async (folder: string): Promise<Map<string, number>> => {
  const names = await readdir(folder).catch(() => []);
  const sizes = await Promise.all(
    names.map(async (name) => {
      // Another may have taken it away in between.
      const facts = await stat(join(folder, name)).catch(() => null);
      return [name, facts?.isFile() ? facts.size : 0] as const;
    }),
  );
  return new Map(sizes);
};

const totalOf = (sizes: Iterable<number>): number => {
  let sum = 0;
  for (const size of sizes) sum += size;
  return sum;
};

/** What was made of a track or a film, and can be made of it again: sound without its room, a film that was made smaller. */
const MADE_AGAIN = ['.noise-reduced.', '.fitted-'];

/** Bytes of the files that belong to an id: its name begins all of their names; and those of them that can be made again. */
const bytesByOwner = (sizes: ReadonlyMap<string, number>) => {
  const bytes = new Map<string, { all: number; again: number }>();
  for (const [name, size] of sizes) {
    const owner = name.split('.')[0]!;
    const sum = bytes.get(owner) ?? { all: 0, again: 0 };
    sum.all += size;
    if (MADE_AGAIN.some((part) => name.includes(part))) sum.again += size;
    bytes.set(owner, sum);
  }
  return (ids: readonly string[]) => ({
    all: totalOf(ids.map((id) => bytes.get(id)?.all ?? 0)),
    again: totalOf(ids.map((id) => bytes.get(id)?.again ?? 0)),
  });
};

interface TakeServiceParts {
  readonly folders: Folders;
  readonly room: StorageStore;
  readonly media: MediaStore;
  readonly films: FilmStore;
  readonly binService: BinService;
}

/** What takes up the disk, and what of it can go. */
export class StorageService {
  readonly #parts: TakeServiceParts;

  constructor(parts: TakeServiceParts) {
    this.#parts = parts;
  }

  async taken(): Promise<StorageUsed> {
    const { folders, room } = this.#parts;
    const [incoming, media, films, ...caches] = await Promise.all(
      [folders.incoming, folders.media, folders.films, ...this.#caches()].map(sizesIn),
    );
    const [come, kept, made] = [incoming!, media!, films!].map(bytesByOwner);
    const lessons = (await room.lessons()).map((lesson): LessonStorage => {
      const { id, title, className, takeIds, trackIds } = lesson;
      const footage = kept!([...takeIds, ...trackIds]);
      const spare = new Set(spareFilms(lesson).map((film) => film.id));
      const kind = (isSpare: boolean) =>
        made!(
          lesson.films.flatMap(({ id: filmId }) => (spare.has(filmId) === isSpare ? filmId : [])),
        );
      return {
        ...{ id, title, className },
        footageBytes: footage.all + come!(trackIds).all,
        filmBytes: made!(lesson.films.map((film) => film.id)).all,
        spareBytes: footage.again + kind(true).all + kind(false).again,
        hasFilm: lesson.films.some(({ done }) => done),
      };
    });
    return {
      lessons: lessons.sort((a, b) => b.footageBytes + b.filmBytes - a.footageBytes - a.filmBytes),
      cacheBytes: totalOf(caches.flatMap((sizes) => [...sizes.values()])),
      materialBytes: totalOf((await sizesIn(folders.materials)).values()),
      submissionBytes: totalOf((await sizesIn(folders.submissions)).values()),
      freeBytes: await freeBytes(folders.home),
    };
  }

  #caches(): string[] {
    const { chunks, stills, pages } = this.#parts.folders;
    return [chunks, stills, pages];
  }

  async #lesson(lessonId: string): Promise<LessonFiles> {
    const [lesson] = await this.#parts.room.lessons(lessonId);
    if (!lesson) throw new AppError('not-found', `lesson ${lessonId}`);
    return lesson;
  }

  /**
   * Removes what can be made again of the rest of a lesson.
   *
   * @throws AppError `not-found`
   */
  async letSpareGo(lessonId: string): Promise<void> {
    const { media, binService } = this.#parts;
    const lesson = await this.#lesson(lessonId);
    for (const { id } of spareFilms(lesson)) {
      const film = { kind: 'film', id } as const;
      await binService.throwAway(film);
      await binService.letGo(film);
    }
    for (const trackId of lesson.trackIds) await media.forgetNoiseReduced(trackId);
    for (const { id } of lesson.films) await media.forgetFitted(id);
  }

  /**
   * Puts all takes of a lesson into the bin; its films and links stay. Nothing is done where one can't go.
   *
   * @throws AppError `not-found`; `no-film-to-keep`; `not-ready` while it is recorded; `take-elsewhere`
   */
  async keepFilmOnly(lessonId: string): Promise<void> {
    const { binService, films } = this.#parts;
    const { films: made, takeIds } = await this.#lesson(lessonId);
    if (!made.some(({ done }) => done)) throw new AppError('no-film-to-keep', lessonId);
    await binService.throwAway(...takeIds.map((id) => ({ kind: 'take' as const, id })));
    // What was written went along: its pages can't be printed any more.
    await films.withoutPages(lessonId);
  }

  /** @throws AppError `room-in-use` while a film is being made of it */
  async emptyCache(): Promise<void> {
    const { films } = this.#parts;
    if (await films.isAnyInWork()) throw new AppError('storage-in-use');
    for (const folder of this.#caches()) {
      for (const name of (await sizesIn(folder)).keys())
        await rm(join(folder, name), { force: true });
    }
  }
}

/** Films that nobody is given: they are made again by a press. */
const spareFilms = ({ films }: LessonFiles) => films.filter(({ done, given }) => done && !given);
