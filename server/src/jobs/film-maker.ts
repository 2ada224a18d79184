import { NO_INK, type InkOf } from '@under-chalk/core/ink/changed-track';
import { notesOf } from '@under-chalk/core/ink/notes';
import type { FilmRow } from '@under-chalk/core/contract/films';
import { AppError } from '@under-chalk/core/errors/errors';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { toldLicence } from '@under-chalk/core/lesson/licence';
import { lessonFileName } from '@under-chalk/core/lesson/file-name';
import { sizeOf } from '@under-chalk/core/destination/picture-size';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import { filmInteractionsOf } from '@under-chalk/core/interaction/film-interactions';
import { readDescriptionsOf } from '@under-chalk/core/words/audio-description';
import { readWordsOf } from '@under-chalk/core/words/given';
import {
  AskedPieces,
  PieceCache,
  WATCHED_MS,
  type AskedPiece,
  type PlannedFilm,
  type Progress,
} from '@under-chalk/render';
import { LRUCache } from 'lru-cache';
import { readdir, rm, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { Config, Shipped } from '../config';
import type { Log } from '../log';
import {
  hasCaptions,
  type FilmChange,
  type FilmStore,
  type FilmWords,
  type StoredFilm,
} from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import type { MediaStore } from '../store/media-store';
import { filmProblem, planOfLesson, streamOf, type FilmReport, type FilmWork } from './film-work';
import { inkOfFilm } from './ink-of';
import { turns, type TakeTurn } from './turns';

/** Makes one film. Rejects with what went wrong, or with anything at all once the signal is aborted. */
export type Work = (
  work: FilmWork,
  onProgress: (progress: Progress) => void,
  signal: AbortSignal,
  takeTurn: TakeTurn,
  asked: AskedPieces,
) => Promise<FilmReport>;

const DOING: Record<Progress['doing'], string> = {
  pictures: 'Drawing the pictures',
  sound: 'Mixing the sound',
  joining: 'Putting it together',
};

/** What stands beside the film of a lesson where students watch it. */
export const wordsOf = (
  lesson: Lesson,
  film: Film = filmOf(lesson),
  inkOf: InkOf = NO_INK,
): FilmWords => {
  const { plan, licence, language: spoken } = lesson.decisions;
  const { title, description } = plan;
  const notePages = notesOf(film, inkOf).length;
  return {
    ...{ title, description, filmUs: film.durationUs, chapters: chaptersOf(film), notePages },
    captions: readWordsOf(film),
    described: readDescriptionsOf(film),
    interactions: filmInteractionsOf(film),
    spoken,
    licence: licence && toldLicence(licence),
  };
};

/** Films that are begun at a time: a short one gets its turns between those of a long one. */
const FILMS_AT_ONCE = 3;
/** So many more may be begun because somebody watches them. */
const WATCHED_MORE = 5;
/** Films of which it is known when somebody waited for them last. */
const MOST_WAITED_FOR = 1_000;
/** Pieces that are made at a time, of whichever film; each keeps about one core busy. */
const PIECES_AT_ONCE = Math.max(2, availableParallelism());

/** What footage a lesson has at this moment: what is planned of it is known by that. */
const footageOf = ({ takes, revision }: Lesson): string =>
  JSON.stringify([revision, takes.map(({ id, state, tracks }) => [id, state, tracks])]);

/** A film that is being made now. */
interface Running {
  id: string;
  readonly stop: AbortController;
  progress: Progress;
  over: Promise<void>;
  readonly asked: AskedPieces;
}

/** What can't be written down (the database's disk is full) is tried again this often. */
const AGAIN_MS = 3_000;

interface MakerParts {
  readonly films: FilmStore;
  readonly lessons: LessonStore;
  readonly media: MediaStore;
  readonly config: Config;
  readonly work: Work;
  readonly shipped: Shipped;
  readonly log: Log;
  /** Told of each film that was made, or failed. */
  readonly onMade?: (filmId: string) => void;
  /** Told when one is begun. */
  readonly onBegun?: () => void;
}

/**
 * The queue in which films are made, a few side by side, the next piece of each in turn. It lives in the
 * database: a film that was being made when the server was killed is taken up again at the next start, and its
 * finished pieces with it.
 * Nothing that fails in it stops it: what can't be written down now is written down later.
 */
export class FilmMaker {
  readonly #films: FilmStore;
  readonly #lessons: LessonStore;
  readonly #media: MediaStore;
  readonly #config: Config;
  readonly #work: Work;
  readonly #shipped: Shipped;
  readonly #log: MakerParts['log'];
  readonly #onMade: (filmId: string) => void;
  readonly #onBegun: () => void;
  readonly #running = new Set<Running>();
  readonly #takeTurn = turns<Running>(PIECES_AT_ONCE, ({ id }) => (this.#isUrgent(id) ? 0 : 1));
  /** When a student waited last for a piece of a film, ms since 1970, by its id. */
  readonly #waitedFor = new LRUCache<string, number>({ max: MOST_WAITED_FOR });
  /** Films that were planned a moment ago, and what footage there was. */
  readonly #planned = new LRUCache<string, { of: string; planned: PlannedFilm }>({ max: 4 });
  /** Pieces that were asked for before their film was begun, by its id. */
  readonly #askedEarly = new Map<string, AskedPiece[]>();
  /** How films came out that could not be written down yet, by their ids. */
  readonly #unwritten = new Map<string, FilmChange>();
  #again: NodeJS.Timeout | null = null;
  /** The last try failed for a reason that has nothing to do with the film. */
  #troubled = false;
  #closed = false;

  constructor(parts: MakerParts) {
    const { films, lessons, media, config, work, shipped, log } = parts;
    this.#onMade = parts.onMade ?? (() => undefined);
    this.#onBegun = parts.onBegun ?? (() => undefined);
    this.#films = films;
    this.#lessons = lessons;
    this.#media = media;
    this.#config = config;
    this.#work = work;
    this.#shipped = shipped;
    this.#log = log;
  }

  /** Whether no film is being made. */
  get isIdle(): boolean {
    return ![...this.#running].some(({ id }) => id !== '');
  }

  /** Where a finished film is. */
  pathOf(filmId: string): string {
    return this.#media.film(filmId);
  }

  /** Takes up what was left half made, and begins. */
  async start(): Promise<void> {
    await this.#films.requeue();
    await this.#clearLeft();
    await this.#prune();
    this.#next();
  }

  /** Removes what a killed server was putting together. */
  async #clearLeft(): Promise<void> {
    const { films } = this.#config.folders;
    const names = await readdir(films).catch(() => []);
    const left = names.filter((name) => name.startsWith('join-'));
    await Promise.all(left.map((name) => rm(join(films, name), { recursive: true, force: true })));
  }

  async #prune(): Promise<void> {
    const { folders, cacheBytes } = this.#config;
    await new PieceCache(folders.chunks)
      .prune(cacheBytes)
      .catch((error: unknown) => this.#log.warn('chunks can’t be cleared away', error));
  }

  /** Stops without losing the place in the queue. */
  async close(): Promise<void> {
    this.#closed = true;
    if (this.#again) clearTimeout(this.#again);
    const running = [...this.#running];
    for (const { stop } of running) stop.abort(new Error('the server is stopping'));
    await Promise.all(running.map(({ over }) => over));
  }

  /**
   * Asks for a film of a lesson as it is now.
   *
   * @throws AppError `not-found`, `nothing-in-film`
   */
  async want(lessonId: string, size: PictureSize): Promise<StoredFilm> {
    const { lesson } = await this.#lessons.view(lessonId);
    if (filmOf(lesson).frames === 0) throw new AppError('nothing-in-film');
    const { plan, film, inkOf } = await planOfLesson(lesson, size, this.#media);
    const { manifest } = plan;
    const wanted = await this.#films.want(
      {
        lesson_id: lessonId,
        revision: lesson.revision,
        manifest_id: manifest.id,
        size,
        film_us: film.durationUs,
        file_name: lessonFileName(lesson.decisions.plan, 'mp4'),
        words: JSON.stringify(wordsOf(lesson, film, inkOf)),
      },
      streamOf(manifest, sizeOf(lesson, size)),
    );
    this.#planned.set(wanted.id, { of: footageOf(lesson), planned: plan.planned });
    this.#next();
    return wanted;
  }

  /** Has pieces of a film made next: somebody waits for them. */
  async ask(filmId: string, ...pieces: AskedPiece[]): Promise<void> {
    this.#waitedFor.set(filmId, Date.now());
    const { state } = await this.#films.get(filmId);
    const running = this.#of(filmId);
    if (running) return pieces.forEach((piece) => running.asked.ask(piece));
    if (state !== 'waiting' && state !== 'making') return;
    const asked = this.#askedEarly.get(filmId) ?? [];
    const isNew = ({ of, index }: AskedPiece) =>
      !asked.some((one) => one.of === of && one.index === index);
    this.#askedEarly.set(filmId, [...asked, ...pieces.filter(isNew)]);
    if (!this.#closed && this.#running.size < FILMS_AT_ONCE + WATCHED_MORE) this.#begin(filmId);
  }

  #isUrgent(filmId: string): boolean {
    return Date.now() - (this.#waitedFor.get(filmId) ?? 0) < WATCHED_MS;
  }

  async cancel(filmId: string): Promise<void> {
    await this.#films.get(filmId);
    await this.#films.change(filmId, ['waiting', 'making'], { state: 'cancelled' });
    this.#askedEarly.delete(filmId);
    const running = this.#of(filmId);
    running?.stop.abort(new Error('called off'));
    await running?.over;
  }

  #of(filmId: string): Running | undefined {
    return [...this.#running].find(({ id }) => id === filmId);
  }

  async retry(filmId: string): Promise<void> {
    await this.#films.get(filmId);
    const before = this.#of(filmId);
    // It is still being called off: its end would be taken for that of what is begun now.
    if (before?.stop.signal.aborted) await before.over;
    const waiting = { state: 'waiting', problem: null, problem_detail: null } as const;
    // How it failed could not be written down yet: in the database it is being made still.
    const unwritten = this.#unwritten.delete(filmId) ? (['making'] as const) : [];
    await this.#films.change(filmId, ['failed', 'cancelled', ...unwritten], waiting);
    this.#next();
  }

  /** A film as the API tells it, with its progress while it is being made. */
  toRow(stored: StoredFilm): FilmRow {
    const film = { ...stored, ...this.#unwritten.get(stored.id) };
    const running = this.#of(film.id)?.progress ?? null;
    return {
      id: film.id,
      lessonId: film.lesson_id,
      revision: film.revision,
      size: film.size,
      state: film.state,
      done: film.state === 'done' ? 1 : (running?.done ?? 0),
      doing: running ? DOING[running.doing] : film.state === 'waiting' ? 'Waiting its turn' : '',
      leftUs: running?.leftUs ?? null,
      problem: film.problem,
      problemDetail: film.problem_detail,
      bytes: film.bytes,
      filmUs: film.film_us,
      fileName: film.file_name,
      isCaptioned: hasCaptions(film),
      createdAt: film.created_at,
    };
  }

  #next(): void {
    while (!this.#closed && this.#running.size < FILMS_AT_ONCE) this.#begin();
  }

  /** Begins with the film that has waited longest, or with one that is watched. */
  #begin(filmId = ''): void {
    const running: Running = {
      id: filmId,
      stop: new AbortController(),
      progress: { done: 0, doing: 'pictures', leftUs: null },
      over: Promise.resolve(),
      asked: new AskedPieces(),
    };
    this.#running.add(running);
    running.over = this.#makeNext(running)
      .catch((error: unknown) => {
        // Said once, however often it is tried.
        if (!this.#troubled)
          this.#log.error('the films can’t be made just now; they are tried again', error);
        this.#troubled = true;
        return 'later' as const;
      })
      .then((made) => {
        this.#running.delete(running);
        if (made === 'later' || this.#unwritten.size > 0) this.#later();
        if (made !== 'later') this.#troubled = false;
        if (made === 'one') this.#next();
      });
  }

  #later(): void {
    if (this.#again || this.#closed) return;
    this.#again = setTimeout(() => {
      this.#again = null;
      this.#next();
    }, AGAIN_MS);
    this.#again.unref();
  }

  /** @throws when the database can't be written to */
  async #makeNext(running: Running): Promise<'one' | 'none'> {
    for (const [id, change] of this.#unwritten) {
      await this.#films.change(id, ['making'], change);
      this.#unwritten.delete(id);
    }
    const film = await this.#films.claim(running.id || null);
    if (!film) return 'none';
    running.id = film.id;
    this.#onBegun();
    for (const piece of this.#askedEarly.get(film.id) ?? []) running.asked.ask(piece);
    this.#askedEarly.delete(film.id);
    const change = await this.#outcomeOf(film, running);
    if (!change) return 'none';
    try {
      const written = await this.#films.change(film.id, ['making'], change);
      // Called off in the meantime: it is not wanted.
      if (!written) await rm(this.pathOf(film.id), { force: true });
    } catch (error) {
      this.#unwritten.set(film.id, change);
      throw error;
    }
    this.#waitedFor.delete(film.id);
    this.#askedEarly.delete(film.id);
    await this.#prune();
    this.#onMade(film.id);
    return 'one';
  }

  /** Makes a film. @returns how it came out; null when the server is being stopped */
  async #outcomeOf(film: StoredFilm, running: Running): Promise<FilmChange | null> {
    const out = this.pathOf(film.id);
    try {
      const lesson = await this.#lessons.lessonAt(film.lesson_id, film.revision);
      const { folders } = this.#config;
      const known = this.#planned.get(film.id);
      const { stream, ...made } = await this.#work(
        {
          ...{ lesson, size: film.size, folders, out, shipped: this.#shipped },
          ...(known?.of === footageOf(lesson) ? { planned: known.planned } : {}),
        },
        (progress) => {
          running.progress = progress;
        },
        running.stop.signal,
        () => this.#takeTurn(running),
        running.asked,
      );
      // Takes may have become ready since it was asked for: it is known by what it has become.
      const asMade = filmOf(lesson);
      const words = wordsOf(lesson, asMade, await inkOfFilm(asMade, this.#media));
      await this.#films.keepMade(film.id, made.manifestId, words, stream);
      return { state: 'done', bytes: (await stat(out)).size };
    } catch (error) {
      if (this.#closed) return null;
      if (running.stop.signal.aborted) return { state: 'cancelled' };
      this.#log.error(`film ${film.id} could not be made`, error);
      const { code, detail } = filmProblem(error);
      return { state: 'failed', problem: code, problem_detail: detail.slice(0, 500) };
    }
  }
}
