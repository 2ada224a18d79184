import * as z from 'zod';
import { pointSchema } from '../../plan/point';
import { sliceOf } from '../slice';

/** What to cover. Ordered by rank, not by place in the list. */
export const pointsSlice = sliceOf('points', z.array(pointSchema).readonly(), []);
