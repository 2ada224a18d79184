import { TellableError } from '@under-chalk/core/errors/errors';
import type { Context, Middleware } from 'koa';
import type { AccountStore } from '../store/account-store';
import type { State } from './context';

const COOKIE = 'under-chalk-session';

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
  "frame-ancestors 'none'",
].join('; ');

/** Headers that keep other sites out of this one. */
export const headers: Middleware = async (ctx, next) => {
  ctx.set({
    'Content-Security-Policy': POLICY,
    'X-Content-Type-Options': 'nosniff',
    // A watch page's address is its key: it must not travel to where its links lead.
    'Referrer-Policy': 'no-referrer',
    'Permissions-Policy': 'camera=(self), microphone=(self), display-capture=(self)',
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Robots-Tag': 'noindex',
  });
  await next();
};

/** Refuses changes asked for by another site's page (RFC 6454), beside the same-site cookie. */
export const ownOriginOnly: Middleware = async (ctx, next) => {
  const origin = ctx.get('Origin');
  const reads = ctx.method === 'GET' || ctx.method === 'HEAD';
  if (!reads && origin !== '' && URL.parse(origin)?.host !== ctx.host) {
    throw new TellableError('foreign-origin', origin);
  }
  if (!reads && ctx.get('Sec-Fetch-Site') === 'cross-site') {
    throw new TellableError('foreign-origin');
  }
  await next();
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
    state.token = token;
    state.signedIn =
      (demo && isFromHere(ctx)) || (token !== null && (await accounts.isSession(token)));
    await next();
  };

/** Leaves a session with the browser; a null token takes it away. */
export const setSessionCookie = (ctx: Context, token: string | null): void => {
  ctx.cookies.set(COOKIE, token, {
    httpOnly: true,
    sameSite: 'strict',
    secure: ctx.secure,
    overwrite: true,
    ...(token ? { maxAge: 30 * 86_400_000 } : {}),
  });
};

/** Counts failed tries by caller; more than `most` in `windowMs` and the caller has to wait. */
export class TryLimit {
  readonly #most: number;
  readonly #windowMs: number;
  readonly #failed = new Map<string, number[]>();

  constructor(most: number, windowMs: number) {
    this.#most = most;
    this.#windowMs = windowMs;
  }

  /** @throws TellableError `too-many-tries` */
  check(caller: string, now = Date.now()): void {
    const recent = (this.#failed.get(caller) ?? []).filter((at) => at > now - this.#windowMs);
    if (recent.length === 0) this.#failed.delete(caller);
    else this.#failed.set(caller, recent);
    if (recent.length >= this.#most) throw new TellableError('too-many-tries');
  }

  failed(caller: string, now = Date.now()): void {
    this.#failed.set(caller, [...(this.#failed.get(caller) ?? []), now]);
  }

  forget(caller: string): void {
    this.#failed.delete(caller);
  }
}
