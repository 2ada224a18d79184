import { ERRORS, TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import type { Middleware } from 'koa';
import type { State } from './context';
import { routeOf } from './request-log';

const codeOf = (error: unknown): ErrorCode => {
  if (error instanceof TellableError) return error.code;
  const { code, status } = (error ?? {}) as { code?: string; status?: number };
  if (isDiskFull(error)) return 'disk-full';
  if (code === 'ENOENT') return 'not-found';
  // A body that says it is compressed and isn't (zlib.h).
  if (code?.startsWith('Z_')) return 'bad-request';
  if (status === 404) return 'not-found';
  if (status === 413) return 'too-large';
  if (status !== undefined && status >= 400 && status < 500) return 'bad-request';
  return 'unexpected';
};

/** Answers every error from the one table, and writes down those that nobody expected. */
export const problems = (): Middleware => async (ctx, next) => {
  try {
    await next();
    if (ctx.status === 404 && ctx.body == null && ctx.respond !== false) {
      throw new TellableError('not-found');
    }
  } catch (error) {
    const code = codeOf(error);
    const { log } = ctx.state as State;
    if (code === 'unexpected') log.error(routeOf(ctx), error);
    if (code === 'disk-full') log.warn(`${routeOf(ctx)} found the disk full`);
    const told: { sentence: string; next: string; status?: number } = ERRORS[code];
    ctx.status = told.status ?? 500;
    ctx.set('Cache-Control', 'no-store');
    const when = error instanceof TellableError ? error.when : null;
    ctx.body = {
      ...{ code, sentence: told.sentence, next: told.next },
      ...(when === null ? {} : { when }),
    };
  }
};
