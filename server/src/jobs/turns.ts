import pLimit from 'p-limit';

/** Waits for a turn; the other end of it gives the turn back. */
export type TakeTurn = () => Promise<() => void>;

/**
 * Turns at something of which only a few can be done at a time, in the order in which they were asked for. Whoever
 * asks for each piece anew goes in turns with the others, however much there is to do for each.
 */
export const turns = (atOnce: number): TakeTurn => {
  const limit = pLimit(atOnce);
  return () =>
    new Promise((begin) => {
      void limit(() => new Promise<void>((giveBack) => begin(giveBack)));
    });
};
