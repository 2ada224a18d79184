import type { FitState } from '@under-chalk/core/contract/films';
import { fittedFor } from '@under-chalk/core/destination/fitted';
import { AppError } from '@under-chalk/core/errors/errors';
import { nearestFrame } from '@under-chalk/core/time/frames';
import { fitFilm, isDiskFull } from '@under-chalk/render';
import pLimit from 'p-limit';
import { stat } from 'node:fs/promises';
import type { Log } from '../log';
import type { FilmStore, StoredFilm } from '../store/film-store';
import type { MediaStore } from '../store/media-store';

interface Fitting {
  done: number;
  /** A code from the table of errors; null while it goes on. */
  problem: string | null;
}

interface Parts {
  readonly films: FilmStore;
  readonly media: MediaStore;
  readonly log: Log;
}

/** Finished films that are made small enough for a place: one at a time, giving way to all else. */
export class FittedFilms {
  readonly #parts: Parts;
  readonly #fitting = new Map<string, Fitting>();
  readonly #inTurn = pLimit(1);
  readonly #stop = new AbortController();

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Where a film is that has at most so many bytes.
   *
   * @throws AppError `not-ready` while it isn't there
   */
  async pathOf(film: StoredFilm, mostBytes: number): Promise<string> {
    const path = this.#parts.media.filmFitted(film.id, mostBytes);
    if ((await this.#bytesOf(path)) === null) throw new AppError('not-ready');
    return path;
  }

  async stateOf(film: StoredFilm, mostBytes: number): Promise<FitState> {
    const path = this.#parts.media.filmFitted(film.id, mostBytes);
    const bytes = await this.#bytesOf(path);
    if (bytes !== null) return { state: 'done', done: 1, bytes, problem: null };
    const fitting = this.#fitting.get(path);
    if (!fitting) return { state: 'none', done: 0, bytes: 0, problem: null };
    const { done, problem } = fitting;
    return { state: problem === null ? 'making' : 'failed', done, bytes: 0, problem };
  }

  async #bytesOf(path: string): Promise<number | null> {
    return (await stat(path).catch(() => null))?.size ?? null;
  }

  /**
   * Has it made, unless it is there or on its way.
   *
   * @throws AppError `not-ready` while the film itself is being made; `cannot-fit` where it is too long for so little
   */
  async want(film: StoredFilm, mostBytes: number): Promise<FitState> {
    if (film.state !== 'done') throw new AppError('not-ready');
    const before = await this.stateOf(film, mostBytes);
    if (before.state === 'making' || before.state === 'done') return before;
    const size = (await this.#parts.films.streamOf(film.id))?.size;
    const fitted = size ? fittedFor(mostBytes, film.film_us, size) : null;
    if (!fitted) throw new AppError('cannot-fit', `film ${film.id} in ${mostBytes} bytes`);
    const { media, log } = this.#parts;
    const out = media.filmFitted(film.id, mostBytes);
    const fitting: Fitting = { done: 0, problem: null };
    this.#fitting.set(out, fitting);
    const job = {
      ...{ film: media.film(film.id), frames: nearestFrame(film.film_us), filmUs: film.film_us },
      ...{ fitted, mostBytes, out, signal: this.#stop.signal },
      onProgress: (done: number) => {
        fitting.done = done;
      },
    };
    void this.#inTurn(() => fitFilm(job))
      .then(() => this.#fitting.delete(out))
      .catch((error: unknown) => {
        fitting.problem = isDiskFull(error) ? 'disk-full' : 'export-failed';
        if (!this.#stop.signal.aborted) log.error(`film ${film.id} could not be fitted`, error);
      });
    return this.stateOf(film, mostBytes);
  }

  /** Breaks off what is being made. */
  close(): void {
    this.#stop.abort(new Error('the server is stopping'));
  }
}
