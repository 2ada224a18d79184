import { licenceSchema } from '../../lesson/licence';
import { sliceOf } from '../slice';

/** What others may do with the film; null: nothing is said. */
export const licenceSlice = sliceOf('licence', licenceSchema.nullable(), null);
