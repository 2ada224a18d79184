import { mayWatch } from '@under-chalk/core/share-link/may-watch';
import * as z from 'zod';
import { createTransport, type Transporter } from 'nodemailer';
import { Rounds } from '../jobs/rounds';
import type { Log } from '../log';
import type { AccountStore } from '../store/account-store';
import type { ClassStore } from '../store/class-store';
import type { FilmStore } from '../store/film-store';
import type { GrantStore } from '../store/grant-store';
import { assignmentOf, type ShareLinkStore } from '../store/share-link-store';
import type { MailStore, MailToSend } from '../store/mail-store';
import { availabilityOf } from '../store/availability';
import type { StudentPageStore } from '../store/student-page-store';
import { askingOf } from '../store/token-finder';
import { studentText } from '../messages/student-text';
import { composeMail } from './compose';
import type { TestInbox } from './test-inbox';

/** What an e-mail waits before it is tried again, ms; after the last one it is given up. */
const AGAIN_MS = [60_000, 300_000, 900_000, 3_600_000, 14_400_000];
/** Longest that a mail server may take to answer, ms. */
const ANSWER_MS = 30_000;
/** A server on this machine, which passes e-mails on, is reached without leaving it: the way needs no closing. */
const NEAR = new Set(['127.0.0.1', '::1', 'localhost']);
/** Whom e-mails of practice are from. */
const PRACTICE_FROM = 'teacher@practice.example';

/** Why an e-mail can't be sent, whatever is tried: it is about nothing any more. */
class Pointless extends Error {}

interface Needs {
  readonly mails: MailStore;
  readonly testInbox: TestInbox;
  readonly accounts: AccountStore;
  readonly classes: ClassStore;
  readonly films: FilmStore;
  readonly grants: GrantStore;
  readonly shareLinks: ShareLinkStore;
  readonly studentPages: StudentPageStore;
  readonly log: Log;
}

/** Whether a mail server has refused an e-mail for good (RFC 5321, replies of 500 and more). */
const isFinal = (error: unknown): boolean =>
  error instanceof Pointless || Number((error as { responseCode?: number }).responseCode) >= 500;

const wordsOf = (error: unknown): string => (error as Error).message.slice(0, 300);

/**
 * Sends e-mails to students, one each and one after another: those that wait are taken up again after a restart, and what a server
 * can't take just now is tried again later. An e-mail has its name (Message-ID) from the beginning, so that one that was sent twice is
 * shown once.
 */
export class MailService {
  readonly #needs: Needs;
  readonly #rounds: Rounds;

  constructor(needs: Needs) {
    this.#needs = needs;
    this.#rounds = new Rounds(() => this.#sendAll(), 'mails can’t be sent', needs.log);
  }

  /** Takes up what waits. */
  send(): void {
    this.#rounds.begin();
  }

  close(): Promise<void> {
    return this.#rounds.close();
  }

