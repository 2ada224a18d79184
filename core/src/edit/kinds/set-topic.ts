import * as z from 'zod';
import { topicSchema } from '../../plan/topic';
import { kindOf, never } from '../kind';
import { topicsSlice } from '../slices/topics';

/** Puts a topic into the outline, or changes it. */
export const setTopic = kindOf({
  schema: z.object({ do: z.literal('set-topic'), topic: topicSchema }),
  slice: topicsSlice,
  apply: (before, { topic }) => [...before.filter(({ id }) => id !== topic.id), topic],
  touches: ({ topic: { id, rank, ...words } }) => [
    { slot: `topic ${id}`, value: words },
    { slot: `rank ${id}`, value: rank },
  ],
  isUndoable: never,
  inWords: () => 'wrote a topic',
});
