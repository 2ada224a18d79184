import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { AppError } from '@under-chalk/core/errors/errors';
import { mayWatch, type MayWatch } from '@under-chalk/core/share-link/may-watch';
import type { StoredShareLink } from '../store/share-link-store';
import type { Person } from '../store/student-page-store';
import { askingOf, type TokenFinder, type Visitor } from '../store/token-finder';
import type { State } from './context';
import type { Tickets } from './tickets';
import { hasGivenPin } from './pin-given';

export interface Teacher {
  readonly is: 'teacher';
  /** The session's token; null in the demo, which is opened by being on this machine. */
  readonly session: string | null;
}

export interface Student {
  readonly is: 'student';
  /** The address that brought them here: what they may see is what it hands out. */
  readonly shareLink: StoredShareLink;
  /** Who they are, where it is an address of their own. */
  readonly person: Person | null;
}

/** A student on their own page, or somebody on a class's. */
export interface OnTheirPage {
  readonly is: 'person';
  readonly visitor: Visitor;
}

/** Who is asking. */
export type Who = Teacher | Student | OnTheirPage | { readonly is: 'anyone' };

/** Who can ask for an endpoint, once it has let them in. */
export type WhoOf<From extends Endpoint['from']> = From extends 'student'
  ? Student
  : From extends 'person'
    ? OnTheirPage
    : From extends 'anyone'
      ? Exclude<Who, Student | OnTheirPage>
      : Teacher;

/**
 * The one door: who asks, and whether they may.
 *
 * @throws AppError `signed-out`; for students `not-found`, `not-open-yet`, `no-longer-open`, `not-for-you`, `no-page`,
 *   `pin-needed`, `ticket-over`
 */
export type Door = (
  state: State,
  from: Endpoint['from'],
  params: Readonly<Record<string, string>> | undefined,
) => Promise<Who>;

/** Says why something can't be watched. @throws AppError where it can't be */
const letIn = ({ is, when }: MayWatch): void => {
  switch (is) {
    case 'open':
      return;
    case 'not-yet':
      throw new AppError('not-open-yet', 'hand-out', { when });
    case 'over':
      throw new AppError('no-longer-open', 'hand-out', { when });
    case 'revoked':
      throw new AppError('not-found', 'hand-out');
    case 'not-theirs':
      throw new AppError('not-for-you', 'hand-out');
  }
};

interface Finds {
  readonly tokens: TokenFinder;
  readonly tickets: Tickets;
}

export const doorOf = ({ tokens, tickets }: Finds): Door => {
  /** The address that somebody came by: its token, or what a ticket stands for. */
  const tokenIn = ({ token = '', ticket }: Readonly<Record<string, string>> = {}): string =>
    ticket === undefined ? token : tickets.open(ticket).token;
  const known = (state: State, visitor: Visitor): Visitor => {
    if (!hasGivenPin(state, visitor)) throw new AppError('pin-needed');
    return visitor;
  };
  return async (state, from, params) => {
    if (from === 'student') {
      const found = await tokens.find(tokenIn(params));
      if (!found) throw new AppError('not-found', 'hand-out');
      const visitor = found.visitor && known(state, found.visitor);
      letIn(mayWatch(askingOf(visitor), found.availability, Date.now()));
      const person = visitor?.is === 'student' ? visitor : null;
      return { is: 'student', shareLink: found.shareLink, person };
    }
    if (from === 'person') {
      const visitor = await tokens.visitorWith(params?.['key'] ?? '');
      if (!visitor) throw new AppError('no-page');
      return { is: 'person', visitor: known(state, visitor) };
    }
    if (state.teacher) return { is: 'teacher', session: state.session };
    if (from === 'anyone') return { is: 'anyone' };
    throw new AppError('signed-out');
  };
};
