import { TICKET_MS } from '@under-chalk/core/contract/stream';
import { AppError } from '@under-chalk/core/errors/errors';
import type { LinkSeal } from '../store/link-seal';

/** What an address of pieces of a film stands for. */
export interface Ticket {
  /** The address of the film, as whoever watches came by it: what they may see is decided anew each time. */
  readonly token: string;
  /** Which of its films. */
  readonly version: string;
}

/**
 * How long they are good for browsers that read playlists by themselves: nobody can hand them another while they play. As long as a lesson
 * may be watched at one go, ms.
 */
export const LONG_TICKET_MS = 6 * 3_600_000;

/** When it is over (ms since 1970, base 36), the version, the token: none has a point in it. */
const FORM = /^([0-9a-z]+)\.([0-9a-zA-Z_-]+)\.([0-9a-zA-Z_-]+)$/;

/** Addresses by which the pieces of a film are fetched: sealed, so that they tell nobody the link, and good for minutes. */
export class Tickets {
  readonly #seal: LinkSeal;

  constructor(seal: LinkSeal) {
    this.#seal = seal;
  }

  /** @param now ms since 1970 */
  make({ token, version }: Ticket, forMs = TICKET_MS, now = Date.now()): string {
    return this.#seal.sealed([(now + forMs).toString(36), version, token].join('.'));
  }

  /** @throws AppError `not-found` for what is no ticket of ours, `ticket-over` */
  open(ticket: string, now = Date.now()): Ticket {
    const [, until, version, token] = FORM.exec(this.#seal.opened(ticket) ?? '') ?? [];
    if (!until || !version || !token) throw new AppError('not-found', 'ticket');
    if (Number.parseInt(until, 36) < now) throw new AppError('ticket-over', 'ticket');
    return { token, version };
  }
}
