import * as z from 'zod';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches of which nothing is heard. By take and time, disjoint (`time/timeline`). */
export const mutedSlice = sliceOf('muted', z.array(stretchSchema).readonly(), []);
