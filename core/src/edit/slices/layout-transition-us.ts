import { usSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** Length of the soft change between two layouts, µs; 0 is a hard one. */
export const layoutTransitionUsSlice = sliceOf('layoutTransitionUs', usSchema, 500_000);
