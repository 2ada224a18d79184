import { LEFT_AS_IT_IS, pointerLookSchema } from '../../pointer/look';
import { sliceOf } from '../slice';

/** What is drawn round the pointer that was seen in captured screens. */
export const screenPointerSlice = sliceOf('screenPointer', pointerLookSchema, LEFT_AS_IT_IS);
