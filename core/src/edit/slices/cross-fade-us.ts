import { usSchema } from '../../lesson/take';
import { sliceOf } from '../slice';

/** How long one picture goes over into the other where something was cut, µs; 0: not at all. */
export const crossFadeUsSlice = sliceOf('crossFadeUs', usSchema, 0);
