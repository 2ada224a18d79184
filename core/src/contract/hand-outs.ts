import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { pictureSizeSchema } from '../destination/size-name';
import { byLesson, define, ok } from './endpoint';
import { filmRowSchema } from './films';

export const handOutSchema = z.object({
  id: idSchema,
  lessonId: idSchema,
  /** The unguessable part of the link: 128 bits. Null where the key that it was kept with is gone: the link works, and can't be shown. */
  token: z.string().nullable(),
  film: filmRowSchema,
  createdAt: z.string(),
});
export type HandOut = z.infer<typeof handOutSchema>;

const byHandOut = z.object({ handOutId: idSchema });

export const HAND_OUTS = define({
  handOuts: {
    method: 'get',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'The links under which a lesson can be watched.',
    params: byLesson,
    answer: z.array(handOutSchema),
  },
  handOut: {
    method: 'post',
    path: '/api/lessons/:lessonId/hand-outs',
    summary: 'Hand the lesson out as it is now, to anyone with the link.',
    params: byLesson,
    body: z.object({ size: pictureSizeSchema }),
    answer: handOutSchema,
  },
  takeBack: {
    method: 'delete',
    path: '/api/hand-outs/:handOutId',
    summary: 'Take a link away. It answers 404 from then on.',
    params: byHandOut,
    answer: ok,
  },
  giveAgain: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/give-again',
    summary: 'Let a link that was taken away be used again, under the same address.',
    params: byHandOut,
    answer: ok,
  },
});
