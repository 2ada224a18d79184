import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const savedStyleRoutes = (on: On, { savedStyles }: Parts): void => {
  on('styles', () => savedStyles.all());

  on('saveStyle', ({ body }) => savedStyles.keep(body));

  on('deleteStyle', ({ params }) => savedStyles.forget(params.savedStyleId));
};
