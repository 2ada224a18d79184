import { TellableError } from '@under-chalk/core/errors/errors';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import type { MediaStore } from '../store/media-store';
import type { StillMaker } from './still-maker';

/** Small pictures of takes, made when they are asked for. */
export class Stills {
  readonly #media: MediaStore;
  readonly #maker: StillMaker;

  constructor(media: MediaStore, maker: StillMaker) {
    this.#media = media;
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
      media: this.#media.media(track.id),
      atUs: placeUs,
      widthPx,
      quality: 5,
    });
  }
}
