import { randomUUID } from 'node:crypto';
import type { Middleware } from 'koa';
import type { Log } from '../log';
import type { State } from './context';

/** The path as the contract has it: what stands in its parameters (a link's token) is nobody's business. */
export const routeOf = (ctx: { routerPath?: unknown; path: string; method: string }): string => {
  const pattern = typeof ctx.routerPath === 'string' ? ctx.routerPath : null;
  return `${ctx.method} ${pattern ?? ctx.path.split('/').slice(0, 3).join('/')}`;
};

/**
 * Gives each request a name, which is in every line that is written down about it and goes back with the answer,
 * so that who reports a problem can say which.
 */
export const requestLog =
  (log: Log): Middleware =>
  async (ctx, next) => {
    const id = randomUUID();
    (ctx.state as State).log = log.with({ request: id });
    ctx.set('X-Request-Id', id);
    await next();
  };
