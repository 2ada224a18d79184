import type Router from '@koa/router';
import {
  ENDPOINTS,
  type AnswerOf,
  type BodyOf,
  type EndpointName,
  type ParamsOf,
} from '@under-chalk/core/contract/api';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Context } from 'koa';
import type * as z from 'zod';
import type { State } from './context';
import type { Door, WhoOf } from './who';

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

type FromOf<N extends EndpointName> = (typeof ENDPOINTS)[N] extends {
  from: infer F extends 'student' | 'person' | 'anyone';
}
  ? F
  : undefined;

export interface Call<N extends EndpointName> {
  readonly who: WhoOf<FromOf<N>>;
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
  if (!result.success) throw new AppError(missing, result.error.message);
  return result.data;
};

/** Binds a handler to an endpoint of the contract. */
export type On = <N extends EndpointName>(
  name: N,
  /** Gives the answer; undefined when it has sent a file itself. */
  handle: (call: Call<N>) => Promise<AnswerOf<N> extends never ? void : AnswerOf<N>>,
) => void;

/**
 * Binds handlers to endpoints. Before one is called, its parameters, query and body are checked, and so is who
 * asks, at the one door.
 */
export const routesOn =
  (router: Router, door: Door): On =>
  (name, handle) => {
    const endpoint: Endpoint = ENDPOINTS[name];
    router[endpoint.method](endpoint.path, async (ctx) => {
      type N = typeof name;
      const state = ctx.state as State;
      // Strangers hear nothing of what is wrong with what they ask for.
      const asked = ctx.params as Record<string, string>;
      const who = await door(state, endpoint.from, asked);
      const answer = await handle({
        who: who as Call<N>['who'],
        params: check(endpoint.params, asked, 'not-found') as ParamsOf<N>,
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
