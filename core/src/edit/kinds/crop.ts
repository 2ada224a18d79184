import * as z from 'zod';
import { cropSchema } from '../../lesson/crop';
import { idSchema } from '../../lesson/take';
import { always, kindOf } from '../kind';
import { cropsSlice } from '../slices/crops';

/** Shows only a part of a take's surface; null: all of it. */
export const crop = kindOf({
  schema: z.object({ do: z.literal('crop'), takeId: idSchema, crop: cropSchema.nullable() }),
  slice: cropsSlice,
  apply(before, edit) {
    const others = before.filter((cropped) => cropped.takeId !== edit.takeId);
    return edit.crop ? [...others, { takeId: edit.takeId, crop: edit.crop }] : others;
  },
  touches: ({ takeId, crop: part }) => [{ slot: `crop ${takeId}`, value: part }],
  isUndoable: always,
  inWords: ({ crop: part }) => (part ? 'showed only a part' : 'showed all of it'),
});
