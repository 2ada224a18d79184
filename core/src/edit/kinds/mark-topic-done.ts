import * as z from 'zod';
import { idSchema, usSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { topicsDoneSlice } from '../slices/topics-done';

/** Ticks a topic off; again: at the later moment instead. */
export const markTopicDone = kindOf({
  schema: z.object({
    do: z.literal('mark-topic-done'),
    topicId: idSchema,
    takeId: idSchema,
    atUs: usSchema,
  }),
  slice: topicsDoneSlice,
  apply: (before, { topicId, takeId, atUs }) => [
    ...before.filter((tick) => tick.topicId !== topicId),
    { topicId, takeId, atUs },
  ],
  touches: ({ topicId, takeId, atUs }) => [{ slot: `tick ${topicId}`, value: [takeId, atUs] }],
  isUndoable: never,
  inWords: () => 'ticked a topic off',
});
