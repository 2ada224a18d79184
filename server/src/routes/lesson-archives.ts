import { filmOf } from '@under-chalk/core/film/film';
import { lessonFileName } from '@under-chalk/core/lesson/file-name';
import { openTimelineText } from '@under-chalk/core/out/opentimelineio';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import { exportLesson } from '../jobs/lesson-archive/export-lesson';

export const lessonArchiveRoutes = (on: On, all: Parts): void => {
  const { lessons, materials, media, bundles, config } = all;
  on('lessonArchive', async ({ params, ctx }) => {
    const { folders } = config;
    const { lesson } = await lessons.view(params.lessonId);
    const parts = { lessons, materials, media, folders };
    const { bytes, stream } = await exportLesson(lesson, parts);
    saveAs(ctx, lessonFileName(lesson.decisions.plan, 'zip'));
    ctx.type = 'application/zip';
    ctx.length = bytes;
    ctx.body = stream;
  });

  on('openTimeline', async ({ params, ctx }) => {
    const { lesson } = await lessons.view(params.lessonId);
    saveAs(ctx, lessonFileName(lesson.decisions.plan, 'otio'));
    ctx.type = 'application/json';
    ctx.body = openTimelineText(filmOf(lesson));
  });

  on('newLessonImport', ({ body }) => bundles.expect(body.id));

  on('importLesson', ({ params }) => bundles.open(params.importId));

  on('lessonImport', ({ params }) => bundles.stateOf(params.importId));
};
