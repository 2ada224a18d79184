import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Takes whose sound stays as loud as it was recorded; that of all others is brought to one level. */
export const unlevelledSlice = sliceOf('unlevelled', z.array(idSchema).readonly(), []);
