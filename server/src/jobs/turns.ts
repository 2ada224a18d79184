/** Waits for a turn; the other end of it gives the turn back. */
export type TakeTurn = () => Promise<() => void>;

interface Waiting<Who> {
  readonly who: Who;
  readonly begin: (giveBack: () => void) => void;
}

/**
 * Turns at something of which only a few can be done at a time. Whoever asks for each piece anew goes in turns with the
 * others, however much there is to do for each.
 *
 * @param orderOf those with the least come first, and of as much those who came first; asked each time that there is a turn to be had
 * @returns waits for a turn. @throws the signal's reason
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
