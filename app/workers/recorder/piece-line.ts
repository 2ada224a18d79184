import type { TrackBytes } from '../../capture/sending/track-sender';
import { StoreFullError, type PieceStore } from '../../capture/store/piece-store';
import { isUnanswered } from '../../capture/store/until-answered';

/** Bytes of a line kept in memory for sending; what is older is read back from the store. */
const MEMORY_BYTES = 12_000_000;

const STORE_TRIES = 4;
const STORE_RETRY_MS = 100;

/**
 * - `ending`: the store is full, but for what was set aside for the end of the take
 * - `full`, `broken`: what comes now is in memory only
 */
export type StoreTrouble = 'ending' | 'full' | 'broken';

interface Piece {
  readonly from: number;
  readonly size: number;
  /** Null: in the store only. */
  bytes: Uint8Array<ArrayBuffer> | null;
  stored: boolean;
}

/**
 * The bytes of one track between the encoder and the server. Each piece is written to the browser's
 * store first and can be sent only then; it is let go of when the server has it on its disk.
 */
export class PieceLine implements TrackBytes {
  readonly trackId: string;
  readonly #takeId: string;
  readonly #store: PieceStore | null;
  readonly #onTrouble: (trouble: StoreTrouble, error: unknown) => void;
  /** Pieces the server has not answered for, in order. */
  #pieces: Piece[] = [];
  /** Those of them that are in memory too, oldest first. */
  #held: Piece[] = [];
  #heldBytes = 0;
  #ready = 0;
  #accepted = 0;
  #closed = false;
  #storing = true;
  #wake: (() => void) | null = null;
  /** Freeing pieces in the store, one at a time. */
  #freeing: Promise<void> = Promise.resolve();

  constructor(
    takeId: string,
    trackId: string,
    store: PieceStore | null,
    onTrouble: (trouble: StoreTrouble, error: unknown) => void,
  ) {
    this.trackId = trackId;
    this.#takeId = takeId;
    this.#store = store;
    this.#onTrouble = onTrouble;
  }

  /** Bytes that the server has not answered for. */
  get unsentBytes(): number {
    return this.#ready - this.#accepted;
  }
  /** Bytes written so far. */
  get length(): number {
    return this.#ready;
  }
  /** Whether everything the server doesn't have yet lies in the store. */
  get safe(): boolean {
    return this.#pieces.every((piece) => piece.stored);
  }

  /** Takes in the next bytes. Resolves when they are stored; never rejects, for recording goes on. */
  async write(bytes: Uint8Array): Promise<void> {
    if (bytes.length === 0) return;
    const own = new Uint8Array(bytes);
    const piece: Piece = { from: this.#ready, size: own.length, bytes: own, stored: false };
    if (this.#store && this.#storing) {
      try {
        await this.#keep(this.#store, piece.from, own);
        piece.stored = true;
      } catch (error) {
        this.#storing = false;
        this.#onTrouble(error instanceof StoreFullError ? 'full' : 'broken', error);
      }
    }
    this.#pieces.push(piece);
    this.#held.push(piece);
    this.#heldBytes += piece.size;
    this.#ready += piece.size;
    this.#slim();
    this.#wake?.();
  }

  /**
   * A store that has room but fails is tried a few times: a busy disk comes round. One that gives no answer
   * is not: what is recorded meanwhile could not be sent either. One that is full takes
   * in the end of the take in the room that was set aside for it.
   */
  async #keep(store: PieceStore, from: number, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    let full = false;
    for (let tries = 1; ; tries++) {
      try {
        return await store.write(this.#takeId, this.trackId, from, bytes);
      } catch (error) {
        const isFull = error instanceof StoreFullError;
        if (tries >= STORE_TRIES || (isFull && full) || isUnanswered(error)) throw error;
        if (isFull) {
          full = true;
          await store.useReserve();
          this.#onTrouble('ending', error);
        } else {
          await new Promise((resolve) => setTimeout(resolve, STORE_RETRY_MS));
        }
      }
    }
  }

  /** No more will be written. */
  close(): void {
    this.#closed = true;
    this.#wake?.();
  }

  async slice(start: number, end: number): Promise<{ value: Blob | null; done: boolean }> {
    while (start >= this.#ready && !this.#closed) {
      await new Promise<void>((resolve) => {
        this.#wake = resolve;
      });
      this.#wake = null;
    }
    const parts: Uint8Array<ArrayBuffer>[] = [];
    let to = start;
    for (const piece of [...this.#pieces]) {
      if (to >= end) break;
      if (piece.from + piece.size <= to) continue;
      const bytes = piece.bytes ?? (await this.#store!.read(this.#takeId, this.trackId, piece));
      const part = bytes.subarray(to - piece.from, end - piece.from);
      parts.push(part);
      to += part.length;
    }
    const done = this.#closed && to >= this.#ready;
    return { value: to > start ? new Blob(parts) : null, done };
  }

  accepted(before: number): void {
    this.#accepted = Math.max(this.#accepted, before);
    const first = this.#pieces.findIndex((piece) => piece.from + piece.size > before);
    const gone = this.#pieces.splice(0, first < 0 ? this.#pieces.length : first);
    while (this.#held[0] && this.#held[0].from + this.#held[0].size <= before) {
      this.#letGo(this.#held.shift()!);
    }
    this.#freeing = this.#freeing
      .then(() =>
        this.#store?.free(
          this.#takeId,
          this.trackId,
          gone.filter((piece) => piece.stored),
        ),
      )
      .catch((error: unknown) => console.error('a sent piece can’t be freed', error));
  }

  /** Keeps little in memory: what is stored can be read back. */
  #slim(): void {
    while (this.#heldBytes > MEMORY_BYTES && this.#held[0]?.stored)
      this.#letGo(this.#held.shift()!);
  }

  #letGo(piece: Piece): void {
    this.#heldBytes -= piece.size;
    piece.bytes = null;
  }
}
