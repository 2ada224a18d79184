import { isIPv6 } from 'node:net';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Context, Middleware } from 'koa';
import type { Front } from '../config';
import type { AccountStore } from '../store/account-store';
import type { State } from './context';

const COOKIE = 'under-chalk-session';
const KNOWN = 'under-chalk-known';

const POLICY = [
  "default-src 'none'",
  // Expo's entry is a file of ours; the hash-less inline script is not allowed.
  "script-src 'self' 'wasm-unsafe-eval'",
  // react-native-web keeps its sheet in a style element.
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "media-src 'self' blob:",
  "font-src 'self'",
  "connect-src 'self'",
  "worker-src 'self' blob:",
  "manifest-src 'self'",
  "base-uri 'none'",
  "form-action 'self'",
];

interface RouteHeaders {
  /** Whose pages may show it in a frame (CSP `frame-ancestors`). */
  readonly framedBy: "'none'" | '*';
  /** What a page of it may ask the browser for. */
  readonly permissions: string;
}

/** The teacher's own pages, and all that isn't said otherwise. */
const OWN: RouteHeaders = {
  framedBy: "'none'",
  permissions: 'camera=(self), microphone=(self), display-capture=(self)',
};
const ASKS_NOTHING = 'camera=(), microphone=(), display-capture=()';
/** Where a student watches: it stands in a course's page, knows no session, and hears and sees only who hands in half a minute of it. */
const WATCHED: RouteHeaders = {
  framedBy: '*',
  permissions: 'camera=(self), microphone=(self), display-capture=()',
};
/** The film that is on now, in a course's page. */
const ON_NOW: RouteHeaders = { framedBy: '*', permissions: ASKS_NOTHING };

/** A student's own page: it stands in no other's, and asks for nothing. */
const THEIR_PAGE: RouteHeaders = { framedBy: "'none'", permissions: ASKS_NOTHING };

