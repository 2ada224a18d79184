import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Login } from './launches';

/**
 * A sign-in from a course site has to end in the browser that it began in: otherwise a stranger could send somebody their own
 * sign-in, and that person would watch and answer in the stranger's name (login CSRF; LTI Security Framework 1.0, 5.1.1.5). The
 * browser is given a secret, and the state that travels with the sign-in holds its digest.
 */
export interface Binding {
  /** SHA-256 of the secret, base64url. */
  readonly digest: string;
  /** The frame of the course site that keeps the secret too, where cookies are blocked; null: the site offers none. */
  readonly frame: string | null;
  /** Query that restarts the sign-in in a new window; null: it runs in one already, or the query would be too long. */
  readonly again: string | null;
}

/** Longest query that is carried along for another try. Addresses of some servers hold 8 kB. */
const MOST_AGAIN = 1_500;
/** Parameter of a sign-in that was restarted in a new window. */
export const OWN_WINDOW = 'own_window';

const digestOf = (secret: string): string =>
  createHash('sha256').update(secret).digest('base64url');

export const bindingOf = (login: Login): { readonly secret: string; readonly binding: Binding } => {
  const secret = randomBytes(24).toString('base64url');
  const { lti_storage_target: frame = null, [OWN_WINDOW]: inOwnWindow, ...rest } = login;
  const query = new URLSearchParams({ ...rest, [OWN_WINDOW]: '1' }).toString();
  const again = inOwnWindow !== undefined || query.length > MOST_AGAIN ? null : query;
  return { secret, binding: { digest: digestOf(secret), frame, again } };
};

/** Whether one of these is the secret that the browser was given when the sign-in began. */
export const isBound = (
  { digest }: Pick<Binding, 'digest'>,
  presented: readonly (string | undefined)[],
): boolean =>
  presented.some(
    (secret) =>
      secret !== undefined && timingSafeEqual(Buffer.from(digestOf(secret)), Buffer.from(digest)),
  );

/** Where the secret of a sign-in lies in the browser. `__Host-`: no other host of the same domain can put it there. */
export const bindingCookie = (nonce: string, isSecure: boolean): string =>
  `${isSecure ? '__Host-' : ''}lti-${nonce}`;
/** And in the course site's own storage. */
export const bindingKey = (nonce: string): string => `under-chalk-${nonce}`;

/**
 * Puts the secret into the course site's storage, or gets it from there (LTI Client Side postMessages 1.0, LTI postMessage Storage
 * 1.0): the frame that keeps it hears only messages that are for the site's own origin, and only the site's are believed. A site that
 * doesn't answer in time has kept nothing.
 */
export const STORAGE_SCRIPT = `'use strict';
const { frame, origin, key, value, to } = document.currentScript.dataset;
const isPut = to !== undefined;
const id = Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16)).join('');
const subject = isPut ? 'lti.put_data' : 'lti.get_data';
let isDone = false;
const done = (got) => {
  if (isDone) return;
  isDone = true;
  if (isPut) return location.replace(to);
  const form = document.getElementById('go-on');
  form.elements.secret.value = typeof got === 'string' ? got : '';
  form.submit();
};
addEventListener('message', (told) => {
  if (told.origin !== origin || !told.data || told.data.message_id !== id) return;
  if (told.data.subject === subject + '.response') done(told.data.value);
});
const around = window.parent === window ? window.opener : window.parent;
let keeper = null;
try {
  keeper = around && (frame === '_parent' ? around : around.frames[frame]);
} catch {
  keeper = null;
}
if (keeper) {
  keeper.postMessage({ subject, message_id: id, key, ...(isPut ? { value } : {}) }, origin);
  setTimeout(done, 5000);
} else done();
`;
