import type { PieceFacts, PieceStore } from '../store/piece-store';
import type { TrackBytes } from './track-sender';

/** A track of which nothing more will come, as it lies in the browser's store. */
export class StoredTrack implements TrackBytes {
  readonly #store: PieceStore;
  readonly #takeId: string;
  readonly #trackId: string;
  readonly #pieces: readonly PieceFacts[];
  readonly #onAccepted: (bytes: number) => void;
  /** How many pieces have been let go of. */
  #freed = 0;

  private constructor(
    store: PieceStore,
    takeId: string,
    trackId: string,
    pieces: readonly PieceFacts[],
    onAccepted: (bytes: number) => void,
  ) {
    this.#store = store;
    this.#takeId = takeId;
    this.#trackId = trackId;
    this.#pieces = pieces;
    this.#onAccepted = onAccepted;
  }

  /** @param onAccepted told how many more bytes of the store the server has */
  static async open(
    store: PieceStore,
    takeId: string,
    trackId: string,
    onAccepted: (bytes: number) => void,
  ): Promise<StoredTrack> {
    const pieces = await store.pieces(takeId, trackId);
    return new StoredTrack(store, takeId, trackId, pieces, onAccepted);
  }

  /** Bytes in the store. */
  get size(): number {
    return this.#pieces.reduce((sum, piece) => sum + piece.size, 0);
  }
  get #end(): number {
    const last = this.#pieces.at(-1);
    return last ? last.from + last.size : 0;
  }

  async slice(start: number, end: number): Promise<{ value: Blob | null; done: boolean }> {
    const parts: Uint8Array<ArrayBuffer>[] = [];
    let to = start;
    for (const piece of this.#pieces) {
      if (to >= end || piece.from > to) break;
      if (piece.from + piece.size <= to) continue;
      const bytes = await this.#store.read(this.#takeId, this.#trackId, piece);
      const part = bytes.subarray(to - piece.from, end - piece.from);
      parts.push(part);
      to += part.length;
    }
    if (to === start && start < this.#end) {
      throw new Error(
        `the server has ${start} bytes of ${this.#trackId}; what follows is not here`,
      );
    }
    return { value: to > start ? new Blob(parts) : null, done: to >= this.#end };
  }

  accepted(before: number): void {
    const freed = this.#pieces.filter((piece) => piece.from + piece.size <= before);
    const fresh = freed.slice(this.#freed);
    this.#freed = freed.length;
    this.#onAccepted(freed.reduce((sum, piece) => sum + piece.size, 0));
    this.#store
      .free(this.#takeId, this.#trackId, fresh)
      .catch((error: unknown) => console.error('a sent piece can’t be freed', error));
  }
}
