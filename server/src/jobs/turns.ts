/** Waits for a turn; resolves with a function that gives it back. */
export type TakeTurn = () => Promise<() => void>;

interface Waiting<Who> {
  readonly who: Who;
  readonly begin: (giveBack: () => void) => void;
}

/**
 * A semaphore with priorities. Callers that take a turn for each piece of work alternate with each other.
 *
 * @param orderOf priority of a waiting caller, lowest first, then first come first served; evaluated each time that a turn is free
 * @returns resolves with a function that gives the turn back; rejects with the signal's reason
 */
export const turns = <Who>(
  atOnce: number,
  orderOf: (who: Who) => number = () => 0,
): ((who: Who, signal?: AbortSignal) => Promise<() => void>) => {
  let free = atOnce;
  const waiting: Waiting<Who>[] = [];
  const next = () => {
    if (free === 0 || waiting.length === 0) return;
    free--;
    const orders = waiting.map(({ who }) => orderOf(who));
    const [{ begin }] = waiting.splice(orders.indexOf(Math.min(...orders)), 1) as [Waiting<Who>];
    let given = false;
    begin(() => {
      if (given) return;
      given = true;
      free++;
      next();
    });
  };
  return (who, signal) =>
    new Promise((resolve, reject) => {
      signal?.throwIfAborted();
      const leave = () => {
        waiting.splice(waiting.indexOf(own), 1);
        reject(signal!.reason as Error);
      };
      const own: Waiting<Who> = {
        who,
        begin(giveBack) {
          signal?.removeEventListener('abort', leave);
          resolve(giveBack);
        },
      };
      signal?.addEventListener('abort', leave, { once: true });
      waiting.push(own);
      next();
    });
};
