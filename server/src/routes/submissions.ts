import type { Context } from 'koa';
import { AppError } from '@under-chalk/core/errors/errors';
import type { GivenIn } from '@under-chalk/core/contract/submissions';
import { submissionsTable } from '@under-chalk/core/submission/submissions-table';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { saveAs, sendFile } from '../http/files';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import { sharedAmongStrangers } from '../http/stranger-share';
import type { Student } from '../http/who';
import { wordsFor } from '../jobs/words-for';
import type { Giver } from '../store/submission-store';
import { assignmentOf } from '../store/share-link-store';

/** What plays in the teacher's page; anything else is saved: it was made by somebody else's program. */
const PLAYED = { voice: 'audio/mp4', camera: 'video/mp4' } as const;

/** Most anonymous visitors per address who can submit under a link in a day: a few classes behind one router. */
const MOST_OF_ONE = 150;

const giverOf = ({ shareLink, person }: Student, visitor: string): Giver => ({
  ...{ shareLinkId: shareLink.id, studentId: person?.studentId ?? null, visitor },
});

/** What students hand in when they have watched a film, and what comes of it. */
export const submissionRoutes = (on: On, parts: Parts): void => {
  const { films, grants, submissions, submissionService, shareLinks } = parts;
  const maySubmit = sharedAmongStrangers(parts.config.front, MOST_OF_ONE);

  /** What is to be done. @throws AppError `not-found` where nothing is */
  const activityFor = ({ shareLink }: Student) => {
    const assignment = assignmentOf(shareLink);
    if (!assignment) throw new AppError('not-found', 'something to be done');
    return assignment;
  };

  const mindStrangers = (ctx: Context, who: Student, visitor: string) => {
    if (!maySubmit(ctx, who, who.shareLink.id, visitor))
      throw new AppError('too-many-submissions', who.shareLink.id);
  };

  on('ownSubmission', async ({ who, query: { visitor } }) => {
    const assignment = assignmentOf(who.shareLink);
    const submission = await submissions.own(giverOf(who, visitor), assignment?.dueAt ?? null);
    return { submission };
  });

  on('submit', async ({ ctx, who, body: { visitor, name, text, files } }) => {
    const { by, dueAt } = activityFor(who);
    if (by.length === 0) throw new AppError('not-found', 'anything to be handed in');
    if (text === '' && files.length === 0)
      throw new AppError('bad-request', 'nothing is handed in');
    if (text !== '' && !by.includes('words'))
      throw new AppError('bad-request', 'nothing is to be typed');
    mindStrangers(ctx, who, visitor);
    const given = await submissions.put(giverOf(who, visitor), { name, text, files }, dueAt);
    // Whoever hands in has been there, whatever their browser had of the film already.
    if (who.person) await grants.open(who.shareLink.id, who.person.studentId);
    return given;
  });

  on('announceSubmissionFile', async ({ ctx, who, body: { visitor, ...file } }) => {
    if (!activityFor(who).by.includes(file.by))
      throw new AppError('bad-request', `nothing is handed in by ${file.by}`);
    mindStrangers(ctx, who, visitor);
    await submissionService.mindRoom();
    await submissionService.announce(giverOf(who, visitor), file);
    return { ok: true as const };
  });

  on('submissionFileCame', async ({ who, params, body: { visitor } }) =>
    submissionService.came(giverOf(who, visitor), params.fileId),
  );

  const givenIn = async (shareLinkId: string): Promise<GivenIn> => {
    const shareLink = await shareLinks.get(shareLinkId);
    const [all, there, asked] = await Promise.all([
      submissions.all(shareLink.id, assignmentOf(shareLink)?.dueAt ?? null),
      submissions.studentsOf(shareLink.id),
      grants.viewers(shareLink.id),
    ]);
    const missing = asked.filter(({ studentId }) => !there.has(studentId));
    return { submissions: all, missing: missing.map(({ name }) => name) };
  };

  on('submissions', async ({ params }) => givenIn(params.shareLinkId));

  on('submissionsFile', async ({ params, ctx }) => {
    const { title } = await wordsFor(
      parts,
      await films.get((await shareLinks.get(params.shareLinkId)).film_id),
    );
    saveAs(ctx, fileNameOf(`${title} handed in`, 'csv'));
    ctx.type = 'text/csv; charset=utf-8';
    ctx.set('Cache-Control', 'private, no-cache');
    ctx.body = submissionsTable(await givenIn(params.shareLinkId));
  });

  on('submissionPicture', async ({ params, ctx }) => {
    const { id } = await shareLinks.get(params.shareLinkId);
    const file = await submissions.handedFile(id, params.fileId);
    const path = await submissionService.pictureOf(file);
    await sendFile(ctx, path, { type: 'image/webp', keep: 'never' });
  });

  on('submissionFile', async ({ params, ctx }) => {
    const { id } = await shareLinks.get(params.shareLinkId);
    const file = await submissions.handedFile(id, params.fileId);
    const path = submissionService.pathOf(file.id);
    await sendFile(
      ctx,
      path,
      file.by === 'file'
        ? { type: 'application/octet-stream', keep: 'never', saveAs: file.name }
        : { type: PLAYED[file.by], keep: 'never' },
    );
  });
};
