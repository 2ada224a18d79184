import type { Context } from 'koa';
import type { Person } from './course';

export const textOf = (value: unknown): string => (typeof value === 'string' ? value : '');

export const bodyOf = (ctx: Context): Record<string, unknown> => {
  const { body } = ctx.request as { body?: unknown };
  return body !== null && typeof body === 'object' ? (body as Record<string, unknown>) : {};
};

/** The leave that a tool shows (RFC 6750); empty: none. */
export const leaveIn = (ctx: Context): string =>
  /^Bearer (.+)$/.exec(ctx.get('Authorization'))?.[1] ?? '';

export const html = (ctx: Context, body: string): void => {
  ctx.type = 'html';
  ctx.body = body;
};

/** Does something for those who have said who they are; others are asked. */
export type Known = (
  work: (ctx: Context, who: Person) => Promise<void> | void,
) => (raw: unknown) => Promise<void>;
