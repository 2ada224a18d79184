/** A store that has not answered after so long won't any more, ms. */
const PATIENCE_MS = 5_000;

/** What is waited for. Each wait is an entry of its own: one handle may be waited for twice. */
const waited = new Set<{ readonly handle: object }>();

/**
 * Asks a handle of the browser's file system for something, and holds the handle until it has answered.
 * Chromium drops an answer when the handle it was asked of is collected as garbage, and
 * `await (await folder.getFileHandle(name)).createSyncAccessHandle()` leaves nothing that refers to it: once
 * in some thousand pieces the promise never processed, and with it the recording of its track.
 *
 * @param late is given an answer that comes when nobody waits any more, to let go of it
 * @throws DOMException `TimeoutError` when there is no answer at all
 */
export const untilAnswered = async <H extends object, T>(
  handle: H,
  ask: (handle: H) => Promise<T>,
  late: (answer: T) => void = () => undefined,
): Promise<T> => {
  const wait = { handle };
  waited.add(wait);
  let timer: ReturnType<typeof setTimeout> | undefined;
  try {
    const answer = ask(handle);
    const patience = new Promise<never>((_, reject) => {
      timer = setTimeout(() => {
        // What goes wrong with it from now on is nobody’s any more.
        answer.then(late, () => undefined);
        reject(new DOMException('the browser’s store does not answer', 'TimeoutError'));
      }, PATIENCE_MS);
    });
    return await Promise.race([answer, patience]);
  } finally {
    clearTimeout(timer);
    waited.delete(wait);
  }
};

/** Whether a store gave no answer: asking again would only take as long again. */
export const isUnanswered = (error: unknown): boolean =>
  error instanceof DOMException && error.name === 'TimeoutError';