/** What differs by route; the first that the path is of. */
const BY_ROUTE: readonly (readonly [path: RegExp, headers: RouteHeaders])[] = [
  [/^\/w\//, WATCHED],
  [/^\/s\/[^/]+\/now$/, ON_NOW],
  [/^\/lti\//, ON_NOW],
  [/^\/s\//, THEIR_PAGE],
];

/** Where course sites send people. */
export const LTI_PATH = '/lti/';

const headersOf = (path: string): RouteHeaders =>
  BY_ROUTE.find(([of]) => of.test(path))?.[1] ?? OWN;

/** A year, in seconds: browsers that came by TLS once come by nothing else (RFC 6797). */
const HSTS = 'max-age=31536000';

/** Headers that keep other sites out of this one. */
export const headers =
  ({ secure }: Front): Middleware =>
  async (ctx, next) => {
    if (secure) ctx.set('Strict-Transport-Security', HSTS);
    const { framedBy, permissions } = headersOf(ctx.path);
    ctx.set({
      'Content-Security-Policy': [...POLICY, `frame-ancestors ${framedBy}`].join('; '),
      'X-Content-Type-Options': 'nosniff',
      // A watch page's address is its key: it must not travel to where its links lead.
      'Referrer-Policy': 'no-referrer',
      'Permissions-Policy': permissions,
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Resource-Policy': 'same-origin',
      'X-Robots-Tag': 'noindex',
    });
    await next();
  };

/** The address that this server is reached at, without a path: as it was told, else as it was asked for. */
export const originOf = (front: Front, ctx: Pick<Context, 'protocol' | 'host'>): string =>
  front.origin ?? `${ctx.protocol}://${ctx.host}`;

const isOwn = (front: Front, ctx: Context): boolean =>
  front.origin
    ? ctx.get('Origin') === front.origin
    : URL.parse(ctx.get('Origin'))?.host === ctx.host;

/** Whether a page of ours has sent this (Fetch Metadata; of browsers that don't tell: RFC 6454). What says neither, is not. */
export const isFromOwnPage = (front: Front, ctx: Context): boolean => {
  const from = ctx.get('Sec-Fetch-Site');
  return from === '' ? isOwn(front, ctx) : from === 'same-origin';
};

/** Refuses changes asked for by another site's page (RFC 6454), beside the same-site cookie. */
export const ownOriginOnly =
  (front: Front): Middleware =>
  async (ctx, next) => {
    // What course sites send is signed by them, and done with nobody's session.
    if (ctx.path.startsWith(LTI_PATH)) return next();
    const origin = ctx.get('Origin');
    const reads = ctx.method === 'GET' || ctx.method === 'HEAD';
    if (!reads && origin !== '' && !isOwn(front, ctx)) throw new AppError('foreign-origin', origin);
    if (!reads && ctx.get('Sec-Fetch-Site') === 'cross-site') {
      throw new AppError('foreign-origin');
    }
    return next();
  };

const isLoopbackAddress = (address: string | undefined) =>
  address === '127.0.0.1' || address === '::1' || address === '::ffff:127.0.0.1';

/**
 * Whether a request comes from this machine and asks for it by name. The name is checked too: a page
 * elsewhere can have its own name lead here (DNS rebinding), but not change what the browser asks for.
 */
const isFromHere = (ctx: Context): boolean =>
  isLoopbackAddress(ctx.req.socket.remoteAddress) &&
  ['127.0.0.1', 'localhost', '[::1]'].includes(ctx.host.replace(/:\d+$/, ''));

/** Finds out whether the caller is signed in: by a session's cookie, or in the demo by being on this machine. */
export const sessions =
  (accounts: AccountStore, demo: boolean): Middleware =>
  async (ctx, next) => {
    const token = ctx.cookies.get(COOKIE) ?? null;
    const state = ctx.state as State;
    state.session = token;
    state.cookie = (name) => ctx.cookies.get(name) ?? null;
    state.teacher =
      (demo && isFromHere(ctx)) || (token !== null && (await accounts.isSession(token)));
    await next();
  };

/** Leaves a cookie with the browser that only this server can read; null takes it away. `days`: or until the browser is closed. */
export const setCookie = (
  ctx: Context,
  name: string,
  value: string | null,
  front: Front,
  days: number | 'session',
) => {
  // The way here is by TLS, though its last stretch may not be.
  if (front.secure) ctx.cookies.secure = true;
  ctx.cookies.set(name, value, {
    httpOnly: true,
    sameSite: 'strict',
    secure: front.secure || ctx.secure,
    overwrite: true,
    ...(value === null || days === 'session' ? {} : { maxAge: days * 86_400_000 }),
  });
};

/**
 * Leaves a cookie that comes back from a frame in another site's page too, in that page's own partition (CHIPS); null takes it away.
 * Browsers take it over TLS, or from this machine.
 */
export const setFrameCookie = (
  ctx: Context,
  name: string,
  value: string | null,
  seconds: number,
): void => {
  ctx.cookies.secure = true;
  ctx.cookies.set(name, value, {
    ...{ httpOnly: true, sameSite: 'none', secure: true, partitioned: true, overwrite: true },
    ...(value === null ? {} : { maxAge: seconds * 1_000 }),
  });
};

/** Leaves a session with the browser; a null token takes it away. */
export const setSessionCookie = (ctx: Context, token: string | null, front: Front): void =>
  setCookie(ctx, COOKIE, token, front, 30);

/** Marks a browser in which the teacher has signed in before. It opens nothing. */
export const setKnownCookie = (ctx: Context, mark: string, front: Front): void =>
  setCookie(ctx, KNOWN, mark, front, 365);

export const knownMark = (ctx: Context): string | null => ctx.cookies.get(KNOWN) ?? null;

/** The /64 network of an IPv6 address: four groups of hexadecimal digits. */
const networkOf = (address: string): string => {
  const [head = '', tail] = address.split('%')[0]!.split('::');
  const groups = head.split(':').filter(Boolean);
  // `::` stands for the missing groups of zeros.
  const missing =
    tail === undefined ? 0 : 8 - groups.length - tail.split(':').filter(Boolean).length;
  const all = [
    ...groups,
    ...Array<string>(Math.max(0, missing)).fill('0'),
    ...(tail ?? '').split(':'),
  ];
  return `${all
    .slice(0, 4)
    .map((group) => group.replace(/^0+(?=.)/, '').toLowerCase())
    .join(':')}::/64`;
};

/**
 * The address of whoever asks. Servers that stand before this one say for whom they ask, each adding to the
 * right of a list; only what trusted ones have added is believed. IPv6 addresses are
 * reduced to their /64 network, because one subscriber has all addresses in it.
 */
export const callerOf = (ctx: Context, { proxies }: Front): string => {
  const plain = (address: string) => address.replace(/^::ffff:/, '');
  const passed = ctx
    .get('X-Forwarded-For')
    .split(',')
    .flatMap((one) => plain(one.trim()) || []);
  let caller = plain(ctx.req.socket.remoteAddress ?? '');
  while (proxies.includes(caller) && passed.length > 0) caller = passed.pop()!;
  return isIPv6(caller) ? networkOf(caller) : caller;
};
