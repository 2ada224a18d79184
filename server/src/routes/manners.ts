import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const mannerRoutes = (on: On, { manners }: Parts): void => {
  on('manners', () => manners.all());

  on('keepManner', ({ body }) => manners.keep(body));

  on('forgetManner', ({ params }) => manners.forget(params.mannerId));
};
