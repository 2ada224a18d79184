import * as z from 'zod';
import { idSchema } from '../../lesson/take';
import { kindOf, never } from '../kind';
import { topicsDoneSlice } from '../slices/topics-done';

/** Takes a tick back. */
export const markTopicOpen = kindOf({
  schema: z.object({ do: z.literal('mark-topic-open'), topicId: idSchema }),
  slice: topicsDoneSlice,
  apply: (before, { topicId }) => before.filter((tick) => tick.topicId !== topicId),
  touches: ({ topicId }) => [{ slot: `tick ${topicId}`, value: null }],
  isUndoable: never,
  inWords: () => 'took a tick back',
});
