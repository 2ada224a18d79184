import * as z from 'zod';
import { idSchema } from '../lesson/take';
import {
  classMaterialSchema,
  contentSchema,
  describedSchema,
  keptMaterialSchema,
  materialNameSchema,
  materialSchema,
  MOST_PAGES,
  PICTURE_WIDTHS,
} from '../material/material';
import { planSchema } from '../lesson/plan';
import { byLesson, define, ok } from './endpoint';

const namedClass = planSchema.unwrap().shape.className.pipe(z.string().min(1));
const byMaterial = z.object({ materialId: idSchema });

export const MATERIALS = define({
  materials: {
    method: 'get',
    path: '/api/lessons/:lessonId/materials',
    summary: 'What was brought into a lesson to be shown and written on, in the order it came.',
    params: byLesson,
    answer: z.array(materialSchema),
  },
  newMaterial: {
    method: 'post',
    path: '/api/lessons/:lessonId/materials',
    summary:
      'Bring a material in. Its bytes then come by tus 1.0 to /api/uploads with its id as `trackId`.',
    params: byLesson,
    body: z.object({ id: idSchema, name: materialNameSchema }),
    answer: materialSchema,
  },
  readMaterial: {
    method: 'post',
    path: '/api/materials/:materialId/read',
    summary: 'All bytes of a material have been sent, or it is to be tried again: read it.',
    params: byMaterial,
    answer: materialSchema,
  },
  removeMaterial: {
    method: 'post',
    path: '/api/materials/:materialId/remove',
    summary:
      'Take a material out of its lesson’s list. What was recorded with it stays as it is; it can be brought back.',
    params: byMaterial,
    answer: ok,
  },
  restoreMaterial: {
    method: 'post',
    path: '/api/materials/:materialId/restore',
    summary: 'Bring a material back that was taken out.',
    params: byMaterial,
    answer: ok,
  },
  materialWords: {
    method: 'get',
    path: '/api/materials/:materialId/words',
    summary: 'What the pages of a material say, page by page.',
    params: byMaterial,
    answer: z.array(z.string()),
  },
  describeMaterial: {
    method: 'post',
    path: '/api/materials/:materialId/describe',
    summary: 'Say what a picture shows, for those who can’t see it.',
    params: byMaterial,
    body: z.object({ words: describedSchema }),
    answer: ok,
  },
  keptMaterials: {
    method: 'get',
    path: '/api/materials',
    summary: 'What is ready to be shown in any lesson, latest first, each content once.',
    answer: z.array(keptMaterialSchema),
  },
  reuseMaterial: {
    method: 'post',
    path: '/api/lessons/:lessonId/materials/again',
    summary: 'Bring into a lesson what another has, or what its class keeps.',
    params: byLesson,
    body: z.object({ id: idSchema, of: idSchema }),
    answer: materialSchema,
  },
  classMaterials: {
    method: 'get',
    path: '/api/classes/:className/materials',
    summary: 'What a class keeps for its next lessons, by name.',
    params: z.object({ className: namedClass }),
    answer: z.array(classMaterialSchema),
  },
  keepForClass: {
    method: 'post',
    path: '/api/materials/:materialId/keep',
    summary: 'Keep a material of a lesson for a class, once.',
    params: byMaterial,
    body: z.object({ className: namedClass }),
    answer: ok,
  },
  changeClassMaterial: {
    method: 'post',
    path: '/api/class-materials/:materialId',
    summary:
      'Keep something for a class no longer, or again after all. Lessons that have it keep it.',
    params: byMaterial,
    body: z.object({ kept: z.boolean() }),
    answer: ok,
  },
  pagePicture: {
    method: 'get',
    path: '/api/pages/:content/:page',
    summary: 'A page of a material as a picture of a width, px.',
    params: z.object({
      content: contentSchema,
      page: z.coerce
        .number()
        .int()
        .min(0)
        .max(MOST_PAGES - 1),
    }),
    query: z.object({
      width: z.coerce.number().pipe(z.literal(PICTURE_WIDTHS)).default(PICTURE_WIDTHS[1]),
    }),
    file: 'image/webp',
  },
});
