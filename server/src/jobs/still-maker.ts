import { openOptions, PieceCache, run, seekTo, type MediaFile } from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';
import pLimit from 'p-limit';

/** Pictures made at a time, whoever asks. */
const AT_ONCE = 2;
const LIMITS = { deadlineMs: 20_000, memoryBytes: 4e9 };

/** A picture out of a film or a take. */
export interface WantedStill {
  readonly media: MediaFile;
  readonly atUs: Us;
  readonly widthPx: number;
  /** Of JPEG, as ffmpeg counts: 2 is best, 31 worst. */
  readonly quality: number;
}

/** Makes single pictures as JPEG, a few at a time and each once, and keeps them. */
export class StillMaker {
  readonly #cache: PieceCache;
  readonly #inTurn = pLimit(AT_ONCE);

  constructor(folder: string) {
    this.#cache = new PieceCache(folder);
  }

  /** @returns the path of the picture that the name stands for */
  of(name: string, { media, atUs, widthPx, quality }: WantedStill): Promise<string> {
    return this.made(name, async (draft) => {
      await run(
        'ffmpeg',
        [
          ...[...openOptions(media), ...seekTo(atUs), '-i', media.path, '-frames:v', '1'],
          ...['-vf', `scale=${widthPx}:-2`, '-q:v', String(quality), '-f', 'mjpeg', draft],
        ],
        undefined,
        LIMITS,
      );
    });
  }

  /** @param make makes the picture in the file that it is told */
  made(name: string, make: (draft: string) => Promise<void>): Promise<string> {
    return this.#cache.obtain(this.#cache.pathOf(name, 'jpg'), (draft) =>
      this.#inTurn(() => make(draft)),
    );
  }

  prune(mostBytes: number): Promise<void> {
    return this.#cache.prune(mostBytes);
  }
}
