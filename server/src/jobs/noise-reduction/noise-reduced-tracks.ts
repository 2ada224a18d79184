import { trackOf, type Take, type Track } from '@under-chalk/core/lesson/take';
import {
  noiseReductionSchema,
  type NoiseReduction,
  type NoiseReducedState,
} from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import type { Us } from '@under-chalk/core/time/us';
import { reduceNoiseInPart } from '@under-chalk/render';
import pLimit from 'p-limit';
import type { Folders } from '../../config';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import { heavyWork } from '../heavy-work';
import { runThread } from '../run-thread';
import { makeNoiseReduced } from './make-noise-reduced';

export interface NoiseReductionWork {
  readonly folders: Folders;
  readonly track: Track;
  readonly reduction: NoiseReduction;
}

interface NoiseReducedParts {
  readonly media: MediaStore;
  readonly folders: Folders;
  /** The built thread (`noise-reduction-thread`); empty: it is done in this one. */
  readonly script: string;
  readonly log: Log;
}

interface Making {
  share: number;
  failed: boolean;
}

/** Takes the room from under takes' voices, one after the other, once somebody asks how it stands with one. */
export class NoiseReducedTracks {
  readonly #parts: NoiseReducedParts;
  readonly #inTurn = pLimit(1);
  readonly #parted = pLimit(1);
  /** What is being made or couldn't be, by the file that it becomes. */
  readonly #making = new Map<string, Making>();
  readonly #stopping = new AbortController();
  readonly #over = new Set<Promise<void>>();

  constructor(parts: NoiseReducedParts) {
    this.#parts = parts;
  }

  async close(): Promise<void> {
    this.#stopping.abort(new Error('the server is closing'));
    await Promise.all(this.#over);
  }

  /** How it stands with a take's voice without its room; asked for the first time, it is begun. */
  stateOf(take: Take, reduction: NoiseReduction): NoiseReducedState {
    const { media } = this.#parts;
    const track = take.state === 'ready' ? trackOf(take, 'voice') : undefined;
    if (!track || !media.hasMedia(track.id)) return { is: 'none' };
    if (media.hasNoiseReduced(track, reduction)) return { is: 'ready' };
    const { path } = media.noiseReduced(track, reduction);
    const making = this.#making.get(path) ?? this.#begin(path, track, reduction);
    return making.failed ? { is: 'failed' } : { is: 'making', share: making.share };
  }

  /** A part of a voice without its room, made now. One at a time: somebody waits for it. @throws FfmpegError */
  part(track: Track, reduction: NoiseReduction, fromUs: Us, toUs: Us): Promise<Float32Array> {
    const media = this.#parts.media.media(track.id);
    const { signal } = this.#stopping;
    return this.#parted(() => reduceNoiseInPart({ media, reduction, signal }, fromUs, toUs));
  }

  #begin(path: string, track: Track, reduction: NoiseReduction): Making {
    const making: Making = { share: 0, failed: false };
    this.#making.set(path, making);
    const over = this.#inTurn(() => this.#make(making, track, reduction)).then(
      async () => {
        this.#making.delete(path);
        await this.#forgetOlder(track);
      },
      (error: unknown) => {
        if (this.#stopping.signal.aborted) return;
        // Not again before the next start.
        making.failed = true;
        this.#parts.log.warn(`track ${track.id}: the room can’t be taken from it`, error);
      },
    );
    this.#over.add(over);
    void over.finally(() => this.#over.delete(over));
    return making;
  }

  /** What a track was reduced to when it had other sound. */
  async #forgetOlder(track: Track): Promise<void> {
    const { media } = this.#parts;
    const now = noiseReductionSchema.options.map((how) => media.noiseReduced(track, how).path);
    await media.forgetNoiseReduced(track.id, now);
  }

  async #make(making: Making, track: Track, reduction: NoiseReduction): Promise<void> {
    const { media, folders, script } = this.#parts;
    const { signal } = this.#stopping;
    signal.throwIfAborted();
    const onProgress = (share: number) => {
      making.share = share;
    };
    const work: NoiseReductionWork = { folders, track, reduction };
    const make = () =>
      script === ''
        ? makeNoiseReduced(media, track, reduction, onProgress, signal)
        : runThread<void>(script, work, onProgress, signal);
    return heavyWork.run('sound', make, signal);
  }
}
