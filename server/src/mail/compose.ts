import type { Us } from '@under-chalk/core/time/us';
import type { StudentText } from '../messages/student-text';

/** What an e-mail to one student about a film says. */
export interface MailAbout {
  readonly studentName: string;
  readonly teacherName: string;
  /** The teacher's own words; may be empty. */
  readonly note: string;
  readonly title: string;
  readonly filmUs: Us;
  /** Where the film is for this student alone; and their own page. */
  readonly filmAddress: string;
  readonly pageAddress: string;
  /** What is to be done when it has been watched, and by when, in words; null: nothing. */
  readonly todo: { readonly text: string; readonly until: string | null } | null;
  /** Until when it can be watched, in words; null: with no end. */
  readonly until: string | null;
  /** Six digits are asked for besides. */
  readonly asksPin: boolean;
}

export interface ComposedMail {
  readonly subject: string;
  /** Plain text. Lines of paragraphs aren't broken: whoever shows it does that. */
  readonly text: string;
}

/** An e-mail to one student: what the teacher has to say, where the film is, and where all of theirs are. */
export const composeMail = (about: MailAbout, { t, length }: StudentText): ComposedMail => {
  const title = about.title || t('mail.subject');
  const parts = [
    t('mail.hello', { name: about.studentName }),
    about.note.trim(),
    [
      t('mail.film', { title, length: length(about.filmUs) }),
      about.filmAddress,
      ...(about.until === null ? [] : [t('mail.until', { when: about.until })]),
    ].join('\n'),
    about.todo === null
      ? ''
      : [
          about.todo.until === null
            ? t('mail.todo')
            : t('mail.todo-until', { when: about.todo.until }),
          about.todo.text,
        ].join('\n'),
    `${t('mail.own-page')}\n${about.pageAddress}`,
    [...(about.asksPin ? [t('mail.pin')] : []), t('mail.private')].join(' '),
    about.teacherName,
  ];
  return { subject: title, text: `${parts.filter((part) => part !== '').join('\n\n')}\n` };
};
