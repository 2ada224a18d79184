import * as z from 'zod';
import { arrangementSchema, frameShapeSchema } from '../lesson/arrangement';
import { planSchema } from '../lesson/lesson';
import { idSchema, usSchema } from '../lesson/take';

const ends = { takeId: idSchema, startUs: usSchema, endUs: usSchema };
const runsForward = (edit: { startUs: number; endUs: number }) => edit.endUs > edit.startUs;
const FORWARD = 'a stretch ends after it starts';

export const planEditSchema = z.object({
  do: z.literal('plan'),
  set: planSchema.unwrap().partial(),
});
const placeTakeSchema = z.object({
  do: z.literal('place-take'),
  takeId: idSchema,
  /** Place in the film from 0; null: at the end. A take that is in already moves. */
  at: z.number().int().min(0).nullable(),
});
const leaveOutTakeSchema = z.object({ do: z.literal('leave-out-take'), takeId: idSchema });
/** Keeps only this part of a take; what lies outside can be had back by a wider trim. */
const trimSchema = z
  .object({
    do: z.literal('trim'),
    takeId: idSchema,
    startUs: usSchema,
    endUs: usSchema.nullable(),
  })
  .refine((edit) => edit.endUs === null || edit.endUs > edit.startUs, FORWARD);
const cutSchema = z.object({ do: z.literal('cut'), ...ends }).refine(runsForward, FORWARD);
const restoreSchema = z.object({ do: z.literal('restore'), ...ends }).refine(runsForward, FORWARD);
const arrangeSchema = z
  .object({ do: z.literal('arrange'), ...ends, arrangement: arrangementSchema })
  .refine(runsForward, FORWARD);
/** Length of the soft change between arrangements, 0 to 2 s. */
const softenSchema = z.object({
  do: z.literal('soften'),
  changeUs: z.number().int().min(0).max(2_000_000),
});
const shapeFrameSchema = z.object({ do: z.literal('shape-frame'), shape: frameShapeSchema });

/** One small decision. */
export const editSchema = z.union([
  planEditSchema,
  placeTakeSchema,
  leaveOutTakeSchema,
  trimSchema,
  cutSchema,
  restoreSchema,
  arrangeSchema,
  softenSchema,
  shapeFrameSchema,
]);
export type Edit = z.infer<typeof editSchema>;

/** What can stand in a lesson's list of edits. */
export const entrySchema = z.union([
  editSchema,
  z.object({ do: z.literal('undo') }),
  z.object({ do: z.literal('redo') }),
]);
export type Entry = z.infer<typeof entrySchema>;
