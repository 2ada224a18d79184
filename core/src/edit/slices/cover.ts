import { coverSchema, FOUND_COVER } from '../../lesson/cover';
import { sliceOf } from '../slice';

/** The still picture that the film is known by. */
export const coverSlice = sliceOf('cover', coverSchema, FOUND_COVER);
