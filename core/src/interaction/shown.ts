import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import type { Asked, FilmInteraction } from './interaction';

/** Most that can be chosen from. */
export const MOST_OPTIONS = 8;

const shownOptionsSchema = z.array(z.string()).readonly();
const shownAskedSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('one'), options: shownOptionsSchema }).readonly(),
  z.object({ by: z.literal('several'), options: shownOptionsSchema }).readonly(),
  z.object({ by: z.literal('words') }).readonly(),
  z.object({ by: z.literal('number'), unit: z.string() }).readonly(),
]);
export type ShownAsked = z.infer<typeof shownAskedSchema>;

/** An interaction of a film as a student is shown it: nothing in it says what is right. */
export const shownInteractionSchema = z
  .object({
    id: idSchema,
    filmUs: usSchema,
    text: z.string(),
    does: z.discriminatedUnion('is', [
      z
        .object({ is: z.literal('question'), asked: shownAskedSchema, waits: z.boolean() })
        .readonly(),
      z.object({ is: z.literal('note') }).readonly(),
      z.object({ is: z.literal('link'), address: z.string() }).readonly(),
      z.object({ is: z.literal('pause') }).readonly(),
    ]),
  })
  .readonly();
export type ShownInteraction = z.infer<typeof shownInteractionSchema>;

const shownAsked = (asked: Asked): ShownAsked => {
  switch (asked.by) {
    case 'one':
    case 'several':
      return { by: asked.by, options: asked.options.map(({ text }) => text) };
    case 'words':
      return asked;
    case 'number':
      return { by: 'number', unit: asked.unit };
  }
};

export const shownInteraction = ({
  id,
  filmUs,
  text,
  does,
}: FilmInteraction): ShownInteraction => ({
  ...{ id, filmUs, text },
  does:
    does.is === 'question'
      ? { is: 'question', asked: shownAsked(does.asked), waits: does.waits }
      : does,
});
