import { PieceCache, run } from '@under-chalk/render';
import { toSecondsText, type Us } from '@under-chalk/core/time/us';
import type { Folders } from '../config';

/** The still picture shown before a film plays, taken from the film itself. */
export class Covers {
  readonly #cache: PieceCache;

  constructor(folders: Folders) {
    this.#cache = new PieceCache(folders.stills);
  }

  /** A JPEG from a third into the film: past the empty first moment. @returns its path */
  async of(filmPath: string, filmId: string, filmUs: Us): Promise<string> {
    const path = this.#cache.pathOf(`cover ${filmId}`, 'jpg');
    if (!(await this.#cache.has(path))) {
      await this.#cache.make(path, async (draft) => {
        await run('ffmpeg', [
          ...['-protocol_whitelist', 'file', '-f', 'mov'],
          ...['-ss', toSecondsText(Math.round(filmUs / 3)), '-i', filmPath],
          ...['-frames:v', '1', '-vf', 'scale=1280:-2', '-q:v', '4', '-f', 'mjpeg', draft],
        ]);
      });
    }
    return path;
  }
}
