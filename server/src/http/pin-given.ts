import type { Context } from 'koa';
import type { Front } from '../config';
import { sameSecret } from '../store/account-store';
import type { Visitor } from '../store/token-finder';
import type { State } from './context';
import { setCookie } from './security';

/** What a browser that has told a page's PIN keeps: a page has a cookie of its own. */
const nameFor = ({ pageHash }: Visitor): string => `under-chalk-page-${pageHash.slice(0, 16)}`;

/** Whether no PIN is asked for on a page, or the browser has told it. */
export const hasGivenPin = ({ cookie }: State, visitor: Visitor): boolean =>
  visitor.pin === null || sameSecret(cookie(nameFor(visitor)) ?? '', visitor.pin.proof);

/** Lets a browser in that has given the PIN, until it is closed. */
export const rememberPin = (ctx: Context, visitor: Visitor, front: Front): void => {
  if (visitor.pin) setCookie(ctx, nameFor(visitor), visitor.pin.proof, front, 'session');
};
