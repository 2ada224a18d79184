import type { Context } from 'koa';
import type { Front } from '../config';
import { sameSecret } from '../store/account-store';
import type { Visitor } from '../store/token-finder';
import type { State } from './context';
import { setCookie } from './security';

/** What a browser that has told a page's number keeps: a page has a cookie of its own. */
const nameFor = ({ pageHash }: Visitor): string => `under-chalk-page-${pageHash.slice(0, 16)}`;

/** Whether no number is asked for on a page, or the browser has told it. */
export const hasToldNumber = ({ cookie }: State, visitor: Visitor): boolean =>
  visitor.number === null || sameSecret(cookie(nameFor(visitor)) ?? '', visitor.number.proof);

/** Lets a browser in that has told the number, until it is closed. */
export const rememberNumber = (ctx: Context, visitor: Visitor, front: Front): void => {
  if (visitor.number) setCookie(ctx, nameFor(visitor), visitor.number.proof, front, 'session');
};
