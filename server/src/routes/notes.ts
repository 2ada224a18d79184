import { wordsOn } from '@under-chalk/core/ink/in-words';
import { fileNameOf, lessonFileName } from '@under-chalk/core/lesson/file-name';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';

export const noteRoutes = (on: On, { lessons, notes, accounts }: Parts): void => {
  const lessonNow = async (lessonId: string) => (await lessons.view(lessonId)).lesson;

  on('notes', async ({ params }) =>
    (await notes.of(await lessonNow(params.lessonId))).pages.map(({ page, shownUs }) => ({
      strokes: page.strokes.length,
      says: wordsOn(page),
      shownUs: [...shownUs],
    })),
  );

  on('notesPdf', async ({ params, ctx }) => {
    const lesson = await lessonNow(params.lessonId);
    const pdf = await notes.pdf(await notes.of(lesson), await accounts.teacherName(), null);
    saveAs(ctx, lessonFileName(lesson.decisions.plan, 'pdf'));
    ctx.type = 'application/pdf';
    ctx.body = pdf;
  });

  on('notesSvg', async ({ params, ctx }) => {
    const lesson = await lessonNow(params.lessonId);
    const page = Number(params.page);
    const svg = await notes.svg(lesson, page);
    saveAs(ctx, fileNameOf(`${lesson.decisions.plan.title} page ${page}`, 'svg'));
    ctx.type = 'image/svg+xml';
    ctx.body = svg;
  });

  on('inkml', async ({ params, ctx }) => {
    const lesson = await lessonNow(params.lessonId);
    const inkml = await notes.inkml(lesson, params.takeId);
    saveAs(ctx, fileNameOf(lesson.decisions.plan.title, 'inkml'));
    ctx.type = 'application/inkml+xml';
    ctx.body = inkml;
  });
};
