import { FIRST_LOOK, pointerLookSchema } from '../../pointer/look';
import { sliceOf } from '../slice';

/** How what is pointed at is drawn. */
export const pointerSlice = sliceOf('pointer', pointerLookSchema, FIRST_LOOK);
