import { ENDPOINTS, pathTo, type AnswerOf, type BodyOf, type EndpointName, type ParamsOf } from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { codeOf, send } from './fetch';

type Asked<N extends EndpointName> = (ParamsOf<N> extends undefined
  ? { readonly params?: undefined }
  : { readonly params: ParamsOf<N> }) &
  (BodyOf<N> extends undefined ? { readonly body?: undefined } : { readonly body: BodyOf<N> });

export { codeOf };

/** Asks the API. @throws AppError */
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

/** Fetches a file's bytes. @throws AppError */
export const bytesAt = async (path: string): Promise<Uint8Array> =>
  new Uint8Array(await (await send(path, {})).arrayBuffer());

/** Fetches a file of text. @throws AppError */
export const textAt = async (path: string): Promise<string> => (await send(path, {})).text();
