import { arrangementSchema, RESTING_ARRANGEMENT } from '../../lesson/arrangement';
import { sliceOf } from '../slice';

/** The arrangement wherever no other is decided. */
export const restingSlice = sliceOf('resting', arrangementSchema, RESTING_ARRANGEMENT);
