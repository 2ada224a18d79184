import { formatSpoken, type Us } from '../time/us';

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
export const composeMail = (about: MailAbout): ComposedMail => {
  const title = about.title || 'A film for you';
  const parts = [
    `Hello ${about.studentName},`,
    about.note.trim(),
    [
      `${title}, ${formatSpoken(about.filmUs)}:`,
      about.filmAddress,
      ...(about.until === null ? [] : [`It can be watched until ${about.until}.`]),
    ].join('\n'),
    about.todo === null
      ? ''
      : [
          `To do afterwards${about.todo.until === null ? '' : `, until ${about.todo.until}`}:`,
          about.todo.text,
        ].join('\n'),
    `All films for you are on your own page:\n${about.pageAddress}`,
    about.asksPin
      ? 'You will be asked for your six digits. The addresses are yours alone: please don’t pass them on.'
      : 'The addresses are yours alone: please don’t pass them on.',
    about.teacherName,
  ];
  return { subject: title, text: `${parts.filter((part) => part !== '').join('\n\n')}\n` };
};
