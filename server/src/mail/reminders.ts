import type { Mailing, Reminder } from '@under-chalk/core/contract/mail';
import { remindedBy } from '@under-chalk/core/contract/mail';
import type { Parts } from '../http/context';
import { assignmentOf } from '../store/share-link-store';

type ReminderParts = Pick<
  Parts,
  'mails' | 'mailService' | 'grants' | 'submissions' | 'shareLinks' | 'studentPages'
>;

/** Who a link is for, who of them can be reached, and the last e-mail to each. */
export const mailStatusOf = async (
  { mails, grants, submissions, shareLinks, studentPages }: ReminderParts,
  shareLinkId: string,
): Promise<Mailing> => {
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

/** Writes to those students of a link whom a reminder is for, and begins to send. */
export const sendReminders = async (
  parts: ReminderParts,
  shareLinkId: string,
  to: Reminder,
  text: { readonly note: string; readonly origin: string; readonly timeZone: string },
): Promise<Mailing> => {
  const { students } = await mailStatusOf(parts, shareLinkId);
  const ids = remindedBy(to, students).map(({ studentId }) => studentId);
  await parts.studentPages.give(ids);
  await parts.mails.write(shareLinkId, ids, text);
  parts.mailService.send();
  return mailStatusOf(parts, shareLinkId);
};
