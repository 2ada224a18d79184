import * as z from 'zod';
import { audioDescriptionSchema } from '../../words/audio-description';
import { sliceOf } from '../slice';

/** What is seen, in words, by take and time. */
export const audioDescriptionsSlice = sliceOf(
  'audioDescriptions',
  z.array(audioDescriptionSchema).readonly(),
  [],
);
