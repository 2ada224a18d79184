import { ERRORS, AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import type { Middleware } from 'koa';
import { factsOf, isGone } from '../error-facts';
import type { State } from './context';
import { routeOf } from './request-log';

const isMissingFile = (error: unknown): boolean => factsOf(error).code === 'ENOENT';

const codeOf = (error: unknown): ErrorCode => {
  if (error instanceof AppError) return error.code;
  const { code, status } = factsOf(error);
  if (isDiskFull(error)) return 'disk-full';
  if (isMissingFile(error)) return 'not-found';
  // A body that is compressed in another way than it says (zlib.h; Brotli's decoder).
  if (code?.startsWith('Z_') || code?.startsWith('ERR_BROTLI_')) return 'bad-request';
  if (status === 404) return 'not-found';
  if (status === 413) return 'too-large';
  if (status !== null && status >= 400 && status < 500) return 'bad-request';
  return 'unexpected';
};

/** Answers every error from the one table, and writes down those that nobody expected. */
export const problems = (): Middleware => async (ctx, next) => {
  try {
    await next();
    if (ctx.status === 404 && ctx.body == null && ctx.respond !== false) {
      throw new AppError('not-found');
    }
  } catch (error) {
    const code = codeOf(error);
    const { log } = ctx.state as State;
    if (code === 'unexpected' && !isGone(error)) log.error(routeOf(ctx), error);
    // Whoever asks is told that it isn't there; that it should be is for whoever runs the server.
    if (isMissingFile(error)) log.error(`${routeOf(ctx)} misses a file`, error);
    if (code === 'disk-full') log.warn(`${routeOf(ctx)} found the disk full`);
    const told: { message: string; hint: string; status?: number } = ERRORS[code];
    ctx.status = told.status ?? 500;
    ctx.set('Cache-Control', 'no-store');
    const when = error instanceof AppError ? error.when : null;
    ctx.body = {
      ...{ code, message: told.message, hint: told.hint },
      ...(when === null ? {} : { when }),
    };
  }
};
