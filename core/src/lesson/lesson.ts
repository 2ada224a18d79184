import * as z from 'zod';
import { pointSchema, tickSchema } from '../plan/point';
import { FREE_DESTINATION_ID } from '../place/destination';
import { cleanLine, cleanText } from '../text/clean';
import { arrangementSchema, frameShapeSchema, RESTING_ARRANGEMENT } from './arrangement';
import { cropSchema, UNCROPPED, type Crop } from './crop';
import { idSchema, takeSchema, usSchema, type Id, type Take } from './take';

/** A stretch of recorded time of one take. */
export const stretchSchema = z
  .object({ takeId: idSchema, startUs: usSchema, endUs: usSchema })
  .refine((stretch) => stretch.endUs > stretch.startUs, 'a stretch ends after it starts');
export type Stretch = Readonly<z.infer<typeof stretchSchema>>;

export const planSchema = z
  .object({
    /** Names the goal of the lesson. Files and pages are named by it. */
    title: z.string().overwrite(cleanLine).trim().max(140),
    description: z.string().overwrite(cleanText).trim().max(600),
    className: z.string().overwrite(cleanLine).trim().max(140),
    unit: z.string().overwrite(cleanLine).trim().max(140),
    destinationId: z.string().max(64),
  })
  .readonly();
export type Plan = z.infer<typeof planSchema>;

/** A mistake, at the moment it was noticed: it lies before this. */
export const flubSchema = z.object({ takeId: idSchema, atUs: usSchema }).readonly();
export type Flub = z.infer<typeof flubSchema>;

/** A take that is in the film, and the part of it that is kept. `endUs` null: to its end. */
export const placedTakeSchema = z
  .object({ takeId: idSchema, startUs: usSchema, endUs: usSchema.nullable() })
  .readonly();
export type PlacedTake = z.infer<typeof placedTakeSchema>;

/**
 * Every decision about a lesson, each anchored to recorded time. It is never stored: it is what the
 * list of edits comes to, so a new kind of decision needs a new edit and a default here, and no
 * migration.
 */
export const decisionsSchema = z
  .object({
    plan: planSchema,
    /** What to cover. Ordered by rank, not by place in the list. */
    points: z.array(pointSchema).readonly(),
    /** Which points were ticked off and when; one of each at most. */
    ticks: z.array(tickSchema).readonly(),
    /** Moments at which the teacher noticed a mistake. */
    flubs: z.array(flubSchema).readonly(),
    /** The part of the surface that is shown, of takes that don't show all of it. */
    crops: z.array(z.object({ takeId: idSchema, crop: cropSchema })).readonly(),
    frame: z.object({ shape: frameShapeSchema }).readonly(),
    /** Takes in the order of the film. */
    placed: z.array(placedTakeSchema).readonly(),
    /** Stretches left out. By take and time, disjoint (`time/timeline`). */
    cuts: z.array(stretchSchema).readonly(),
    /** Arrangements that differ from the resting one. By take and time, disjoint (`time/timeline`). */
    arranged: z.array(stretchSchema.and(z.object({ arrangement: arrangementSchema }))).readonly(),
    resting: arrangementSchema,
    /** Length of the soft change between two arrangements; 0 is a hard one. */
    changeUs: usSchema,
  })
  .readonly();
export type Decisions = z.infer<typeof decisionsSchema>;

/** A lesson as every computation takes it: the decisions, and the facts about its takes. */
export const lessonSchema = z
  .object({
    id: idSchema,
    /** Number of entries in the list of edits. */
    revision: z.number().int().min(0),
    decisions: decisionsSchema,
    takes: z.array(takeSchema).readonly(),
  })
  .readonly();
export type Lesson = z.infer<typeof lessonSchema>;

/** What a lesson is before its first edit. */
export const NEW_DECISIONS: Decisions = {
  plan: {
    title: '',
    description: '',
    className: '',
    unit: '',
    destinationId: FREE_DESTINATION_ID,
  },
  points: [],
  ticks: [],
  flubs: [],
  crops: [],
  frame: { shape: '16:9' },
  placed: [],
  cuts: [],
  arranged: [],
  resting: RESTING_ARRANGEMENT,
  changeUs: 500_000,
};

/** The part of a take's surface that is shown. */
export const cropOf = (lesson: Pick<Lesson, 'decisions'>, takeId: Id): Crop =>
  lesson.decisions.crops.find((cropped) => cropped.takeId === takeId)?.crop ?? UNCROPPED;

/** The facts of one take, if the lesson has it. */
export const takeOf = (lesson: Pick<Lesson, 'takes'>, takeId: Id): Take | undefined =>
  lesson.takes.find((take) => take.id === takeId);
