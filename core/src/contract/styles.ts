import * as z from 'zod';
import { savedStyleSchema, savedStylesSchema } from '../lesson/saved-style';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';

export const SAVED_STYLES = define({
  styles: {
    method: 'get',
    path: '/api/styles',
    summary: 'The teacher’s styles, in the order they were kept.',
    answer: savedStylesSchema,
  },
  saveStyle: {
    method: 'post',
    path: '/api/styles',
    summary: 'Keep a style under a name, or change the one with its id.',
    body: savedStyleSchema,
    answer: savedStylesSchema,
  },
  deleteStyle: {
    method: 'delete',
    path: '/api/styles/:savedStyleId',
    summary: 'Keep a style no longer. Lessons that have it stay as they are.',
    params: z.object({ savedStyleId: idSchema }),
    answer: savedStylesSchema,
  },
});
