import * as z from 'zod';
import { idSchema } from '../lesson/take';
import { cleanLine } from '../text/clean';
import { timeZoneSchema } from '../time/time-zone';
import { define, ok } from './endpoint';

/** How the way to a mail server is kept closed: by TLS from the first byte, or from a command on (STARTTLS, RFC 3207). */
export const mailSecuritySchema = z.enum(['tls', 'starttls']);

const hostSchema = z
  .string()
  .trim()
  .toLowerCase()
  .max(253)
  .regex(/^[a-z0-9]([a-z0-9.:-]*[a-z0-9])?$/);

/** The server that a teacher's e-mails go through (SMTP, RFC 5321). */
export const mailServerSchema = z.object({
  host: hostSchema,
  port: z.number().int().min(1).max(65_535),
  security: mailSecuritySchema,
  /** Who signs in there; empty: nobody has to. */
  user: z.string().overwrite(cleanLine).trim().max(254),
  /** Whom e-mails are from. */
  from: z.email().max(254),
});
export type MailServer = z.infer<typeof mailServerSchema>;

export const mailSettingsSchema = z.object({
  /** Null: e-mails go to the test inbox, and leave this machine for nowhere. */
  server: mailServerSchema.nullable(),
  /** A password is kept; it is never told. */
  hasPassword: z.boolean(),
});
export type MailSettings = z.infer<typeof mailSettingsSchema>;

/** How it stands with an e-mail to a student. */
export const mailStateSchema = z.object({
  state: z.enum(['waiting', 'sent', 'failed']),
  /** When it was written, or sent, ISO 8601. */
  at: z.string(),
  /** What the mail server had to say, where it would not take it. */
  problem: z.string().nullable(),
});

export const mailingSchema = z.object({
  /** E-mails go to the test inbox. */
  practice: z.boolean(),
  /** Whom the link is for, by name. */
  students: z.array(
    z.object({
      studentId: idSchema,
      name: z.string(),
      /** An e-mail can reach them: they have an address for mail, and a page that isn't taken away. */
      reachable: z.boolean(),
      opened: z.boolean(),
      /** Null where nothing is to be handed in. */
      handedIn: z.boolean().nullable(),
      /** The last one about it. */
      lastMail: mailStateSchema.nullable(),
    }),
  ),
});
export type Mailing = z.infer<typeof mailingSchema>;

export const MOST_NOTE = 4_000;

/** Whom e-mails go to: all, those who haven't opened it, or those who haven't handed anything in. */
export const reminderSchema = z.enum(['all', 'unopened', 'nothing-in']);
export type Reminder = z.infer<typeof reminderSchema>;

/** Those whom e-mails would reach. */
export const remindedBy = (to: Reminder, students: Mailing['students']): Mailing['students'] =>
  students.filter(
    ({ reachable, opened, handedIn }) =>
      reachable && { all: true, unopened: !opened, 'nothing-in': handedIn === false }[to],
  );

/** An e-mail in the test inbox. */
export const testMailSchema = z.object({
  id: z.string(),
  at: z.string(),
  from: z.string(),
  to: z.string(),
  subject: z.string(),
  text: z.string(),
});
export type TestMail = z.infer<typeof testMailSchema>;

const byShareLink = z.object({ shareLinkId: idSchema });

export const MAIL = define({
  mailSettings: {
    method: 'get',
    path: '/api/mail',
    summary: 'Which server e-mails go through.',
    answer: mailSettingsSchema,
  },
  setMailSettings: {
    method: 'post',
    path: '/api/mail',
    summary:
      'Say which server e-mails go through; null: the test inbox. A password that isn’t given is kept as long as server and user stay the same.',
    body: z.object({
      server: mailServerSchema.nullable(),
      password: z.string().max(400).optional(),
    }),
    answer: mailSettingsSchema,
  },
  sendTestMail: {
    method: 'post',
    path: '/api/mail/try',
    summary: 'Send one e-mail to the address that e-mails are from, and say how that went.',
    answer: ok,
  },
  mailStatus: {
    method: 'get',
    path: '/api/share-links/:shareLinkId/mail',
    summary: 'Who a link is for, and the last e-mail to each about it.',
    params: byShareLink,
    answer: mailingSchema,
  },
  sendMail: {
    method: 'post',
    path: '/api/share-links/:shareLinkId/mail',
    summary: 'Write to students about a link, one e-mail each. Who can’t be reached is left out.',
    params: byShareLink,
    body: z.object({
      to: reminderSchema,
      note: z.string().max(MOST_NOTE),
      /** Time zone for deadlines in the e-mails (IANA): the teacher's, not the server's. */
      timeZone: timeZoneSchema,
    }),
    answer: mailingSchema,
  },
  testInbox: {
    method: 'get',
    path: '/api/test-inbox',
    summary: 'What is in the test inbox, newest first.',
    answer: z.array(testMailSchema),
  },
});
