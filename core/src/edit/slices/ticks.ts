import * as z from 'zod';
import { tickSchema } from '../../plan/point';
import { sliceOf } from '../slice';

/** Which points were ticked off and when; one of each at most. */
export const ticksSlice = sliceOf('ticks', z.array(tickSchema).readonly(), []);
