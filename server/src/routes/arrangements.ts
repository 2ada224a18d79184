import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const arrangementRoutes = (on: On, { arrangements }: Parts): void => {
  on('arrangements', () => arrangements.all());

  on('keepArrangement', ({ body }) => arrangements.keep(body));

  on('forgetArrangement', ({ params }) => arrangements.forget(params.arrangementId));
};
