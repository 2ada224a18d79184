import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { cleanText } from '../text/clean';
import { compared } from '../text/compared';
import { MOST_OPTIONS } from './shown';

const words = (most: number) => z.string().overwrite(cleanText).trim().max(most);

/** Most signs of what is asked or said, and of what is said to an answer. */
export const MOST_ASKED_SIGNS = 500;
export const MOST_TOLD_SIGNS = 300;

const optionsSchema = z
  .array(z.object({ text: words(200).min(1), right: z.boolean() }).readonly())
  .min(2)
  .max(MOST_OPTIONS)
  .readonly();

/** How a question is answered. */
export const askedSchema = z.discriminatedUnion('by', [
  /** By one of some. None of them right: it isn't said which would be. */
  z.object({ by: z.literal('one'), options: optionsSchema }).readonly(),
  /** By as many as fit. */
  z.object({ by: z.literal('several'), options: optionsSchema }).readonly(),
  z.object({ by: z.literal('words') }).readonly(),
  /** By a number, right to within so much; null: there is no right one. */
  z
    .object({
      by: z.literal('number'),
      right: z.number().nullable(),
      within: z.number().min(0),
      unit: words(20),
    })
    .readonly(),
]);
export type Asked = z.infer<typeof askedSchema>;

/** An address that a film may lead to: of the web, and no other. */
export const linkSchema = z.url({ protocol: /^https?$/ }).max(500);

/** What happens at it. */
const doesSchema = z.discriminatedUnion('is', [
  z
    .object({
      is: z.literal('question'),
      asked: askedSchema,
      /** The film waits until it is answered; else it can be passed. */
      waits: z.boolean(),
      /** What is said to a right answer, and to a wrong one; null: it isn't said which it was. */
      told: z.object({ right: words(MOST_TOLD_SIGNS), wrong: words(MOST_TOLD_SIGNS) }).nullable(),
    })
    .readonly(),
  z.object({ is: z.literal('note') }).readonly(),
  z.object({ is: z.literal('link'), address: linkSchema }).readonly(),
  /** The film stops, for something to be done. */
  z.object({ is: z.literal('pause') }).readonly(),
]);

/** Something that is asked or said at a recorded time, where the film comes to it. */
export const interactionSchema = z
  .object({
    id: idSchema,
    takeId: idSchema,
    atUs: usSchema,
    text: words(MOST_ASKED_SIGNS).min(1),
    does: doesSchema,
  })
  .readonly();
export type Interaction = z.infer<typeof interactionSchema>;

/** By take and time; by id where those are the same, so that every tab has the same order. */
export const inInteractionOrder = (a: Interaction, b: Interaction): number =>
  compared(a.takeId, b.takeId) || a.atUs - b.atUs || compared(a.id, b.id);

/** An interaction of a film with all that its teacher knows of it. It stays with the server. */
export const filmInteractionSchema = z
  .object({ id: idSchema, filmUs: usSchema, text: z.string(), does: doesSchema })
  .readonly();
export type FilmInteraction = z.infer<typeof filmInteractionSchema>;
