import type { Middleware } from 'koa';
import sirv from 'sirv';

const YEAR_S = 31_536_000;

/** Names under these folders carry a hash of what is in them. */
const isHashed = (path: string) =>
  ['/_expo/', '/assets/', '/watch/', '/fonts/'].some((folder) => path.startsWith(folder));

/**
 * Serves the built app, compressed where there is a compressed copy. Addresses without an extension are the
 * app's own and get its page.
 */
export const staticApp = (folder: string): Middleware => {
  const serve = sirv(folder, {
    single: true,
    // What looks like a file is one, or there is none.
    ignores: [/\.[^/]*$/],
    gzip: true,
    brotli: true,
    etag: true,
    setHeaders: (response, path) =>
      response.setHeader(
        'Cache-Control',
        isHashed(path) ? `public, max-age=${YEAR_S}, immutable` : 'no-cache',
      ),
  });
  return async (ctx, next) => {
    const reads = ctx.method === 'GET' || ctx.method === 'HEAD';
    if (!reads || ctx.path.startsWith('/api/')) return next();
    const found = await new Promise<boolean>((resolve) => {
      ctx.res.statusCode = 200;
      ctx.res.once('close', () => resolve(true));
      ctx.res.once('finish', () => resolve(true));
      serve(ctx.req, ctx.res, () => resolve(false));
    });
    if (found) ctx.respond = false;
    else {
      ctx.status = 404;
      await next();
    }
  };
};
