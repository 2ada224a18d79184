import * as z from 'zod';
import { writtenCueSchema } from '../../words/cue';
import { sliceOf } from '../slice';

/** All that is said, in words, in each language: in the order of `words/cue`. */
export const cuesSlice = sliceOf('cues', z.array(writtenCueSchema).readonly(), []);
