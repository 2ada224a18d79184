import * as z from 'zod';
import { savedLayoutSchema, savedLayoutsSchema } from '../lesson/saved-layout';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';

export const LAYOUTS = define({
  layouts: {
    method: 'get',
    path: '/api/layouts',
    summary: 'The teacher’s own layouts, kept for all lessons, in the order they were kept.',
    answer: savedLayoutsSchema,
  },
  saveLayout: {
    method: 'post',
    path: '/api/layouts',
    summary: 'Keep a layout under a name, or change the one with its id.',
    body: savedLayoutSchema,
    answer: savedLayoutsSchema,
  },
  deleteLayout: {
    method: 'delete',
    path: '/api/layouts/:layoutId',
    summary: 'Keep a layout no longer. What was arranged with it stays as it is.',
    params: z.object({ layoutId: idSchema }),
    answer: savedLayoutsSchema,
  },
});
