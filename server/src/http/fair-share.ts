import { AppError } from '@under-chalk/core/errors/errors';
import type { Context, Middleware } from 'koa';

/** Most requests of one address that are worked on at a time: a class behind one router, all pressing at once. */
const MOST_OF_ONE = 100;

/**
 * Refuses what one address sends while many of its requests are being worked on, before anything is read of it: whoever sends
 * thousands at once keeps nobody else waiting.
 *
 * @param addressOf who asks; null: not limited
 * @throws AppError `too-busy`
 */
export const fairShare = (
  addressOf: (ctx: Context) => string | null,
  most = MOST_OF_ONE,
): Middleware => {
  const working = new Map<string, number>();
  return async (ctx, next) => {
    const address = addressOf(ctx as Context);
    if (address === null) return next();
    const now = working.get(address) ?? 0;
    if (now >= most) {
      ctx.set('Retry-After', '5');
      throw new AppError('too-busy', address);
    }
    working.set(address, now + 1);
    try {
      await next();
    } finally {
      const left = working.get(address)! - 1;
      if (left > 0) working.set(address, left);
      else working.delete(address);
    }
  };
};
