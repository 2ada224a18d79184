import type { Parts } from '../http/context';
import { sendFile } from '../http/files';
import type { On } from '../http/route';

/** Longest that an answer waits for what is being read. */
const WAIT_MS = 5_000;

export const materialRoutes = (on: On, parts: Parts): void => {
  const { materials, materialKeeper, pages } = parts;

  on('materials', ({ params }) => materials.ofLesson(params.lessonId));

  on('newMaterial', async ({ params, body }) => {
    const material = await materials.create(params.lessonId, body);
    pages.warm();
    return material;
  });

  on('readMaterial', async ({ params }) => {
    await materialKeeper.read(params.materialId);
    // Mostly it is there at once; what takes longer is asked about again.
    await materialKeeper.settled(params.materialId, WAIT_MS);
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

  on('materialWords', ({ params }) => materials.words(params.materialId));

  on('pagePicture', async ({ params, query, ctx }) => {
    const path = await pages.file(params, query.width, 'webp');
    await sendFile(ctx, path, { type: 'image/webp', keep: 'for-ever' });
  });
};
