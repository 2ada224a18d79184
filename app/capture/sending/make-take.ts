import { pathTo, type NewTake } from '@under-chalk/core/contract/api';

const RETRY_MS = 1_500;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Makes a take on the server, for as long as it takes: before it is there, none of its bytes can be sent.
 * One that is there already is as good.
 *
 * @param onAway told when the server can't be reached, or has no room
 * @returns false when the server refuses it for good
 */
export const makeTake = async (
  apiOrigin: string,
  lessonId: string,
  take: NewTake,
  onAway: () => void,
  signal?: AbortSignal,
): Promise<boolean> => {
  for (;;) {
    try {
      const { status } = await fetch(apiOrigin + pathTo('newTake', { lessonId }), {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(take),
        ...(signal ? { signal } : {}),
      });
      if (status === 409 || (status >= 200 && status < 300)) return true;
      if (status === 400 || status === 404) return false;
    } catch {
      // Not reached; tried again.
    }
    if (signal?.aborted) return false;
    onAway();
    await pause(RETRY_MS);
  }
};
