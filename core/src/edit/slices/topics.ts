import * as z from 'zod';
import { topicSchema } from '../../plan/topic';
import { sliceOf } from '../slice';

/** What to cover. Ordered by rank, not by place in the list. */
export const topicsSlice = sliceOf('topics', z.array(topicSchema).readonly(), []);
