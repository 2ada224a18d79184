import { reachedBy, type Mailing } from '@under-chalk/core/contract/mail';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import { assignmentOf } from '../store/share-link-store';

/** E-mails to students, and the server that they go through. */
export const mailRoutes = (
  on: On,
  { mails, postman, mailbox, grants, submissions, shareLinks, studentPages, config }: Parts,
): void => {
  on('mailSettings', () => mails.settings());

  on('setMailSettings', async ({ body }) => {
    await mails.set(body.server, body.password);
    return mails.settings();
  });

  on('sendTestMail', async () => {
    await postman.tryOut().catch((error: unknown) => {
      throw new AppError('mail-not-taken', (error as Error).message, { cause: error });
    });
    return { ok: true as const };
  });

  const mailingOf = async (shareLinkId: string): Promise<Mailing> => {
    const shareLink = await shareLinks.get(shareLinkId);
    const { id } = shareLink;
    const handsIn = (assignmentOf(shareLink)?.by.length ?? 0) > 0;
    const handed = await submissions.studentsOf(id);
    const viewers = await grants.viewers(id);
    const reachable = await studentPages.reachable(viewers.map(({ studentId }) => studentId));
    const last = await mails.lastOf(id);
    return {
      practice: (await mails.settings()).server === null,
      students: viewers.map(({ studentId, name, times }) => {
        const mail = last.get(studentId);
        return {
          ...{ studentId, name, opened: times > 0, reachable: reachable.has(studentId) },
          handedIn: handsIn ? handed.has(studentId) : null,
          lastMail: mail ? { state: mail.state, at: mail.at, problem: mail.problem } : null,
        };
      }),
    };
  };

  on('mailStatus', ({ params }) => mailingOf(params.shareLinkId));

  on('sendMail', async ({ params, body, ctx }) => {
    const { students } = await mailingOf(params.shareLinkId);
    const to = reachedBy(body.to, students).map(({ studentId }) => studentId);
    await studentPages.give(to);
    const origin = originOf(config.front, ctx);
    await mails.write(params.shareLinkId, to, {
      ...{ note: body.note, origin, timeZone: body.timeZone },
    });
    postman.send();
    return mailingOf(params.shareLinkId);
  });

  on('testInbox', () => mailbox.mails());
};
