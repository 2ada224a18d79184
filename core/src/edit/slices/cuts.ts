import * as z from 'zod';
import { stretchSchema } from '../../lesson/stretch';
import { sliceOf } from '../slice';

/** Stretches left out. By take and time, disjoint (`time/timeline`). */
export const cutsSlice = sliceOf('cuts', z.array(stretchSchema).readonly(), []);
