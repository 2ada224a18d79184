import type { MadeArchive } from '../jobs/made-archive';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Context } from 'koa';
import send from 'send';
import { basename, dirname } from 'node:path';

interface FileAnswer {
  readonly type: string;
  /** `for-ever`: what is under this address never changes. `never`: it can be taken away. */
  readonly keep: 'for-ever' | 'never';
  /** Name to save it under; absent: shown in place. */
  readonly saveAs?: string;
}

/** RFC 6266 §4.3: a plain name for old clients, and the real one. */
const disposition = (name: string) =>
  `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\%]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`;

/** Has an answer saved under a name, and not shown in place. */
export const saveAs = (ctx: Context, name: string): void => {
  ctx.set('Content-Disposition', disposition(name));
};

/** Sends a file of ours, whole or the range that is asked for (RFC 9110 §14). The path is never from a request. */
export const sendFile = (ctx: Context, path: string, answer: FileAnswer): Promise<void> =>
  new Promise((resolve, reject) => {
    ctx.respond = false;
    const { res } = ctx;
    res.statusCode = 200;
    res.setHeader('Content-Type', answer.type);
    res.setHeader(
      'Cache-Control',
      answer.keep === 'for-ever' ? 'private, max-age=31536000, immutable' : 'private, no-cache',
    );
    if (answer.saveAs) res.setHeader('Content-Disposition', disposition(answer.saveAs));
    send(ctx.req, encodeURIComponent(basename(path)), {
      root: dirname(path),
      cacheControl: false,
      dotfiles: 'deny',
      index: false,
    })
      .on('error', (error: NodeJS.ErrnoException & { status?: number }) => {
        if (error.status === 416) {
          res.statusCode = 416;
          res.end();
          resolve();
          return;
        }
        ctx.respond = true;
        ctx.remove('Content-Disposition');
        reject(error.status === 404 ? new AppError('not-found') : error);
      })
      .on('directory', () => reject(new AppError('not-found')))
      .pipe(res);
    res.once('close', resolve);
  });

/** Answers with an archive, written while it is sent, to be saved under a name. */
export const sendArchive = (ctx: Context, name: string, { bytes, stream }: MadeArchive): void => {
  saveAs(ctx, name);
  ctx.type = 'application/zip';
  ctx.length = bytes;
  ctx.body = stream;
};
