import * as z from 'zod';
import { placementSchema } from '../../lesson/placement';
import { sliceOf } from '../slice';

/** Places in the film, those that are left out too. Ordered by rank, not by place in the list. */
export const placementsSlice = sliceOf('placements', z.array(placementSchema).readonly(), []);
