import * as z from 'zod';
import { languageSchema } from '../../words/cue';
import { always, kindOf } from '../kind';
import { spokenSlice } from '../slices/spoken';

/** Says which language is spoken in the lesson. */
export const speak = kindOf({
  schema: z.object({ do: z.literal('speak'), language: languageSchema }),
  slice: spokenSlice,
  apply: (_, { language }) => language,
  touches: ({ language }) => [{ slot: 'spoken language', value: language }],
  isUndoable: always,
  inWords: () => 'said which language is spoken',
});
