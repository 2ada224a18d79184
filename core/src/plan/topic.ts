import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cleanLine, cleanText } from '../text/clean';

/** Something to cover in a lesson, with what to show for it and what to say. */
export const topicSchema = z
  .object({
    id: idSchema,
    text: z.string().overwrite(cleanLine).trim().max(200),
    /** An address or the name of a material to show; empty: none. */
    show: z.string().overwrite(cleanLine).trim().max(600),
    /** Words to read; empty: none. */
    words: z.string().overwrite(cleanText).max(20_000),
    /**
     * Its place among the others: lower comes first. A fraction between two neighbours puts it between
     * them, so that two tabs can move different topics without stepping on each other.
     */
    rank: z.number().finite(),
  })
  .readonly();
export type Topic = z.infer<typeof topicSchema>;

/** That a topic was ticked off, at a moment of a take: everything since the tick before was about it. */
export const topicDoneSchema = z
  .object({ topicId: idSchema, takeId: idSchema, atUs: usSchema })
  .readonly();
export type TopicDone = z.infer<typeof topicDoneSchema>;

/** Topics in their order. Equal ranks go by id, so that every tab shows the same order. */
export const inOrder = (topics: readonly Topic[]): Topic[] =>
  [...topics].sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));

/** The rank that puts something at an index of a list that it is not in. */
export const rankAt = (others: readonly Topic[], index: number): number => {
  const list = inOrder(others);
  const at = Math.min(list.length, Math.max(0, index));
  const before = list[at - 1]?.rank;
  const after = list[at]?.rank;
  if (before === undefined) return after === undefined ? 0 : after - 1;
  return after === undefined ? before + 1 : (before + after) / 2;
};

/** The first topic that has not been ticked off; null when all have, or there is none. */
export const nextTopic = (
  topics: readonly Topic[],
  topicsDone: readonly TopicDone[],
): Topic | null => {
  const done = new Set(topicsDone.map((tick) => tick.topicId));
  return inOrder(topics).find((topic) => !done.has(topic.id)) ?? null;
};

/** The address in what a topic shows, if it is one a browser can open (http or https); else null. */
export const addressIn = (show: string): string | null => {
  const text = /^[\w-]+(\.[\w-]+)+(\/|$)/.test(show) ? `https://${show}` : show;
  if (!/^https?:\/\//i.test(text)) return null;
  return URL.canParse(text) ? text : null;
};
