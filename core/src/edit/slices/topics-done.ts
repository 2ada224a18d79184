import * as z from 'zod';
import { topicDoneSchema } from '../../plan/topic';
import { sliceOf } from '../slice';

/** Which topics were ticked off and when; one of each at most. */
export const topicsDoneSlice = sliceOf('topicsDone', z.array(topicDoneSchema).readonly(), []);
