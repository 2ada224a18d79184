import * as z from 'zod';
import { arrangementSchema, frameShapeSchema } from '../lesson/arrangement';
import { cropSchema } from '../lesson/crop';
import { planSchema } from '../lesson/lesson';
import { idSchema, usSchema } from '../lesson/take';
import { pointSchema } from '../plan/point';

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

/** Puts a point into the running order, or changes it. */
const setPointSchema = z.object({ do: z.literal('set-point'), point: pointSchema });
const movePointSchema = z.object({
  do: z.literal('move-point'),
  pointId: idSchema,
  rank: z.number().finite(),
});
const removePointSchema = z.object({ do: z.literal('remove-point'), pointId: idSchema });
/** Ticks a point off; again: at the later moment instead. */
const tickPointSchema = z.object({
  do: z.literal('tick-point'),
  pointId: idSchema,
  takeId: idSchema,
  atUs: usSchema,
});
const untickPointSchema = z.object({ do: z.literal('untick-point'), pointId: idSchema });
const markFlubSchema = z.object({ do: z.literal('mark-flub'), takeId: idSchema, atUs: usSchema });
const unmarkFlubSchema = z.object({
  do: z.literal('unmark-flub'),
  takeId: idSchema,
  atUs: usSchema,
});
/** Shows only a part of a take's surface; null: all of it. */
const cropEditSchema = z.object({
  do: z.literal('crop'),
  takeId: idSchema,
  crop: cropSchema.nullable(),
});

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
  setPointSchema,
  movePointSchema,
  removePointSchema,
  tickPointSchema,
  untickPointSchema,
  markFlubSchema,
  unmarkFlubSchema,
  cropEditSchema,
]);
export type Edit = z.infer<typeof editSchema>;

/** What can stand in a lesson's list of edits. */
export const entrySchema = z.union([
  editSchema,
  z.object({ do: z.literal('undo') }),
  z.object({ do: z.literal('redo') }),
]);
export type Entry = z.infer<typeof entrySchema>;
