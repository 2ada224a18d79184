import * as z from 'zod';
import { mannerSchema, mannersSchema } from '../lesson/manner';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';

export const MANNERS = define({
  manners: {
    method: 'get',
    path: '/api/manners',
    summary: 'The teacher’s manners, in the order they were kept.',
    answer: mannersSchema,
  },
  keepManner: {
    method: 'post',
    path: '/api/manners',
    summary: 'Keep a manner under a name, or change the one with its id.',
    body: mannerSchema,
    answer: mannersSchema,
  },
  forgetManner: {
    method: 'delete',
    path: '/api/manners/:mannerId',
    summary: 'Keep a manner no longer. Lessons that have it stay as they are.',
    params: z.object({ mannerId: idSchema }),
    answer: mannersSchema,
  },
});
