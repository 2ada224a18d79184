import type Router from '@koa/router';
import {
  ENDPOINTS,
  type AnswerOf,
  type BodyOf,
  type EndpointName,
  type ParamsOf,
} from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { Context } from 'koa';
import type * as z from 'zod';
import type { State } from './context';

type QueryOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  query: infer Q extends z.ZodType;
}
  ? z.infer<Q>
  : undefined;

type ParsedBodyOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  body: infer B extends z.ZodType;
}
  ? z.output<B>
  : BodyOf<N>;

export interface Call<N extends EndpointName> {
  readonly params: ParamsOf<N>;
  readonly query: QueryOf<N>;
  readonly body: ParsedBodyOf<N>;
  readonly ctx: Context & { state: State };
}

const check = (
  schema: z.ZodType | undefined,
  value: unknown,
  missing: 'not-found' | 'bad-request',
) => {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (!result.success) throw new TellableError(missing, result.error.message);
  return result.data;
};

/**
 * Binds a handler to an endpoint of the contract. Parameters, query and body are checked before it is
 * called, and so is that the caller is signed in, unless the endpoint is open.
 *
 * @param handle gives the answer; undefined when it has sent a file itself
 */
export const route = <N extends EndpointName>(
  router: Router,
  name: N,
  handle: (call: Call<N>) => Promise<AnswerOf<N> extends never ? void : AnswerOf<N>>,
): void => {
  const endpoint: Endpoint = ENDPOINTS[name];
  router[endpoint.method](endpoint.path, async (ctx) => {
    const state = ctx.state as State;
    if (!endpoint.open && !state.signedIn) throw new TellableError('signed-out');
    const answer = await handle({
      params: check(endpoint.params, ctx.params, 'not-found') as ParamsOf<N>,
      query: check(endpoint.query, ctx.query, 'bad-request') as QueryOf<N>,
      body: check(
        endpoint.body,
        (ctx.request as { body?: unknown }).body,
        'bad-request',
      ) as ParsedBodyOf<N>,
      ctx: ctx as unknown as Call<N>['ctx'],
    });
    if (answer !== undefined) ctx.body = answer;
  });
};
