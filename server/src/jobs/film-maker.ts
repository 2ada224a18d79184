import type { FilmRow } from '@under-chalk/core/contract/films';
import { TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import type { PictureSize } from '@under-chalk/core/place/size-name';
import { PieceCache, type FilmReport, type Progress } from '@under-chalk/render';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Config } from '../config';
import type { FilmChange, FilmStore, FilmWords, StoredFilm } from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import { filmProblem, type FilmWork } from './film-work';

export type ThreadMessage =
  | { readonly is: 'progress'; readonly progress: Progress }
  | { readonly is: 'done'; readonly report: FilmReport }
  | { readonly is: 'failed'; readonly code: ErrorCode; readonly detail: string };

/** Makes one film. Rejects with what went wrong, or with anything at all once the signal is aborted. */
export type Work = (
  work: FilmWork,
  onProgress: (progress: Progress) => void,
  signal: AbortSignal,
) => Promise<FilmReport>;

/** Makes a film in a thread of its own, started from a built script. */
export const inThread =
  (script: string): Work =>
  (work, onProgress, signal) =>
    new Promise((resolve, reject) => {
      const thread = new Worker(script, { workerData: work });
      const stop = () => thread.postMessage('stop');
      // Called off before there was anything to call off: the thread is told all the same.
      if (signal.aborted) stop();
      signal.addEventListener('abort', stop, { once: true });
      thread.on('message', (message: ThreadMessage) => {
        if (message.is === 'progress') onProgress(message.progress);
        else if (message.is === 'done') resolve(message.report);
        else reject(new TellableError(message.code, message.detail));
      });
      thread.once('error', reject);
      thread.once('exit', (code) => {
        signal.removeEventListener('abort', stop);
        reject(new Error(`the film's thread ended with ${code} and no result`));
      });
    });

const DOING: Record<Progress['doing'], string> = {
  pictures: 'Drawing the pictures',
  sound: 'Mixing the sound',
  joining: 'Putting it together',
};

/** What stands beside the film of a lesson where students watch it. */
export const wordsOf = (lesson: Lesson): FilmWords => {
  const film = filmOf(lesson);
  const { title, description } = lesson.decisions.plan;
  return { title, description, filmUs: film.durationUs, chapters: chaptersOf(film) };
};

/** The film that is being made now. */
interface Running {
  id: string;
  readonly stop: AbortController;
  progress: Progress;
  over: Promise<void>;
}

/** What can't be written down (the database's disk is full) is tried again this often. */
const AGAIN_MS = 3_000;

interface MakerParts {
  readonly films: FilmStore;
  readonly lessons: LessonStore;
  readonly config: Config;
  readonly work: Work;
  readonly fontFile: string | null;
  readonly log: (message: string, error?: unknown) => void;
}

/**
 * The queue in which films are made, one at a time. It lives in the database: a film that was being
 * made when the server was killed is taken up again at the next start, and its finished chunks with it.
 * Nothing that fails in it stops it: what can't be written down now is written down later.
 */
export class FilmMaker {
  readonly #films: FilmStore;
  readonly #lessons: LessonStore;
  readonly #config: Config;
  readonly #work: Work;
  readonly #fontFile: string | null;
  readonly #log: MakerParts['log'];
  #running: Running | null = null;
  /** How films came out that could not be written down yet, by their ids. */
  readonly #unwritten = new Map<string, FilmChange>();
  #again: NodeJS.Timeout | null = null;
  /** The last try failed for a reason that has nothing to do with the film. */
  #troubled = false;
  #closed = false;

  constructor({ films, lessons, config, work, fontFile, log }: MakerParts) {
    this.#films = films;
    this.#lessons = lessons;
    this.#config = config;
    this.#work = work;
    this.#fontFile = fontFile;
    this.#log = log;
  }

  /** Where a finished film is. */
  pathOf(filmId: string): string {
    return join(this.#config.folders.films, `${filmId}.mp4`);
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
      .catch((error: unknown) => this.#log('chunks can’t be cleared away', error));
  }

  /** Stops without losing the place in the queue. */
  async close(): Promise<void> {
    this.#closed = true;
    if (this.#again) clearTimeout(this.#again);
    this.#running?.stop.abort(new Error('the server is stopping'));
    await this.#running?.over;
  }

  /**
   * Asks for a film of a lesson as it is now.
   *
   * @throws TellableError `not-found`, `nothing-in-film`
   */
  async want(lessonId: string, size: PictureSize): Promise<StoredFilm> {
    const { lesson } = await this.#lessons.view(lessonId);
    const film = filmOf(lesson);
    if (film.frames === 0) throw new TellableError('nothing-in-film');
    const wanted = await this.#films.want({
      lesson_id: lessonId,
      revision: lesson.revision,
      size,
      film_us: film.durationUs,
      file_name: fileNameOf(lesson.decisions.plan.title, 'mp4'),
      words: JSON.stringify(wordsOf(lesson)),
    });
    this.#next();
    return wanted;
  }

  async cancel(filmId: string): Promise<void> {
    await this.#films.get(filmId);
    await this.#films.change(filmId, ['waiting', 'making'], { state: 'cancelled' });
    if (this.#running?.id === filmId) {
      this.#running.stop.abort(new Error('called off'));
      await this.#running.over;
    }
  }

  async retry(filmId: string): Promise<void> {
    await this.#films.get(filmId);
    const waiting = { state: 'waiting', problem: null, problem_detail: null } as const;
    this.#unwritten.delete(filmId);
    await this.#films.change(filmId, ['failed', 'cancelled'], waiting);
    this.#next();
  }

  /** A film as the API tells it, with its progress while it is being made. */
  toRow(stored: StoredFilm): FilmRow {
    const film = { ...stored, ...this.#unwritten.get(stored.id) };
    const running = this.#running?.id === film.id ? this.#running.progress : null;
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
      createdAt: film.created_at,
    };
  }

  #next(): void {
    if (this.#running || this.#closed) return;
    const running: Running = {
      id: '',
      stop: new AbortController(),
      progress: { done: 0, doing: 'pictures', leftUs: null },
      over: Promise.resolve(),
    };
    this.#running = running;
    running.over = this.#makeNext(running)
      .catch((error: unknown) => {
        // Said once, however often it is tried.
        if (!this.#troubled)
          this.#log('the films can’t be made just now; they are tried again', error);
        this.#troubled = true;
        return 'later' as const;
      })
      .then((made) => {
        this.#running = null;
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
    const film = await this.#films.claim();
    if (!film) return 'none';
    running.id = film.id;
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
    await this.#prune();
    return 'one';
  }

  /** Makes a film. @returns how it came out; null when the server is being stopped */
  async #outcomeOf(film: StoredFilm, running: Running): Promise<FilmChange | null> {
    const out = this.pathOf(film.id);
    try {
      const lesson = await this.#lessons.lessonAt(film.lesson_id, film.revision);
      const { folders } = this.#config;
      await this.#work(
        { lesson, size: film.size, folders, out, fontFile: this.#fontFile },
        (progress) => {
          running.progress = progress;
        },
        running.stop.signal,
      );
      // Takes may have become ready since it was asked for.
      await this.#films.keepWords(film.id, wordsOf(lesson));
      return { state: 'done', bytes: (await stat(out)).size };
    } catch (error) {
      if (this.#closed) return null;
      if (running.stop.signal.aborted) return { state: 'cancelled' };
      this.#log(`film ${film.id} could not be made`, error);
      const { code, detail } = filmProblem(error);
      return { state: 'failed', problem: code, problem_detail: detail.slice(0, 500) };
    }
  }
}
