import * as z from 'zod';
import { interactionSchema } from '../../interaction/interaction';
import { sliceOf } from '../slice';

/** Interactions, by take and time. */
export const interactionsSlice = sliceOf('interactions', z.array(interactionSchema).readonly(), []);
