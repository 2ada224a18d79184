import * as z from 'zod';
import { savedStyleSchema, savedStylesSchema } from '../lesson/saved-style';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';

export const SAVED_STYLES = define({
  savedStyles: {
    method: 'get',
    path: '/api/savedStyles',
    summary: 'The teacher’s styles, in the order they were kept.',
    answer: savedStylesSchema,
  },
  keepSavedStyle: {
    method: 'post',
    path: '/api/savedStyles',
    summary: 'Keep a style under a name, or change the one with its id.',
    body: savedStyleSchema,
    answer: savedStylesSchema,
  },
  forgetSavedStyle: {
    method: 'delete',
    path: '/api/savedStyles/:savedStyleId',
    summary: 'Keep a style no longer. Lessons that have it stay as they are.',
    params: z.object({ savedStyleId: idSchema }),
    answer: savedStylesSchema,
  },
});
