import { problemSchema, AppError, type ErrorCode } from '@under-chalk/core/errors/errors';

/** The code of an error, for the table of sentences. */
export const codeOf = (error: unknown): string =>
  error instanceof AppError ? error.code : 'unexpected';

/** The moment that an error is about, where it is about one: ISO 8601 in UTC. */
export const whenOf = (error: unknown): string | null =>
  error instanceof AppError ? error.when : null;

/** @throws AppError what the server answered, or `server-unreachable` */
export const send = async (path: string, init: RequestInit): Promise<Response> => {
  const response = await fetch(path, init).catch((error: unknown) => {
    throw new AppError('server-unreachable', path, { cause: error });
  });
  if (response.ok) return response;
  const problem = problemSchema.safeParse(await response.json().catch(() => null));
  if (problem.success) {
    const { code, when = null } = problem.data;
    // A newer server may have codes that this page doesn't know: they are shown as `unexpected`.
    throw new AppError(code as ErrorCode, path, { when });
  }
  // Not our server's words: something between here and there answered for it.
  throw new AppError(response.status >= 500 ? 'server-unreachable' : 'unexpected', path);
};
