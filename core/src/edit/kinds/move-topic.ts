import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { topicsSlice } from '../slices/topics';

/** Moves a topic in the outline. */
export const moveTopic = kindOf({
  schema: z.object({
    do: z.literal('move-topic'),
    topicId: idSchema,
    rank: z.number().finite(),
  }),
  slice: topicsSlice,
  apply: (before, { topicId, rank }) =>
    before.map((topic) => (topic.id === topicId ? { ...topic, rank } : topic)),
  touches: ({ topicId, rank }) => [{ slot: `rank ${topicId}`, value: rank }],
  isUndoable: never,
  inWords: () => 'moved a topic',
});
