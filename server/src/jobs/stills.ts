import { TellableError } from '@under-chalk/core/errors/errors';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import { openOptions, PieceCache, run, seekTo } from '@under-chalk/render';
import type { Folders } from '../config';
import { mediaFile } from './settle/media-paths';

/** Small pictures of takes, made when they are asked for, two at a time, and kept. */
export class Stills {
  readonly #folders: Folders;
  readonly #cache: PieceCache;
  readonly #making = new Map<string, Promise<void>>();
  #free = 2;
  readonly #waiting: (() => void)[] = [];

  constructor(folders: Folders) {
    this.#folders = folders;
    this.#cache = new PieceCache(folders.stills);
  }

  /**
   * A JPEG of what the take showed at a recorded time (to the tenth of a second).
   *
   * @returns its path
   * @throws TellableError `not-found` when the take has no picture
   */
  async of(take: Take, atUs: Us, widthPx = 320): Promise<string> {
    const track = trackOf(take, 'surface') ?? trackOf(take, 'camera');
    if (!track || take.state !== 'ready') throw new TellableError('not-found', 'no picture');
    const lastUs = Math.max(0, track.durationUs - 100_000);
    const placeUs = Math.floor(Math.min(atUs, lastUs) / 100_000) * 100_000;
    const path = this.#cache.pathOf(JSON.stringify([track.id, placeUs, widthPx]), 'jpg');
    if (await this.#cache.has(path)) return path;
    const present = this.#making.get(path);
    if (present) {
      await present;
      return path;
    }
    const making = this.#inTurn(() =>
      this.#cache.make(path, async (draft) => {
        const media = mediaFile(this.#folders, track.id);
        await run('ffmpeg', [
          ...openOptions(media),
          ...seekTo(placeUs),
          '-i',
          media.path,
          '-frames:v',
          '1',
          '-vf',
          `scale=${widthPx}:-2`,
          '-f',
          'mjpeg',
          draft,
        ]);
      }),
    );
    this.#making.set(path, making);
    try {
      await making;
    } finally {
      this.#making.delete(path);
    }
    return path;
  }

  async #inTurn(make: () => Promise<void>): Promise<void> {
    if (this.#free > 0) this.#free--;
    else await new Promise<void>((resolve) => this.#waiting.push(resolve));
    try {
      await make();
    } finally {
      const next = this.#waiting.shift();
      if (next) next();
      else this.#free++;
    }
  }
}
