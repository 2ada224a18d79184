import type { Us } from '@under-chalk/core/time/us';
import type { StillMaker } from './still-maker';

/** The still picture shown before a film plays, taken from the film itself. */
export class Covers {
  readonly #maker: StillMaker;

  constructor(maker: StillMaker) {
    this.#maker = maker;
  }

  /** A JPEG from a third into the film: past the empty first moment. @returns its path */
  of(filmPath: string, filmId: string, filmUs: Us): Promise<string> {
    return this.#maker.of(`cover ${filmId}`, {
      media: { path: filmPath, demuxer: 'mov' },
      atUs: Math.round(filmUs / 3),
      widthPx: 1280,
      quality: 4,
    });
  }
}
