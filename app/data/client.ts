import { ENDPOINTS, pathTo, type AnswerOf, type BodyOf, type EndpointName, type ParamsOf } from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { isErrorCode, problemSchema, TellableError } from '@under-chalk/core/errors/errors';

type Asked<N extends EndpointName> = (ParamsOf<N> extends undefined
  ? { readonly params?: undefined }
  : { readonly params: ParamsOf<N> }) &
  (BodyOf<N> extends undefined ? { readonly body?: undefined } : { readonly body: BodyOf<N> });

/** The code of an error, for the table of sentences. */
export const codeOf = (error: unknown): string =>
  error instanceof TellableError ? error.code : 'unexpected';

/** @throws TellableError what the server answered, or `server-unreachable` */
const send = async (path: string, init: RequestInit): Promise<Response> => {
  const response = await fetch(path, init).catch((error: unknown) => {
    throw new TellableError('server-unreachable', path, { cause: error });
  });
  if (response.ok) return response;
  const problem = problemSchema.safeParse(await response.json().catch(() => null));
  if (problem.success && isErrorCode(problem.data.code)) {
    throw new TellableError(problem.data.code, path);
  }
  // Not our server's words: something between here and there answered for it.
  throw new TellableError(response.status >= 500 ? 'server-unreachable' : 'unexpected', path);
};

/** Asks the API. @throws TellableError */
export const call = async <N extends EndpointName>(
  name: N,
  ...[asked]: Record<string, never> extends Asked<N> ? [Asked<N>?] : [Asked<N>]
): Promise<AnswerOf<N>> => {
  const endpoint: Endpoint = ENDPOINTS[name];
  const body = asked?.body as unknown;
  const response = await send(pathTo(name, asked?.params as ParamsOf<N>), {
    method: endpoint.method.toUpperCase(),
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return endpoint.answer?.parse(await response.json()) as AnswerOf<N>;
};

/** Fetches a file's bytes. @throws TellableError */
export const bytesAt = async (path: string): Promise<Uint8Array> =>
  new Uint8Array(await (await send(path, {})).arrayBuffer());
