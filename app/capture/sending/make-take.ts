import { pathTo } from '@under-chalk/core/contract/api';
import type { NewTake } from '@under-chalk/core/contract/takes';
import { haltedBy, type Halted } from './track-sender';

const RETRY_MS = 1_500;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Makes a take on the server, for as long as it takes: before it is there, none of its bytes can be sent.
 * One that is there already is as good.
 *
 * @param onHalted told why it has to be tried again
 * @returns false when the server refuses it for good
 */
export const makeTake = async (
  apiOrigin: string,
  lessonId: string,
  take: NewTake,
  onHalted: (why: Halted) => void,
  signal?: AbortSignal,
): Promise<boolean> => {
  for (;;) {
    let why: Halted = 'away';
    try {
      const { status } = await fetch(apiOrigin + pathTo('newTake', { lessonId }), {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(take),
        ...(signal ? { signal } : {}),
      });
      if (status === 409 || (status >= 200 && status < 300)) return true;
      if (status === 400 || status === 404) return false;
      why = haltedBy(status);
    } catch {
      // Not reached; tried again.
    }
    if (signal?.aborted) return false;
    onHalted(why);
    await pause(RETRY_MS);
  }
};
