import type { FilmRow } from '@under-chalk/core/contract/api';
import { TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { filmOf } from '@under-chalk/core/film/film';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import type { PictureSize } from '@under-chalk/core/place/size-name';
import { PieceCache, type FilmReport, type Progress } from '@under-chalk/render';
import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Config } from '../config';
import type { FilmStore, StoredFilm } from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import type { FilmWork } from './film-work';

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

/** The film that is being made now. */
interface Running {
  id: string;
  readonly stop: AbortController;
  progress: Progress;
  over: Promise<void>;
}

/**
 * The queue in which films are made, one at a time. It lives in the database: a film that was being
 * made when the server was killed is taken up again at the next start, and its finished chunks with it.
 */
export class FilmMaker {
  readonly #films: FilmStore;
  readonly #lessons: LessonStore;
  readonly #config: Config;
  readonly #work: Work;
  readonly #fontFile: string | null;
  readonly #log: (message: string, error?: unknown) => void;
  #running: Running | null = null;
  #closed = false;

  constructor(parts: {
    films: FilmStore;
    lessons: LessonStore;
    config: Config;
    work: Work;
    fontFile: string | null;
    log: (message: string, error?: unknown) => void;
  }) {
    this.#films = parts.films;
    this.#lessons = parts.lessons;
    this.#config = parts.config;
    this.#work = parts.work;
    this.#fontFile = parts.fontFile;
    this.#log = parts.log;
  }

  /** Where a finished film is. */
  pathOf(filmId: string): string {
    return join(this.#config.folders.films, `${filmId}.mp4`);
  }

  /** Takes up what was left half made, and begins. */
  async start(): Promise<void> {
    await this.#films.requeue();
    await new PieceCache(this.#config.folders.chunks).prune(this.#config.cacheBytes);
    this.#next();
  }

  /** Stops without losing the place in the queue. */
  async close(): Promise<void> {
    this.#closed = true;
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
    });
    this.#next();
    return wanted;
  }

  async cancel(filmId: string): Promise<void> {
    const film = await this.#films.get(filmId);
    if (film.state === 'waiting' || film.state === 'making') {
      await this.#films.update(filmId, { state: 'cancelled' });
    }
    if (this.#running?.id === filmId) {
      this.#running.stop.abort(new Error('called off'));
      await this.#running.over;
    }
  }

  async retry(filmId: string): Promise<void> {
    const film = await this.#films.get(filmId);
    if (film.state !== 'failed' && film.state !== 'cancelled') return;
    await this.#films.update(filmId, { state: 'waiting', problem: null, problem_detail: null });
    this.#next();
  }

  /** A film as the API tells it, with its progress while it is being made. */
  toRow(film: StoredFilm): FilmRow {
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
    const stop = new AbortController();
    const running: Running = {
      id: '',
      stop,
      progress: { done: 0, doing: 'pictures', leftUs: null },
      over: Promise.resolve(),
    };
    this.#running = running;
    running.over = this.#makeNext(running).then((made) => {
      this.#running = null;
      if (made) this.#next();
    });
  }

  /** @returns whether there was one to make */
  async #makeNext(running: Running): Promise<boolean> {
    const film = await this.#films.nextWaiting();
    if (!film) return false;
    running.id = film.id;
    const out = this.pathOf(film.id);
    try {
      await this.#films.update(film.id, { state: 'making' });
      const lesson = await this.#lessons.lessonAt(film.lesson_id, film.revision);
      await this.#work(
        {
          lesson,
          size: film.size,
          folders: this.#config.folders,
          out,
          fontFile: this.#fontFile,
        },
        (progress) => {
          running.progress = progress;
        },
        running.stop.signal,
      );
      const { size } = await stat(out);
      if ((await this.#films.get(film.id)).state === 'cancelled') await rm(out, { force: true });
      else await this.#films.update(film.id, { state: 'done', bytes: size });
    } catch (error) {
      if (this.#closed) {
        await this.#films.update(film.id, { state: 'waiting' });
        return false;
      }
      const { state } = await this.#films.get(film.id);
      if (state !== 'cancelled') {
        this.#log(`film ${film.id} could not be made`, error);
        const code = error instanceof TellableError ? error.code : 'export-failed';
        const detail = error instanceof Error ? error.message.slice(0, 500) : null;
        await this.#films.update(film.id, {
          state: 'failed',
          problem: code,
          problem_detail: detail,
        });
      }
    }
    return true;
  }
}
