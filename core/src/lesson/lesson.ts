import * as z from 'zod';
import { decisionsSchema } from '../edit/decisions';
import { PLAIN_CAMERA, type CameraLook } from './camera-look';
import { UNCROPPED, type Crop } from './crop';
import { everyPlaced, placedOf, type Placed } from './placement';
import { idSchema, takeSchema, type Id, type Take } from './take';

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

/** The part of a take's surface that is shown. */
export const cropOf = (lesson: Pick<Lesson, 'decisions'>, takeId: Id): Crop =>
  lesson.decisions.crops.find((cropped) => cropped.takeId === takeId)?.crop ?? UNCROPPED;

/** How a take's camera is shown. */
export const cameraLookOf = (lesson: Pick<Lesson, 'decisions'>, takeId: Id): CameraLook =>
  lesson.decisions.cameraLooks.find((one) => one.takeId === takeId)?.look ?? PLAIN_CAMERA;

/** The facts of one take, if the lesson has it. */
export const takeOf = (lesson: Pick<Lesson, 'takes'>, takeId: Id): Take | undefined =>
  lesson.takes.find((take) => take.id === takeId);

/** What stands in the film, in order. */
export const placedIn = (lesson: Pick<Lesson, 'decisions'>): Placed[] => placedOf(lesson.decisions);

/** The first place of a take, in the film or left out; null where it has none. */
export const placeOfTake = (lesson: Pick<Lesson, 'decisions'>, takeId: Id): Placed | null =>
  everyPlaced(lesson.decisions).find((placed) => placed.takeId === takeId) ?? null;
