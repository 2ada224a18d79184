/** What stands in an address of a piece of a film: the ticket by which it is fetched. */
const IN_ADDRESS = /\/api\/media\/([^/]+)\//;

export interface Given {
  readonly ticket: string;
  /** How long it is good from now on, ms. */
  readonly forMs: number;
}

/** A ticket is not used for the last part of its time: what is asked for may take a while. */
const SPARE = 0.3;

/**
 * Holds the ticket by which pieces of a film are fetched, and has another given before it is over. The first is in the playlist.
 *
 * @param give has another given. @throws what it does when it can't be
 * @param now a clock, ms; one that goes on while a device sleeps
 */
export const heldTicket = (give: () => Promise<Given>, now: () => number = Date.now) => {
  let held: Promise<string> | null = null;
  let goodUntil = 0;
  const renewed = async (): Promise<string> => {
    const { ticket, forMs } = await give();
    goodUntil = now() + forMs * (1 - SPARE);
    return ticket;
  };
  return {
    /** A ticket came with a playlist just now. */
    came: (forMs: number): void => {
      held = null;
      goodUntil = now() + forMs * (1 - SPARE);
    },
    /** It was not taken any more. */
    over: (): void => {
      held = null;
      goodUntil = 0;
    },
    /** The address of a piece, by a ticket that is good; what is no piece's is left as it is. */
    addressOf: async (address: string): Promise<string> => {
      if (!IN_ADDRESS.test(address)) return address;
      if (now() < goodUntil && !held) return address;
      if (!held || now() >= goodUntil) {
        held = renewed();
        // Until it has come: nobody asks for a second.
        goodUntil = Number.POSITIVE_INFINITY;
        held.catch(() => {
          held = null;
          goodUntil = 0;
        });
      }
      const ticket = await held;
      return address.replace(IN_ADDRESS, `/api/media/${ticket}/`);
    },
  };
};
