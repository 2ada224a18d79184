import { languageSchema } from '../../words/cue';
import { sliceOf } from '../slice';

/** The language that is spoken in the lesson. */
export const spokenSlice = sliceOf('spoken', languageSchema, 'en');
