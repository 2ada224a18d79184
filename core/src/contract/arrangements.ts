import * as z from 'zod';
import { keptArrangementSchema, keptArrangementsSchema } from '../lesson/kept-arrangement';
import { idSchema } from '../lesson/take';
import { define } from './endpoint';

export const ARRANGEMENTS = define({
  arrangements: {
    method: 'get',
    path: '/api/arrangements',
    summary: 'The teacher’s own arrangements, kept for all lessons, in the order they were kept.',
    answer: keptArrangementsSchema,
  },
  keepArrangement: {
    method: 'post',
    path: '/api/arrangements',
    summary: 'Keep an arrangement under a name, or change the one with its id.',
    body: keptArrangementSchema,
    answer: keptArrangementsSchema,
  },
  forgetArrangement: {
    method: 'delete',
    path: '/api/arrangements/:arrangementId',
    summary: 'Keep an arrangement no longer. What was arranged with it stays as it is.',
    params: z.object({ arrangementId: idSchema }),
    answer: keptArrangementsSchema,
  },
});
