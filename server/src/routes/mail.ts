import { AppError } from '@under-chalk/core/errors/errors';
import type { Parts } from '../http/context';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import { mailStatusOf, sendReminders } from '../mail/reminders';

/** E-mails to students, and the server that they go through. */
export const mailRoutes = (on: On, parts: Parts): void => {
  const { mails, mailService, testInbox, config } = parts;

  on('mailSettings', () => mails.settings());

  on('setMailSettings', async ({ body }) => {
    await mails.set(body.server, body.password);
    return mails.settings();
  });

  on('sendTestMail', async () => {
    await mailService.tryOut().catch((error: unknown) => {
      throw new AppError('mail-not-taken', (error as Error).message, { cause: error });
    });
    return { ok: true as const };
  });

  on('mailStatus', ({ params }) => mailStatusOf(parts, params.shareLinkId));

  on('sendMail', ({ params, body, ctx }) => {
    const { to, note, timeZone } = body;
    const text = { note, timeZone, origin: originOf(config.front, ctx) };
    return sendReminders(parts, params.shareLinkId, to, text);
  });

  on('testInbox', () => testInbox.mails());
};
