import { TellableError } from '@under-chalk/core/errors/errors';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import type { Folders } from '../config';
import { mediaFile } from './settle/media-paths';
import type { StillMaker } from './still-maker';

/** Small pictures of takes, made when they are asked for. */
export class Stills {
  readonly #folders: Folders;
  readonly #maker: StillMaker;

  constructor(folders: Folders, maker: StillMaker) {
    this.#folders = folders;
    this.#maker = maker;
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
    return this.#maker.of(JSON.stringify([track.id, placeUs, widthPx]), {
      media: mediaFile(this.#folders, track.id),
      atUs: placeUs,
      widthPx,
      quality: 5,
    });
  }
}
