import { randomUUID } from 'node:crypto';
import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import type { On } from '../http/route';

/** Longest that an answer waits for what is being read. */
const WAIT_MS = 5_000;

export const materialRoutes = (on: On, parts: Parts): void => {
  const { materials, classMaterials, materialService, pages, lessons, log } = parts;

  on('materials', ({ params }) => materials.ofLesson(params.lessonId));

  on('newMaterial', async ({ params, body }) => {
    const material = await materials.create(params.lessonId, body);
    pages.warm();
    return material;
  });

  on('readMaterial', async ({ params }) => {
    await materialService.read(params.materialId);
    // Mostly it is there at once; what takes longer is asked about again.
    await materialService.whenRead(params.materialId, WAIT_MS);
    return materials.get(params.materialId);
  });

  on('removeMaterial', async ({ params }) => {
    await materials.remove(params.materialId, true);
    return { ok: true as const };
  });

  on('restoreMaterial', async ({ params }) => {
    await materials.remove(params.materialId, false);
    return { ok: true as const };
  });

  on('describeMaterial', async ({ params, body }) => {
    await materials.describe(params.materialId, body.words);
    return { ok: true as const };
  });

  on('keptMaterials', async () => {
    const unread = (id: string, error: unknown) => log.error(`lesson ${id} can't be read`, error);
    const rows = new Map((await lessons.list(unread)).map((row) => [row.id, row]));
    return (await materials.kept()).map(({ lessonId, ...material }) => {
      const { title = '', className = '' } = rows.get(lessonId) ?? {};
      return { ...material, lesson: title, className };
    });
  });

  on('reuseMaterial', ({ params, body }) =>
    materials.bringAgain(params.lessonId, body.id, body.of),
  );

  on('classMaterials', ({ params }) => classMaterials.of(params.className));

  on('keepForClass', async ({ params, body }) => {
    await classMaterials.keep(body.className, params.materialId, randomUUID());
    return { ok: true as const };
  });

  on('changeClassMaterial', async ({ params, body }) => {
    await classMaterials.change(params.materialId, body.kept);
    return { ok: true as const };
  });

  on('materialWords', ({ params }) => materials.words(params.materialId));

  on('pagePicture', async ({ params, query, ctx }) => {
    const path = await pages.file(params, query.width, 'webp');
    await sendFile(ctx, path, { type: 'image/webp', keep: 'for-ever' });
  });
};
