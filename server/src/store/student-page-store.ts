import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import { randomInt } from 'node:crypto';
import { hashOf, newToken } from './ids';
import type { LinkSeal } from './link-seal';
import { passesOn } from './passes';

interface StoredPage {
  readonly student_id: string;
  readonly token_hash: string;
  readonly token_sealed: string;
  readonly pin_sealed: string | null;
  readonly revoked_at: string | null;
}

/** A student who comes by an address of their own. */
export interface Person {
  readonly is: 'student';
  readonly studentId: string;
  readonly name: string;
  /** The classes that they are in now. */
  readonly classIds: readonly string[];
  /** Of their page's address: another one when it is renewed. */
  readonly pageHash: string;
  /** Six digits that are asked for besides, and what a browser that has told them is known by; null: none are. */
  readonly pin: { readonly digits: string | null; readonly proof: string } | null;
}

type PersonRow = StoredPage & { readonly name: string };

/** Students' own pages: their addresses, which stand in the place of accounts, and those of the films on them. */
export class StudentPageStore {
  readonly #db: Knex;
  readonly #seal: LinkSeal;

  constructor(db: Knex, seal: LinkSeal) {
    this.#db = db;
    this.#seal = seal;
  }

  #toPage({ student_id, name, token_sealed, pin_sealed, revoked_at }: PersonRow): StudentPage {
    return {
      ...{ studentId: student_id, name, away: revoked_at !== null },
      key: this.#seal.opened(token_sealed),
      pin: pin_sealed === null ? null : this.#seal.opened(pin_sealed),
    };
  }

  async #add(trx: Knex, studentId: string): Promise<void> {
    const { hash, sealed } = this.#seal.keep(newToken());
    await trx('student_pages')
      .insert({
        ...{ student_id: studentId, token_hash: hash, token_sealed: sealed },
        created_at: new Date().toISOString(),
      })
      .onConflict('student_id')
      .ignore();
  }

  /** @throws AppError `not-found` */
  async #get(trx: Knex, studentId: string): Promise<PersonRow> {
    const row: PersonRow | undefined = await trx('student_pages')
      .join('students', 'students.id', 'student_pages.student_id')
      .where({ student_id: studentId })
      .first('student_pages.*', 'students.name');
    if (!row) throw new AppError('not-found', `the page of student ${studentId}`);
    return row;
  }

  /** The page of a student, who is given one if there is none. @throws AppError `not-found` */
  async page(studentId: string): Promise<StudentPage> {
    return this.#db.transaction(async (trx) => {
      const student = await trx('students').where({ id: studentId }).first();
      if (!student) throw new AppError('not-found', `student ${studentId}`);
      await this.#add(trx, studentId);
      return this.#toPage(await this.#get(trx, studentId));
    });
  }

  /** The pages of all who are in a class, by name; who has none is given one. @throws AppError `not-found` */
  async pagesOf(classId: string): Promise<StudentPage[]> {
    return this.#db.transaction(async (trx) => {
      if (!(await trx('classes').where({ id: classId, removed_at: null }).first()))
        throw new AppError('not-found', `class ${classId}`);
      const inClass = trx('class_students').where({ class_id: classId, left_at: null });
      const without: string[] = await inClass
        .clone()
        .whereNotIn('student_id', trx('student_pages').select('student_id'))
        .pluck('student_id');
      for (const id of without) await this.#add(trx, id);
      const rows: PersonRow[] = await trx('student_pages')
        .join('students', 'students.id', 'student_pages.student_id')
        .whereIn('student_id', inClass.clone().select('student_id'))
        .select('student_pages.*', 'students.name');
      return rows.map((row) => this.#toPage(row)).sort((a, b) => a.name.localeCompare(b.name));
    });
  }

  async #change(studentId: string, change: object): Promise<StudentPage> {
    await this.#db('student_pages').where({ student_id: studentId }).update(change);
    return this.#toPage(await this.#get(this.#db, studentId));
  }

  /** Another address for a page: what the old one led to is gone. @throws AppError `not-found` */
  async renew(studentId: string): Promise<StudentPage> {
    const { hash, sealed } = this.#seal.keep(newToken());
    await this.#db('passes').where({ student_id: studentId }).delete();
    return this.#change(studentId, {
      ...{ token_hash: hash, token_sealed: sealed, revoked_at: null },
      created_at: new Date().toISOString(),
    });
  }

  /** Takes a page away, or gives it back under its address. @throws AppError `not-found` */
  setOpen(studentId: string, open: boolean): Promise<StudentPage> {
    return this.#change(studentId, { revoked_at: open ? null : new Date().toISOString() });
  }

  /** Whether a PIN is asked for; it is another one each time. @throws AppError `not-found` */
  setNumber(studentId: string, asked: boolean): Promise<StudentPage> {
    const digits = String(randomInt(1_000_000)).padStart(6, '0');
    return this.#change(studentId, {
      pin_sealed: asked ? this.#seal.keep(digits).sealed : null,
    });
  }

  async #toPerson(row: PersonRow | undefined): Promise<Person | undefined> {
    if (!row) return undefined;
    const classIds: string[] = await this.#db('class_students')
      .join('classes', 'classes.id', 'class_students.class_id')
      .where({ student_id: row.student_id, left_at: null })
      .whereNull('classes.removed_at')
      .pluck('class_id');
    const { pin_sealed: sealed, token_hash: pageHash } = row;
    return {
      ...{ is: 'student', studentId: row.student_id, name: row.name, classIds, pageHash },
      pin:
        sealed === null
          ? null
          : {
              digits: this.#seal.opened(sealed),
              proof: this.#seal.tokenFor('pin', pageHash, sealed),
            },
    };
  }

  /** Gives pages to students who have none. */
  async give(studentIds: readonly string[]): Promise<void> {
    await this.#db.transaction(async (trx) => {
      for (const id of studentIds) await this.#add(trx, id);
    });
  }

  /** Of some students, whom a letter can reach: who has an address for mail, and no page that is taken away. */
  async reachable(studentIds: readonly string[]): Promise<Set<string>> {
    const away = this.#db('student_pages').whereNotNull('revoked_at').select('student_id');
    const ids: string[] = await this.#db('students')
      .whereIn('id', [...studentIds])
      .whereNotNull('address')
      .whereNotIn('id', away)
      .pluck('id');
    return new Set(ids);
  }

  /** A student who has a page that isn't taken away, with its key and their address for mail; undefined: there is none. */
  async person(
    studentId: string,
  ): Promise<(Person & { readonly key: string; readonly mail: string | null }) | undefined> {
    const row: (PersonRow & { address: string | null }) | undefined = await this.#db(
      'student_pages',
    )
      .join('students', 'students.id', 'student_pages.student_id')
      .where({ student_id: studentId, revoked_at: null })
      .first('student_pages.*', 'students.name', 'students.address');
    const person = await this.#toPerson(row);
    const key = row && this.#seal.opened(row.token_sealed);
    return person && row && key ? { ...person, key, mail: row.address } : undefined;
  }

  /** Whose page an address leads to; undefined where there is none (any more). */
  async personWith(key: string): Promise<Person | undefined> {
    const row: PersonRow | undefined = await this.#db('student_pages')
      .join('students', 'students.id', 'student_pages.student_id')
      .where({ token_hash: hashOf(key), revoked_at: null })
      .first('student_pages.*', 'students.name');
    return this.#toPerson(row);
  }

  /** Who comes by the address of a film on their page, and to which link; undefined where there is none (any more). */
  async byPass(token: string): Promise<{ person: Person; shareLinkId: string } | undefined> {
    const row: (PersonRow & { share_link_id: string }) | undefined = await this.#db('passes')
      .join('student_pages', 'student_pages.student_id', 'passes.student_id')
      .join('students', 'students.id', 'passes.student_id')
      .where({ 'passes.token_hash': hashOf(token), revoked_at: null })
      .first('student_pages.*', 'students.name', 'passes.share_link_id');
    const person = await this.#toPerson(row);
    return person && row ? { person, shareLinkId: row.share_link_id } : undefined;
  }

  /** Addresses of films for a student alone ({@link passesOn}). */
  passes({ studentId, pageHash }: Person, shareLinkIds: readonly string[]): Promise<string[]> {
    return passesOn(this.#db, this.#seal, { student_id: studentId }, pageHash, shareLinkIds);
  }
}
