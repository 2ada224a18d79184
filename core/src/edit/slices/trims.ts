import * as z from 'zod';
import { trimSchema } from '../../lesson/placement';
import { sliceOf } from '../slice';

/** What is kept at places of which not all is. */
export const trimsSlice = sliceOf('trims', z.array(trimSchema).readonly(), []);
