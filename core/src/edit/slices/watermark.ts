import { watermarkSchema } from '../../lesson/watermark';
import { sliceOf } from '../slice';

/** What lies over all of the film; null: nothing. */
export const watermarkSlice = sliceOf('watermark', watermarkSchema.nullable(), null);
