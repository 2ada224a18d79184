import { problemSchema, TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';

/** The code of an error, for the table of sentences. */
export const codeOf = (error: unknown): string =>
  error instanceof TellableError ? error.code : 'unexpected';

/** The moment that an error is about, where it is about one: ISO 8601 in UTC. */
export const whenOf = (error: unknown): string | null =>
  error instanceof TellableError ? error.when : null;

/** @throws TellableError what the server answered, or `server-unreachable` */
export const send = async (path: string, init: RequestInit): Promise<Response> => {
  const response = await fetch(path, init).catch((error: unknown) => {
    throw new TellableError('server-unreachable', path, { cause: error });
  });
  if (response.ok) return response;
  const problem = problemSchema.safeParse(await response.json().catch(() => null));
  if (problem.success) {
    const { code, when = null } = problem.data;
    // A newer server may have codes that this page doesn't know: they are shown as `unexpected`.
    throw new TellableError(code as ErrorCode, path, { when });
  }
  // Not our server's words: something between here and there answered for it.
  throw new TellableError(response.status >= 500 ? 'server-unreachable' : 'unexpected', path);
};
