import { makeRendition, isDiskFull } from '@under-chalk/render';
import pLimit from 'p-limit';
import { existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Log } from '../../log';
import { forceToDisk } from '../../store/force-to-disk';
import type { FilmStore } from '../../store/film-store';
import type { MediaStore } from '../../store/media-store';
import type { FilmStreams } from './film-streams';

interface RenditionParts {
  readonly films: FilmStore;
  readonly media: MediaStore;
  readonly streams: FilmStreams;
  readonly log: Log;
}

/** Makes films that were handed out once more for slow lines: afterwards, one at a time, giving way to all else. */
export class Renditions {
  readonly #parts: RenditionParts;
  readonly #wanted = new Set<string>();
  readonly #inTurn = pLimit(1);
  readonly #stop = new AbortController();

  constructor(parts: RenditionParts) {
    this.#parts = parts;
  }

  /** Has it made, if the film is finished and can be played in pieces. Never rejects. */
  async want(filmId: string): Promise<void> {
    if (this.#wanted.has(filmId) || this.#stop.signal.aborted) return;
    this.#wanted.add(filmId);
    await this.#inTurn(() => this.#make(filmId))
      .catch((error: unknown) => {
        if (this.#stop.signal.aborted) return;
        const { log } = this.#parts;
        // It is tried again when the server is started: nobody waits for it.
        if (isDiskFull(error)) log.warn(`no room for film ${filmId} for slow lines`, error);
        else log.error(`film ${filmId} could not be made for slow lines`, error);
      })
      .finally(() => this.#wanted.delete(filmId));
  }

  async #make(filmId: string): Promise<void> {
    const { films, media, streams } = this.#parts;
    const out = media.filmRendition(filmId);
    if (this.#stop.signal.aborted || existsSync(out)) return;
    const film = await films.get(filmId);
    if (film.state !== 'done' || !(await films.streamOf(filmId))) return;
    const { starts, size } = await streams.startsOf(film);
    // Cleared away with what else a killed server was putting together.
    const draft = join(dirname(out), `join-${filmId}.mp4`);
    try {
      await makeRendition(media.film(filmId), size, starts, draft, this.#stop.signal);
      await forceToDisk(draft);
      await rename(draft, out);
    } finally {
      await rm(draft, { force: true });
    }
  }

  async close(): Promise<void> {
    this.#stop.abort(new Error('the server is stopping'));
    await this.#inTurn(() => Promise.resolve());
  }
}
