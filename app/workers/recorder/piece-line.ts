import { Upload } from 'tus-js-client';
import { UPLOADS_PATH } from '@under-chalk/core/contract/api';

/** Tried again this often for as long as it takes: a lesson is never given up. */
const RETRY_MS = Array.from({ length: 5_000 }, (_, time) => Math.min(4_000, 500 * (time + 1)));
/** Most bytes sent in one request. */
const MOST_BYTES = 4_000_000;

/**
 * The bytes of one track on their way to the server, by tus 1.0. Written as they are made, sent piece
 * by piece in order, and kept until the server has answered for them.
 */
export class PieceLine {
  /** Bytes not yet answered for; the first one stands at `#from` in the track. */
  #pieces: Uint8Array<ArrayBuffer>[] = [];
  #from = 0;
  #written = 0;
  #closed = false;
  #wake: (() => void) | null = null;
  readonly #upload: Upload;
  /** Settles when the server has every byte of a closed line. */
  readonly sent: Promise<void>;
  offline = false;

  constructor(trackId: string, apiOrigin: string) {
    let settle: { resolve: () => void; reject: (error: unknown) => void };
    this.sent = new Promise((resolve, reject) => {
      settle = { resolve, reject };
    });
    // The line is its own source: it hands out what there is, and waits where there is nothing yet.
    const source = {
      size: null as unknown as number,
      slice: async (start: number, end: number) => this.#slice(start, end),
      close: () => undefined,
    };
    this.#upload = new Upload(new Blob([]), {
      endpoint: apiOrigin + UPLOADS_PATH,
      uploadLengthDeferred: true,
      chunkSize: MOST_BYTES,
      metadata: { trackId },
      retryDelays: RETRY_MS,
      storeFingerprintForResuming: false,
      fileReader: { openFile: () => Promise.resolve(source as never) },
      onShouldRetry: (error) => {
        this.offline = true;
        const status = error.originalResponse?.getStatus() ?? 0;
        // Refused for good: waiting would not change the answer.
        return ![400, 401, 403, 404, 409, 410, 413].includes(status);
      },
      onChunkComplete: (_size, accepted) => {
        this.offline = false;
        this.#forget(accepted);
      },
      onSuccess: () => settle.resolve(),
      onError: (error) => settle.reject(error),
    });
    this.sent.catch(() => undefined);
    this.#upload.start();
  }

  /** Bytes that the server has not answered for. */
  get unsentBytes(): number {
    return this.#written - this.#from;
  }

  write(bytes: Uint8Array): void {
    if (bytes.length === 0) return;
    this.#pieces.push(new Uint8Array(bytes));
    this.#written += bytes.length;
    this.#wake?.();
  }

  /** No more will be written. */
  close(): void {
    this.#closed = true;
    this.#wake?.();
  }

  async #slice(start: number, end: number): Promise<{ value: Blob | null; done: boolean }> {
    while (start >= this.#written && !this.#closed) {
      await new Promise<void>((resolve) => {
        this.#wake = resolve;
      });
      this.#wake = null;
    }
    const to = Math.min(end, this.#written);
    const done = this.#closed && to >= this.#written;
    if (to <= start) return { value: null, done };
    return { value: new Blob([this.#bytes(start, to)]), done };
  }

  #bytes(start: number, end: number): Uint8Array<ArrayBuffer> {
    const joined = new Uint8Array(end - start);
    let at = this.#from;
    for (const piece of this.#pieces) {
      const from = Math.max(start, at);
      const to = Math.min(end, at + piece.length);
      if (to > from) joined.set(piece.subarray(from - at, to - at), from - start);
      at += piece.length;
    }
    return joined;
  }

  /** Lets go of whole pieces that lie before a place. */
  #forget(accepted: number): void {
    while (this.#pieces[0] && this.#from + this.#pieces[0].length <= accepted) {
      this.#from += this.#pieces.shift()!.length;
    }
  }
}
