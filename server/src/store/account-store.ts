import { hash, verify } from '@node-rs/argon2';
import { isDiskFull } from '@under-chalk/render';
import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Knex } from 'knex';
import { hashOf } from './ids';

const DAY_MS = 86_400_000;
const SESSION_MS = 30 * DAY_MS;

/** Whether two secrets are the same, in a time that doesn't tell how much of them is. */
export const sameSecret = (a: string, b: string): boolean =>
  timingSafeEqual(Buffer.from(hashOf(a)), Buffer.from(hashOf(b)));

const sign = (name: string, key: string) =>
  createHmac('sha256', key).update(name).digest('base64url');

/** The teacher the app belongs to, and the browsers that are signed in. */
export class AccountStore {
  readonly #db: Knex;
  /** Key for marks as long as none is stored. */
  readonly #newMarkKey = randomBytes(32).toString('hex');
  /** Sessions that could not be stored: token hash → expiry in ms since 1970. They end with the process. */
  readonly #unkept = new Map<string, number>();

  constructor(db: Knex) {
    this.#db = db;
  }

  async #setting(name: string): Promise<string | null> {
    const row = await this.#db('settings').where({ name }).first('value');
    return row?.value ?? null;
  }

  async isSetUp(): Promise<boolean> {
    return (await this.#setting('passphrase')) !== null;
  }

  async teacherName(): Promise<string> {
    return (await this.#setting('teacher-name')) ?? '';
  }

  /** Sets name and passphrase once. @returns false when they had been set before */
  async setUp(teacherName: string, passphrase: string): Promise<boolean> {
    const hashed = await hash(passphrase);
    return this.#db.transaction(async (trx) => {
      if (await trx('settings').where({ name: 'passphrase' }).first()) return false;
      await trx('settings').insert([
        { name: 'passphrase', value: hashed },
        { name: 'teacher-name', value: teacherName },
      ]);
      return true;
    });
  }

  async setTeacherName(teacherName: string): Promise<void> {
    await this.#db('settings').where({ name: 'teacher-name' }).update({ value: teacherName });
  }

  /** Sets another passphrase. Every session ends but the one with this token. */
  async setPassphrase(passphrase: string, but: string | null): Promise<void> {
    const hashed = await hash(passphrase);
    await this.#db.transaction(async (trx) => {
      await trx('settings').where({ name: 'passphrase' }).update({ value: hashed });
      await trx('sessions')
        .whereNot({ token_hash: but === null ? '' : hashOf(but) })
        .delete();
    });
    for (const unkept of this.#unkept.keys())
      if (but === null || unkept !== hashOf(but)) this.#unkept.delete(unkept);
  }

  async isPassphrase(passphrase: string): Promise<boolean> {
    const hashed = await this.#setting('passphrase');
    return hashed !== null && (await verify(hashed, passphrase));
  }

  /** What marks of known browsers are made with; made when it is first needed. */
  async #markKey(): Promise<string> {
    const present = await this.#setting('mark-key');
    if (present) return present;
    await this.#db('settings')
      .insert({ name: 'mark-key', value: this.#newMarkKey })
      .onConflict('name')
      .ignore()
      .catch((error: unknown) => {
        if (!isDiskFull(error)) throw error;
      });
    return (await this.#setting('mark-key')) ?? this.#newMarkKey;
  }

  /** A mark for a browser in which the teacher has signed in: nobody else can make one. */
  async newMark(): Promise<string> {
    const name = randomBytes(12).toString('base64url');
    return `${name}.${sign(name, await this.#markKey())}`;
  }

  async isMark(mark: string): Promise<boolean> {
    const [name = '', signature = ''] = mark.split('.');
    return sameSecret(signature, sign(name, await this.#markKey()));
  }

  /**
   * Signs a browser in. Only a hash of the token is stored. On a full disk the session lasts until the server ends.
   *
   * @returns the token for its cookie
   */
  async newSession(): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    const session = { token_hash: hashOf(token), expires_at: Date.now() + SESSION_MS };
    try {
      await this.#db('sessions').where('expires_at', '<', Date.now()).delete();
      await this.#db('sessions').insert(session);
    } catch (error) {
      // The teacher has to sign in to free space.
      if (!isDiskFull(error)) throw error;
      this.#unkept.set(session.token_hash, session.expires_at);
    }
    return token;
  }

  async isSession(token: string): Promise<boolean> {
    const row = await this.#db('sessions')
      .where({ token_hash: hashOf(token) })
      .first('expires_at');
    const until = row?.expires_at ?? this.#unkept.get(hashOf(token));
    return until !== undefined && until > Date.now();
  }

  async endSession(token: string): Promise<void> {
    this.#unkept.delete(hashOf(token));
    await this.#db('sessions')
      .where({ token_hash: hashOf(token) })
      .delete();
  }
}
