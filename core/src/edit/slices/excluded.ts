import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Places that are left out of the film; they keep their rank and their trim. */
export const excludedSlice = sliceOf('excluded', z.array(idSchema).readonly(), []);
