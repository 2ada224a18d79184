import * as z from 'zod';
import {
  destinationIdSchema,
  destinationSchema,
  destinationsSchema,
} from '../destination/destination';
import { define } from './endpoint';

export const DESTINATIONS = define({
  destinations: {
    method: 'get',
    path: '/api/destinations',
    summary: 'Where films go, with the limits of each place, and where attention usually ends.',
    answer: destinationsSchema,
  },
  setDestination: {
    method: 'post',
    path: '/api/destinations',
    summary: 'Add a destination, or change the one with its id.',
    body: destinationSchema,
    answer: destinationsSchema,
  },
  removeDestination: {
    method: 'delete',
    path: '/api/destinations/:destinationId',
    summary: 'Remove a destination. Lessons that go there then have no limits.',
    params: z.object({ destinationId: destinationIdSchema }),
    answer: destinationsSchema,
  },
  setAttention: {
    method: 'post',
    path: '/api/attention',
    summary: 'Set where attention usually ends, µs.',
    body: destinationsSchema.pick({ attentionUs: true }),
    answer: destinationsSchema,
  },
});