  async #way(): Promise<{ transport: Transporter; from: string; host: string }> {
    const given = await this.#needs.mails.server();
    const times = {
      ...{ connectionTimeout: ANSWER_MS, greetingTimeout: ANSWER_MS, socketTimeout: ANSWER_MS },
      // Nothing of an e-mail comes from a file or an address.
      ...{ disableFileAccess: true, disableUrlAccess: true },
    };
    if (!given) {
      const port = await this.#needs.testInbox.port();
      const way = { host: '127.0.0.1', port, secure: false, ignoreTLS: true };
      return {
        transport: createTransport({ ...way, ...times }),
        ...{ from: PRACTICE_FROM, host: 'practice.example' },
      };
    }
    const { host, port, security, user, from } = given.server;
    const closed =
      security === 'tls'
        ? { secure: true }
        : NEAR.has(host)
          ? { secure: false, ignoreTLS: true }
          : { secure: false, requireTLS: true };
    return {
      transport: createTransport({
        ...{ host, port, ...closed },
        ...(user === '' ? {} : { auth: { user, pass: given.password } }),
        ...times,
      }),
      ...{ from, host: from.split('@')[1]! },
    };
  }

  /** @returns when one is due again, ms since 1970; null: none is */
  async #sendAll(): Promise<number | null> {
    const { mails } = this.#needs;
    const waiting = await mails.waiting();
    const now = Date.now();
    const dueAt = ({ tries, at }: MailToSend) =>
      tries === 0 ? 0 : Date.parse(at) + AGAIN_MS[Math.min(tries, AGAIN_MS.length) - 1]!;
    const due = waiting.filter((mail) => dueAt(mail) <= now);
    if (due.length > 0) {
      const { transport, from, host } = await this.#way();
      for (const mail of due) {
        if (this.#rounds.closed) break;
        await this.#sendOne(mail, transport, from, host);
      }
      transport.close();
    }
    const next = (await mails.waiting()).map(dueAt);
    return next.length === 0 ? null : Math.min(...next);
  }

  async #sendOne(
    mail: MailToSend,
    transport: Transporter,
    from: string,
    host: string,
  ): Promise<void> {
    const { mails, log } = this.#needs;
    try {
      const { to, subject, text, teacherName } = await this.#written(mail);
      await transport.sendMail({
        from: { name: teacherName, address: from },
        // One to each: nobody learns who else has one.
        to,
        ...{ subject, text, messageId: `<${mail.id}@${host}>` },
      });
      await mails.change(mail.id, { state: 'sent', problem: null });
    } catch (error) {
      const tries = mail.tries + 1;
      const over = isFinal(error) || tries > AGAIN_MS.length;
      await mails.change(mail.id, {
        ...{ state: over ? 'failed' : 'waiting', tries, problem: wordsOf(error) },
      });
      // Without what the server said: it may name whom the e-mail was to.
      const { code = 'no code', responseCode = '' } = error as {
        code?: string;
        responseCode?: number;
      };
      log.warn(
        `an e-mail was not taken${over ? '' : ', and is tried again'}: ${code} ${responseCode}`,
      );
    }
  }

  /** What an e-mail says, as it is by now. @throws Pointless where it is about nothing any more */
  async #written({ share_link_id, student_id, note, origin, time_zone }: MailToSend) {
    const { accounts, classes, films, grants, shareLinks, studentPages } = this.#needs;
    const gone = (why: string) => new Pointless(why);
    const shareLink = await shareLinks.get(share_link_id).catch(() => {
      throw gone('What it is about is not handed out any more.');
    });
    const person = await studentPages.person(student_id);
    if (!person?.mail) throw gone('There is no address for mail, or no page, any more.');
    const theirs = (await grants.of([share_link_id])).get(share_link_id)!;
    const { is, when } = mayWatch(askingOf(person), availabilityOf(shareLink, theirs), Date.now());
    if (is !== 'open' && is !== 'not-yet') throw gone('It is not for this student any more.');
    const film = await films.get(shareLink.film_id);
    const assignment = assignmentOf(shareLink);
    const [pass] = await studentPages.passes(person, [share_link_id]);
    const teacherName = await accounts.teacherName();
    const mail = await classes.mailFor(student_id, theirs);
    const text = studentText(mail?.language ?? 'en');
    const timeZone = mail?.timeZone ?? time_zone;
    const words = z.object({ title: z.string() }).safeParse(JSON.parse(film.words ?? '{}'));
    return {
      ...composeMail(
        {
          ...{ studentName: person.name, teacherName, note },
          ...{ title: words.data?.title ?? '', filmUs: film.film_us },
          filmAddress: `${origin}/w/${pass}`,
          pageAddress: `${origin}/s/${person.key}`,
          until: is === 'open' && when !== null ? text.when(when, timeZone) : null,
          todo: assignment && {
            text: assignment.text,
            until: assignment.dueAt && text.when(assignment.dueAt, timeZone),
          },
          asksPin: person.pin !== null,
        },
        text,
      ),
      teacherName,
      to: { name: person.name, address: person.mail },
    };
  }

  /** Sends one e-mail to whom e-mails are from. @throws Error what the mail server has to say */
  async tryOut(): Promise<void> {
    const { transport, from } = await this.#way();
    const name = await this.#needs.accounts.teacherName();
    try {
      await transport.sendMail({
        ...{ from: { name, address: from }, to: { name, address: from } },
        subject: 'Mails to your students',
        text: 'This is how they come: one to each, from you.\n',
      });
    } finally {
      transport.close();
    }
  }
}
