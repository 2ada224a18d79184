import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { define, ok } from './endpoint';

/** How the way to a mail server is kept closed: by TLS from the first byte, or from a command on (STARTTLS, RFC 3207). */
export const mailSecuritySchema = z.enum(['tls', 'starttls']);

const hostSchema = z
  .string()
  .trim()
  .toLowerCase()
  .max(253)
  .regex(/^[a-z0-9]([a-z0-9.:-]*[a-z0-9])?$/);

/** The server that a teacher's letters go through (SMTP, RFC 5321). */
export const mailServerSchema = z.object({
  host: hostSchema,
  port: z.number().int().min(1).max(65_535),
  security: mailSecuritySchema,
  /** Who signs in there; empty: nobody has to. */
  user: z.string().overwrite(cleanLine).trim().max(254),
  /** Whom letters are from. */
  from: z.email().max(254),
});
export type MailServer = z.infer<typeof mailServerSchema>;

export const mailSettingsSchema = z.object({
  /** Null: letters go to the practice mailbox, and leave this machine for nowhere. */
  server: mailServerSchema.nullable(),
  /** A password is kept; it is never told. */
  hasPassword: z.boolean(),
});
export type MailSettings = z.infer<typeof mailSettingsSchema>;

/** How it stands with a letter to a student. */
export const letterStateSchema = z.object({
  state: z.enum(['waiting', 'sent', 'failed']),
  /** When it was written, or sent, ISO 8601. */
  at: z.string(),
  /** What the mail server had to say, where it would not take it. */
  problem: z.string().nullable(),
});

export const mailingSchema = z.object({
  /** Letters go to the practice mailbox. */
  practice: z.boolean(),
  /** Whom the hand-out is for, by name. */
  students: z.array(
    z.object({
      studentId: idSchema,
      name: z.string(),
      /** A letter can reach them: they have an address for mail, and a page that isn't taken away. */
      reachable: z.boolean(),
      opened: z.boolean(),
      /** Null where nothing is to be handed in. */
      handedIn: z.boolean().nullable(),
      /** The last one about it. */
      letter: letterStateSchema.nullable(),
    }),
  ),
});
export type Mailing = z.infer<typeof mailingSchema>;

export const MOST_NOTE = 4_000;

/** Whom letters go to: all, those who haven't opened it, or those who haven't handed anything in. */
export const lettersToSchema = z.enum(['all', 'unopened', 'nothing-in']);
export type LettersTo = z.infer<typeof lettersToSchema>;

const isTimeZone = (name: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
};

/** Name of a time zone in the IANA database, such as `Europe/Berlin`. */
export const timeZoneSchema = z.string().max(64).refine(isTimeZone, 'no time zone');

/** Those whom letters would reach. */
export const reachedBy = (to: LettersTo, students: Mailing['students']): Mailing['students'] =>
  students.filter(
    ({ reachable, opened, handedIn }) =>
      reachable && { all: true, unopened: !opened, 'nothing-in': handedIn === false }[to],
  );

/** A letter in the practice mailbox. */
export const practiceLetterSchema = z.object({
  id: z.string(),
  at: z.string(),
  from: z.string(),
  to: z.string(),
  subject: z.string(),
  text: z.string(),
});
export type PracticeLetter = z.infer<typeof practiceLetterSchema>;

const byHandOut = z.object({ handOutId: idSchema });

export const MAIL = define({
  mailSettings: {
    method: 'get',
    path: '/api/mail',
    summary: 'Which server letters go through.',
    answer: mailSettingsSchema,
  },
  setMailSettings: {
    method: 'post',
    path: '/api/mail',
    summary:
      'Say which server letters go through; null: the practice mailbox. A password that isn’t given is kept as long as server and user stay the same.',
    body: z.object({
      server: mailServerSchema.nullable(),
      password: z.string().max(400).optional(),
    }),
    answer: mailSettingsSchema,
  },
  tryMail: {
    method: 'post',
    path: '/api/mail/try',
    summary: 'Send one letter to the address that letters are from, and say how that went.',
    answer: ok,
  },
  mailing: {
    method: 'get',
    path: '/api/hand-outs/:handOutId/letters',
    summary: 'Whom a hand-out is for, and the last letter to each about it.',
    params: byHandOut,
    answer: mailingSchema,
  },
  writeLetters: {
    method: 'post',
    path: '/api/hand-outs/:handOutId/letters',
    summary:
      'Write to students about a hand-out, one letter each. Who can’t be reached is left out.',
    params: byHandOut,
    body: z.object({
      to: lettersToSchema,
      note: z.string().max(MOST_NOTE),
      /** Time zone for deadlines in the e-mails (IANA): the teacher's, not the server's. */
      timeZone: timeZoneSchema,
    }),
    answer: mailingSchema,
  },
  practiceMail: {
    method: 'get',
    path: '/api/practice-mail',
    summary: 'What is in the practice mailbox, newest first.',
    answer: z.array(practiceLetterSchema),
  },
});
