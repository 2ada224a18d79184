import * as z from 'zod';
import { sliceOf } from '../slice';

/** By how much what the computer plays is lowered while somebody speaks over it, dB; 0: not at all. */
export const duckingDbSlice = sliceOf('duckingDb', z.number().int().min(0).max(40), 10);
