import { errorText, AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { isDiskFull } from '@under-chalk/render';
import type { ServerOptions } from '@tus/server';
import type { Log } from '../log';

/** A sender tries twice a second: that the disk is full is logged this often, ms. */
const SAY_AGAIN_MS = 60_000;

/** An answer in the form that the tus server turns errors into. */
export const refuse = (code: ErrorCode) => {
  const told = errorText(code);
  return {
    status_code: told.status ?? 500,
    body: JSON.stringify({ code, message: told.message, hint: told.hint }),
  };
};

/** What is told of an error while bytes come in: a code of the table, and nothing of this machine. */
export const toldByCode = (log: Log): NonNullable<ServerOptions['onResponseError']> => {
  let saidAt = -Infinity;
  const diskFull = () => {
    if (Date.now() - saidAt < SAY_AGAIN_MS) return;
    saidAt = Date.now();
    log.warn('uploads find the disk full; they are tried again until there is room');
  };
  return (request, error) => {
    // Words of the system tell paths of this machine.
    if ('status_code' in error) return undefined;
    if (error instanceof AppError) return refuse(error.code);
    const code = (error as NodeJS.ErrnoException).code;
    if (code === 'EEXIST') return refuse('exists-already');
    const full = isDiskFull(error);
    if (full) diskFull();
    else log.error(`${request.method} of an upload`, error);
    return refuse(full ? 'disk-full' : 'unexpected');
  };
};
