import { frameSchema, NEW_FRAME } from '../../lesson/frame';
import { sliceOf } from '../slice';

/** The output picture: its shape, what lies behind the pictures, and the room round them. */
export const frameSlice = sliceOf('frame', frameSchema, NEW_FRAME);
