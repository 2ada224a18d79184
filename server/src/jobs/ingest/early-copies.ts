import { mediumOf } from '@under-chalk/core/lesson/medium';
import type { Log } from '../../log';
import type { MediaStore } from '../../store/media-store';
import type { TakeStore } from '../../store/take-store';
import type { FootageSoFar } from './footage-so-far';
import { EarlyCopying } from './early-copy';
import { MEDIA } from './media';

/** Tracks that are copied while they come in; the others are made at the end. */
const MOST_AT_ONCE = 24;

/** The tracks of takes that are being recorded, each copied while it comes in. */
export class EarlyCopies {
  readonly #takes: TakeStore;
  readonly #media: MediaStore;
  readonly #log: Log;
  readonly #copyings = new Map<
    string,
    { readonly takeId: string; readonly copying: EarlyCopying }
  >();

  #growing: Promise<void> | null = null;
  #closed = false;

  constructor(takes: TakeStore, media: MediaStore, log: Log) {
    this.#log = log;
    this.#takes = takes;
    this.#media = media;
  }

  /** Copies what has come of takes that are being recorded, and lets go of those that have gone. */
  grow(): Promise<void> {
    this.#growing ??= this.#grow().finally(() => {
      this.#growing = null;
    });
    return this.#growing;
  }

  async #grow(): Promise<void> {
    const recording = await this.#takes.inState('recording');
    const wanted = new Set([...recording, ...(await this.#takes.inState('processing'))]);
    for (const [trackId, { takeId, copying }] of this.#copyings) {
      if (wanted.has(takeId)) continue;
      this.#copyings.delete(trackId);
      await copying.drop();
    }
    for (const takeId of recording) {
      // Of a film that is brought in nobody knows yet what it is.
      if ((await this.#takes.get(takeId)).source === 'film') continue;
      for (const { id, kind } of await this.#takes.tracksOf(takeId)) {
        const medium = mediumOf(kind);
        if (medium === 'events' || !this.#media.hasIncoming(id)) continue;
        if (this.#closed) return;
        if (!this.#copyings.has(id)) {
          if (this.#copyings.size >= MOST_AT_ONCE) continue;
          await this.#media.prepare();
          const [incoming, draft] = [this.#media.incoming(id), this.#media.draft()];
          const copying = new EarlyCopying({
            ...{ incoming, medium, copy: MEDIA[medium].copy, draft },
            onGivenUp: (why) => this.#log.warn(`track ${id} is copied at the end only`, why),
          });
          this.#copyings.set(id, { takeId, copying });
        }
        await this.#copyings.get(id)!.copying.feed();
      }
    }
  }

  /** What has come of a track that is being recorded; null where that isn't known. */
  soFar(trackId: string): FootageSoFar | null {
    return this.#copyings.get(trackId)?.copying.soFar() ?? null;
  }

  /** Gives away what has been begun of a track: whoever takes it finishes it, or drops it. */
  take(trackId: string): EarlyCopying | null {
    const held = this.#copyings.get(trackId);
    this.#copyings.delete(trackId);
    return held?.copying ?? null;
  }

  async close(): Promise<void> {
    this.#closed = true;
    // What is being fed is not begun anew behind our back.
    await this.#growing?.catch(() => undefined);
    const all = [...this.#copyings.values()];
    this.#copyings.clear();
    await Promise.all(all.map(({ copying }) => copying.drop()));
  }
}
