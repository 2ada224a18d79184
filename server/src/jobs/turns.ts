/** Waits for a turn; the other end of it gives the turn back. */
export type TakeTurn = () => Promise<() => void>;

/**
 * Turns at something of which only a few can be done at a time. Whoever asks for each piece anew goes in turns with the
 * others, however much there is to do for each; those that somebody waits for come first.
 *
 * @param isUrgent whether somebody waits for what is to be done; asked each time that there is a turn to be had
 */
export const turns = <Who>(
  atOnce: number,
  isUrgent: (who: Who) => boolean = () => false,
): ((who: Who) => Promise<() => void>) => {
  let free = atOnce;
  const waiting: { readonly who: Who; readonly begin: (giveBack: () => void) => void }[] = [];
  const next = () => {
    if (free === 0 || waiting.length === 0) return;
    free--;
    const urgent = waiting.findIndex(({ who }) => isUrgent(who));
    const [{ begin }] = waiting.splice(Math.max(0, urgent), 1) as [(typeof waiting)[number]];
    let given = false;
    begin(() => {
      if (given) return;
      given = true;
      free++;
      next();
    });
  };
  return (who) =>
    new Promise((begin) => {
      waiting.push({ who, begin });
      next();
    });
};
