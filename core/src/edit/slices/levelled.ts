import * as z from 'zod';
import { sliceOf } from '../slice';

/** Whether voices are brought to one level, the one that films usually have. */
export const levelledSlice = sliceOf('levelled', z.boolean(), true);
