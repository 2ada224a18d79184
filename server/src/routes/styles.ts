import type { Parts } from '../http/context';
import type { On } from '../http/route';

export const savedStyleRoutes = (on: On, { savedStyles }: Parts): void => {
  on('savedStyles', () => savedStyles.all());

  on('keepSavedStyle', ({ body }) => savedStyles.keep(body));

  on('forgetSavedStyle', ({ params }) => savedStyles.forget(params.savedStyleId));
};
