import * as z from 'zod';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches of which nothing is heard. By take and time, disjoint (`time/timeline`). */
export const silencedSlice = sliceOf('silenced', z.array(stretchSchema).readonly(), []);
