import { languageSchema } from '../../words/cue';
import { sliceOf } from '../slice';

/** The language that is spoken in the lesson. */
export const languageSlice = sliceOf('language', languageSchema, 'en');
