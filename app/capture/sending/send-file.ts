import { Upload } from 'tus-js-client';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import type { ErrorCode } from '@under-chalk/core/errors/errors';
import { codeOf } from '../../data/fetch';
import { haltedBy, IS_THERE, type Halted } from './track-sender';

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
 * @param path where it is waited for
 * @throws what the server refuses for good ({@link whyNotSent} tells why)
 */
export const sendFile = (
  file: Blob,
  name: string,
  tell: (sending: Sending) => void,
  path: string = UPLOADS_PATH,
): Promise<void> =>
  new Promise((resolve, reject) => {
    const began = Date.now();
    let sending = NOT_SENT;
    const say = (change: Partial<Sending>) => tell((sending = { ...sending, ...change }));
    const endpoint = location.origin + path;
    const upload = new Upload(file, {
      endpoint,
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
        if (status === IS_THERE) {
          // What came before a reload isn't sent twice.
          upload.url = `${endpoint}/${name}`;
          return true;
        }
        say({ halted: haltedBy(status) });
        return status === 0 || status >= 500 || status === 423;
      },
      onSuccess: () => resolve(),
      onError: reject,
    });
    upload.start();
  });

/**
 * What a file could not be sent for, as a code of the table of errors.
 *
 * @param tooLarge what is told of one that is larger than may come
 */
export const whyNotSent = (error: unknown, tooLarge: ErrorCode = 'too-large'): string => {
  const { originalResponse } = error as { originalResponse?: { getStatus(): number } };
  return originalResponse?.getStatus() === 413 ? tooLarge : codeOf(error);
};
