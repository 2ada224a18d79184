import type { Context } from 'koa';
import type { Front } from '../config';
import { sameSecret } from '../store/account-store';
import type { Person } from '../store/student-page-store';
import type { State } from './context';
import { setCookie } from './security';

/** What a browser that has told a page's number keeps: a page has a cookie of its own. */
const nameFor = ({ pageHash }: Person): string => `under-chalk-page-${pageHash.slice(0, 16)}`;

/** Whether a student's number isn't asked for, or their browser has told it. */
export const hasToldNumber = ({ cookie }: State, person: Person): boolean =>
  person.number === null || sameSecret(cookie(nameFor(person)) ?? '', person.number.proof);

/** Lets a browser in that has told the number, until it is closed. */
export const rememberNumber = (ctx: Context, person: Person, front: Front): void => {
  if (person.number) setCookie(ctx, nameFor(person), person.number.proof, front, 'session');
};
