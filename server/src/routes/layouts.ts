import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const layoutRoutes = (on: On, { layouts }: Parts): void => {
  on('layouts', () => layouts.all());

  on('saveLayout', ({ body }) => layouts.keep(body));

  on('deleteLayout', ({ params }) => layouts.forget(params.layoutId));
};
