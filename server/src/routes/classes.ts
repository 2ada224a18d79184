import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import type { Parts } from '../http/context';
import { sendArchive } from '../http/files';
import type { On } from '../http/route';
import { unitArchive, unitFilms } from '../jobs/unit-archive';
import { followNames } from '../jobs/follow-names';
import { inUnit, unitOf } from '../jobs/unit-films';

const DONE = { ok: true as const };

export const classRoutes = (on: On, parts: Parts): void => {
  const { classes, submissionService, lessons, testInbox, tokens, log } = parts;
  on('classes', async () => {
    // Whose lessons are counted by the rows of their list: brought up to date first.
    await lessons.list((id, error) => log.error(`lesson ${id} can't be read`, error));
    return classes.all();
  });

  on('setClass', async ({ body }) => {
    const [before] = await classes.withIds([body.id]);
    if (before) await followNames(parts, before, body);
    return classes.set(body);
  });

  on('class', ({ params }) => classes.view(params.classId));

  on('unitFilms', ({ params }) => unitFilms(parts, params.classId, params.unitId));

  on('unitOrder', async ({ params }) => {
    const { unit } = await unitOf(parts, params.classId, params.unitId);
    const all = await inUnit(parts, params.classId, unit);
    const titles = new Map(all.map(({ lessonId, title }) => [lessonId, title]));
    return [...titles].map(([lessonId, title]) => ({ lessonId, title }));
  });

  on('orderUnit', ({ params, body }) => classes.order(params.classId, params.unitId, body.lessons));

  on('unitArchive', async ({ params, ctx }) => {
    const archive = await unitArchive(parts, params.classId, params.unitId, 'pages');
    sendArchive(ctx, fileNameOf(archive.name, 'zip'), archive);
  });

  on('unitCartridge', async ({ params, ctx }) => {
    const archive = await unitArchive(parts, params.classId, params.unitId, 'cartridge');
    sendArchive(ctx, fileNameOf(archive.name, 'imscc'), archive);
  });

  on('deleteClass', async ({ params }) => {
    await classes.change(params.classId, false);
    tokens.forget();
    return DONE;
  });

  on('restoreClass', async ({ params }) => {
    await classes.change(params.classId, true);
    tokens.forget();
    return classes.view(params.classId);
  });

  on('enrol', async ({ params, body }) => {
    const added = await classes.enrol(params.classId, body.students);
    tokens.forget();
    return { view: await classes.view(params.classId), added };
  });

  on('changeStudent', async ({ params, body }) => {
    await classes.changeStudent(params.studentId, body);
    return DONE;
  });

  on('leaveClass', async ({ params }) => {
    await classes.leave(params.classId, params.studentId);
    tokens.forget();
    return DONE;
  });

  on('joinClass', async ({ params }) => {
    await classes.join(params.classId, params.studentId);
    tokens.forget();
    return DONE;
  });

  on('eraseStudent', async ({ params }) => {
    const address = await classes.erase(params.studentId);
    if (address !== null) await testInbox.forget(address);
    await submissionService.sweep();
    tokens.forget();
    return DONE;
  });
};
