import * as z from 'zod';
import { destinationIdSchema, destinationSchema, placesSchema } from '../place/destination';
import { define } from './endpoint';

export const PLACES = define({
  places: {
    method: 'get',
    path: '/api/places',
    summary: 'Where films go, with the limits of each place, and where attention usually ends.',
    answer: placesSchema,
  },
  setPlace: {
    method: 'post',
    path: '/api/places',
    summary: 'Add a destination, or change the one with its id.',
    body: destinationSchema,
    answer: placesSchema,
  },
  removePlace: {
    method: 'delete',
    path: '/api/places/:destinationId',
    summary: 'Remove a destination. Lessons that go there then have no limits.',
    params: z.object({ destinationId: destinationIdSchema }),
    answer: placesSchema,
  },
  setAttention: {
    method: 'post',
    path: '/api/attention',
    summary: 'Set where attention usually ends, µs.',
    body: placesSchema.pick({ attentionUs: true }),
    answer: placesSchema,
  },
});
