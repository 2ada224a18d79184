import {
  mailServerSchema,
  type MailServer,
  type MailSettings,
} from '@under-chalk/core/contract/mail';
import type { Knex } from 'knex';
import * as z from 'zod';
import { newId } from './ids';
import type { LinkSeal } from './link-seal';

export interface StoredMail {
  readonly id: string;
  readonly share_link_id: string;
  readonly student_id: string;
  readonly batch_id: string;
  readonly state: 'waiting' | 'sent' | 'failed';
  readonly at: string;
  readonly tries: number;
  readonly problem: string | null;
}

/** An e-mail that is to be sent, with what was said when it was written. */
export interface MailToSend extends StoredMail {
  readonly note: string;
  /** Where browsers reach this server. */
  readonly origin: string;
  /** The teacher's time zone (IANA); null: written before time zones were stored. */
  readonly time_zone: string | null;
}

const SETTING = 'mail-server';
const keptSchema = z.object({ server: mailServerSchema, password: z.string().nullable() });

/** E-mails to students, and the server that they go through. What stands in an e-mail is put together when it is sent. */
export class MailStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  async #kept(): Promise<z.infer<typeof keptSchema> | null> {
    const row = await this.#db('settings').where({ name: SETTING }).first('value');
    return row ? keptSchema.parse(JSON.parse(row.value)) : null;
  }

  async settings(): Promise<MailSettings> {
    const kept = await this.#kept();
    return { server: kept?.server ?? null, hasPassword: Boolean(kept?.password) };
  }

  /** The server with its password; null: there is none. */
  async server(): Promise<{ server: MailServer; password: string } | null> {
    const kept = await this.#kept();
    if (!kept) return null;
    const password = kept.password === null ? null : this.#seal.opened(kept.password);
    return { server: kept.server, password: password ?? '' };
  }

  /** @param password undefined: as it is, as long as it is for the same user of the same server */
  async set(server: MailServer | null, password: string | undefined): Promise<void> {
    if (server === null) {
      await this.#db('settings').where({ name: SETTING }).delete();
      return;
    }
    const before = await this.#kept();
    const same = before?.server.host === server.host && before.server.user === server.user;
    const sealed =
      password === undefined
        ? same
          ? before.password
          : null
        : password === ''
          ? null
          : this.#seal.keep(password).sealed;
    await this.#db('settings')
      .insert({ name: SETTING, value: JSON.stringify({ server, password: sealed }) })
      .onConflict('name')
      .merge();
  }

  /** Writes to students about a link. Who has an e-mail about it that waits still gets no second one. */
  async write(
    shareLinkId: string,
    studentIds: readonly string[],
    said: { readonly note: string; readonly origin: string; readonly timeZone: string },
  ): Promise<void> {
    const at = new Date().toISOString();
    await this.#db.transaction(async (trx) => {
      const waiting: string[] = await trx('mail')
        .where({ share_link_id: shareLinkId, state: 'waiting' })
        .pluck('student_id');
      const to = studentIds.filter((id) => !waiting.includes(id));
      if (to.length === 0) return;
      const batchId = newId();
      const { note, origin, timeZone: time_zone } = said;
      const mailing = { id: batchId, share_link_id: shareLinkId, note, origin, time_zone, at };
      await trx('mail_batches').insert(mailing);
      for (const studentId of to) {
        await trx('mail').insert({
          ...{ id: newId(), share_link_id: shareLinkId, student_id: studentId, batch_id: batchId },
          ...{ state: 'waiting', at, tries: 0 },
        });
      }
    });
  }

  /** The last e-mail to each student about a link. */
  async lastOf(shareLinkId: string): Promise<Map<string, StoredMail>> {
    const rows: StoredMail[] = await this.#db('mail')
      .where({ share_link_id: shareLinkId })
      .orderBy('rowid');
    return new Map(rows.map((row) => [row.student_id, row]));
  }

  /** Those that are still to be sent, oldest first. */
  waiting(): Promise<MailToSend[]> {
    return this.#db('mail')
      .join('mail_batches', 'mail_batches.id', 'mail.batch_id')
      .where({ state: 'waiting' })
      .orderBy('mail.rowid')
      .select('mail.*', 'mail_batches.note', 'mail_batches.origin', 'mail_batches.time_zone');
  }

  async change(
    id: string,
    change: Partial<Pick<StoredMail, 'state' | 'tries' | 'problem'>>,
  ): Promise<void> {
    await this.#db('mail')
      .where({ id })
      .update({ ...change, at: new Date().toISOString() });
  }
}
