import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** A mistake, at the moment it was noticed: it lies before this. */
export const flubSchema = z.object({ takeId: idSchema, atUs: usSchema }).readonly();
export type Flub = z.infer<typeof flubSchema>;

/** Moments at which the teacher noticed a mistake. */
export const flubsSlice = sliceOf('flubs', z.array(flubSchema).readonly(), []);
