import { Upload } from 'tus-js-client';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';

/** HTTP status of a full disk (RFC 4918, section 11.5). */
const INSUFFICIENT_STORAGE = 507;
/** Tried again this often for as long as it takes: a lesson is never given up. */
const RETRY_MS = Array.from({ length: 20_000 }, (_, time) => Math.min(4_000, 500 * (time + 1)));
/** Most bytes sent in one request. */
const MOST_BYTES = 4_000_000;
/** Refused for good: waiting would not change the answer. Being signed out is not: one can sign in again. */
const FINAL = [400, 404, 410, 413];

/** Status of a request to create an upload that already exists. */
export const IS_THERE = 409;

/** Why nothing can be sent just now: nobody answers, or the server's disk is full. */
export type Halted = 'away' | 'disk-full';

/** What an answer of the server's (0: none) means for what is to be sent. */
export const haltedBy = (status: number): Halted =>
  status === INSUFFICIENT_STORAGE ? 'disk-full' : 'away';

/** Where the bytes of a track come from. */
export interface TrackBytes {
  /** Up to `end` of what there is from `start` on; waits where nothing is yet. `done`: it reaches the end of the track. */
  slice(start: number, end: number): Promise<{ value: Blob | null; done: boolean }>;
  /** The server has everything before this place on its disk. */
  accepted(before: number): void;
}

/**
 * Sends one track to the server by tus 1.0, from wherever the server stands, for as long as it takes. The
 * upload is named by its track, so that any tab can go on where another one ended. It is created first and resumed if it exists: asking first would
 * log an error (404) in the console for every recording.
 */
export class TrackSender {
  /** Processes when the server has every byte; rejects when it refuses them for good. */
  readonly sent: Promise<void>;
  /** Why sending is at a halt and being tried again; null while it goes on. */
  halted: Halted | null = null;
  readonly #upload: Upload;

  constructor(trackId: string, apiOrigin: string, bytes: TrackBytes) {
    let settle: { resolve: () => void; reject: (error: unknown) => void };
    this.sent = new Promise((resolve, reject) => {
      settle = { resolve, reject };
    });
    this.sent.catch(() => undefined);
    const source = {
      size: null as unknown as number,
      slice: (start: number, end: number) => bytes.slice(start, end),
      close: () => undefined,
    };
    const endpoint = apiOrigin + UPLOADS_PATH;
    this.#upload = new Upload(new Blob([]), {
      endpoint,
      uploadLengthDeferred: true,
      chunkSize: MOST_BYTES,
      metadata: { trackId },
      retryDelays: RETRY_MS,
      storeFingerprintForResuming: false,
      fileReader: { openFile: () => Promise.resolve(source as never) },
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        if (status === IS_THERE) this.#upload.url = `${endpoint}/${trackId}`;
        else this.halted = haltedBy(status);
        return !FINAL.includes(status);
      },
      onChunkComplete: (_size, accepted) => {
        this.halted = null;
        bytes.accepted(accepted);
      },
      onSuccess: () => settle.resolve(),
      onError: (error) => settle.reject(error),
    });
    this.#upload.start();
  }

  /** Stops sending; what the server has it keeps. */
  stop(): void {
    void this.#upload.abort();
  }
}
