import * as z from 'zod';
import { momentSchema } from '../../moment/moment';
import { sliceOf } from '../slice';

/** What is asked or said at moments, by take and time. */
export const momentsSlice = sliceOf('moments', z.array(momentSchema).readonly(), []);
