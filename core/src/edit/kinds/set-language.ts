import * as z from 'zod';
import { languageSchema } from '../../words/cue';
import { always, kindOf } from '../kind';
import { languageSlice } from '../slices/language';

/** Says which language is spoken in the lesson. */
export const setLanguage = kindOf({
  schema: z.object({ do: z.literal('set-language'), language: languageSchema }),
  slice: languageSlice,
  apply: (_, { language }) => language,
  touches: ({ language }) => [{ slot: 'spoken language', value: language }],
  isUndoable: always,
  inWords: () => 'said which language is spoken',
});
