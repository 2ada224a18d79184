import type { Middleware } from 'koa';
import send from 'koa-send';
import { extname } from 'node:path';

/** Serves the built app. Addresses without an extension are the app's own and get its page. */
export const staticApp =
  (folder: string): Middleware =>
  async (ctx, next) => {
    if ((ctx.method !== 'GET' && ctx.method !== 'HEAD') || ctx.path.startsWith('/api/')) {
      return next();
    }
    const page = extname(ctx.path) === '';
    const hashed = ctx.path.startsWith('/_expo/') || ctx.path.startsWith('/assets/');
    try {
      await send(ctx, page ? '/index.html' : ctx.path, {
        root: folder,
        // Names under these folders carry a hash of what is in them.
        ...(hashed ? { maxage: 31_536_000_000, immutable: true } : {}),
      });
      if (page) ctx.set('Cache-Control', 'no-cache');
    } catch (error) {
      // koa-send's own text tells the path on the disk.
      if ((error as { status?: number }).status !== 404) throw error;
    }
  };
