import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { topicsSlice } from '../slices/topics';

/** Takes a topic out of the outline. */
export const removeTopic = kindOf({
  schema: z.object({ do: z.literal('remove-topic'), topicId: idSchema }),
  slice: topicsSlice,
  apply: (before, { topicId }) => before.filter(({ id }) => id !== topicId),
  touches: ({ topicId }) => [
    { slot: `topic ${topicId}`, value: null },
    { slot: `rank ${topicId}`, value: null },
  ],
  isUndoable: never,
  inWords: () => 'removed a topic',
});
