import { Upload } from 'tus-js-client';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { haltedBy, type Halted } from './track-sender';

const RETRY_MS = Array.from({ length: 1_000 }, () => 3_000);
const PIECE_BYTES = 8_000_000;

/** How far a file has come. */
export interface Sending {
  /** 0 to 1. */
  readonly done: number;
  /** Time left at the speed so far, µs; null until there is a speed. */
  readonly leftUs: number | null;
  /** Why it stands still; it goes on by itself. */
  readonly halted: Halted | null;
}

export const NOT_SENT: Sending = { done: 0, leftUs: null, halted: null };

/** Why sending stands still, in words. */
export const HALTED: Readonly<Record<Halted, string>> = {
  away: 'Under Chalk can’t be reached just now. It goes on by itself; leave this page open.',
  'disk-full':
    'The server’s disk is full. It goes on by itself when there is room; leave this page open.',
};

/**
 * Sends a file that was chosen, in pieces, and goes on wherever it was cut off.
 *
 * @param name what its bytes are waited for as
 * @throws what the server refuses for good (`refusedStatus` tells its status)
 */
export const sendFile = (
  file: Blob,
  name: string,
  tell: (sending: Sending) => void,
): Promise<void> =>
  new Promise((resolve, reject) => {
    const began = Date.now();
    let sending = NOT_SENT;
    const say = (change: Partial<Sending>) => tell((sending = { ...sending, ...change }));
    new Upload(file, {
      endpoint: location.origin + UPLOADS_PATH,
      chunkSize: PIECE_BYTES,
      metadata: { trackId: name },
      retryDelays: RETRY_MS,
      storeFingerprintForResuming: false,
      onProgress: (sent, all) => {
        const done = all ? sent / all : 0;
        const spentUs = (Date.now() - began) * 1000;
        say({ done, leftUs: done > 0.02 ? (spentUs * (1 - done)) / done : null, halted: null });
      },
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        say({ halted: haltedBy(status) });
        return status === 0 || status >= 500 || status === 423;
      },
      onSuccess: () => resolve(),
      onError: reject,
    }).start();
  });

/** The status that a file was refused with; 0 where it was something else. */
export const refusedStatus = (error: unknown): number =>
  (error as { originalResponse?: { getStatus(): number } }).originalResponse?.getStatus() ?? 0;
