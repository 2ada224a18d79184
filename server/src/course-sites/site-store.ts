import { courseSiteSchema, type CourseSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import { countOf } from '../store/count-of';
import { hashOf } from '../store/ids';
import { FIRST_TEACHER } from '../store/migrations';

/** Most sites that are joined. */
const MOST_SITES = 50;
/** Most courses of one site. */
const MOST_COURSES = 2_000;

/** A course in a site that somebody has come from. */
export interface StoredCourse {
  readonly site_id: string;
  /** What the site calls it (LTI context id). */
  readonly course_id: string;
  readonly title: string;
  /** The class that those who come from it are of; null: none was chosen yet. */
  readonly class_id: string | null;
  /** Where its roster can be asked for; null: nowhere. */
  readonly roster_address: string | null;
}

interface SiteRow {
  readonly id: string;
  readonly name: string;
  readonly issuer: string;
  readonly client_id: string;
  readonly auth_address: string;
  readonly token_address: string;
  readonly keys_address: string;
}

const readSite = (row: SiteRow) =>
  courseSiteSchema.safeParse({
    ...{ id: row.id, name: row.name, issuer: row.issuer, clientId: row.client_id },
    ...{ authAddress: row.auth_address, tokenAddress: row.token_address },
    keysAddress: row.keys_address,
  });

/** @throws AppError `site-unfit` for a row that can't be read */
const toSite = (row: SiteRow): CourseSite => {
  const { data, error } = readSite(row);
  if (!data) throw new AppError('site-unfit', `course site ${row.id}`, { cause: error });
  return data;
};

const NOWHERE = 'https://nowhere.invalid/';

/** What stands in the list for a row that can't be read, so that it can be removed. */
const damagedSite = ({ id }: SiteRow): CourseSite => ({
  ...{ id, name: 'Damaged course site', issuer: NOWHERE, clientId: '?' },
  ...{ authAddress: NOWHERE, tokenAddress: NOWHERE, keysAddress: NOWHERE },
});

/** Course sites that are joined, the courses in them that somebody has come from, and who they were. */
export class SiteStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  async all(): Promise<(CourseSite & { readonly damaged: boolean })[]> {
    const rows = await this.#db<SiteRow>('course_sites').orderBy('rowid').select('*');
    return rows.map((row) => {
      const { data } = readSite(row);
      return { ...(data ?? damagedSite(row)), damaged: data === undefined };
    });
  }

  /** @throws AppError `not-found` */
  async get(id: string): Promise<CourseSite> {
    const row: SiteRow | undefined = await this.#db('course_sites').where({ id }).first();
    if (!row) throw new AppError('not-found', `course site ${id}`);
    return toSite(row);
  }

  /** The site that an issuer stands for. @param clientId where the issuer has several of us; null: it wasn't told */
  async from(issuer: string, clientId: string | null): Promise<CourseSite | null> {
    const rows: SiteRow[] = await this.#db('course_sites').where({
      issuer,
      ...(clientId === null ? {} : { client_id: clientId }),
    });
    // Told apart by nothing, it could be either.
    return rows.length === 1 ? toSite(rows[0]!) : null;
  }

  /** Joins a site, or changes what is known of it. @throws AppError `exists-already`, `too-many-sites` */
  async set(site: CourseSite): Promise<void> {
    const { id, name, issuer, clientId, authAddress, tokenAddress, keysAddress } = site;
    await this.#db.transaction(async (trx) => {
      const same = await trx('course_sites')
        .where({ issuer, client_id: clientId })
        .whereNot({ id })
        .first();
      if (same) throw new AppError('exists-already', `${issuer} ${clientId}`);
      const row = {
        ...{ name, issuer, client_id: clientId, auth_address: authAddress },
        ...{ token_address: tokenAddress, keys_address: keysAddress },
      };
      if ((await trx('course_sites').where({ id }).update(row)) > 0) return;
      if ((await countOf(trx('course_sites'))) >= MOST_SITES) throw new AppError('too-many-sites');
      const created_at = new Date().toISOString();
      await trx('course_sites').insert({ ...row, id, created_at, teacher_id: FIRST_TEACHER });
    });
  }

  /** Forgets a site, with what came from it; students and classes stay. @throws AppError `not-found` */
  async remove(id: string): Promise<void> {
    await this.#db.transaction(async (trx) => {
      for (const table of ['site_scores', 'site_people', 'site_courses'])
        await trx(table).where({ site_id: id }).delete();
      if ((await trx('course_sites').where({ id }).delete()) === 0)
        throw new AppError('not-found', `course site ${id}`);
    });
  }

  /** Courses of a site, as they were seen first. */
  courses(siteId: string): Promise<StoredCourse[]> {
    return this.#db('site_courses').where({ site_id: siteId }).orderBy('rowid').select('*');
  }

  /** Somebody has come from a course: it is known from now on. @throws AppError `too-many-courses` */
  async seen(
    siteId: string,
    course: { readonly id: string; readonly title: string },
    rosterAddress: string | null,
  ): Promise<StoredCourse> {
    const row = { site_id: siteId, course_id: course.id, title: course.title };
    const own = this.#db('site_courses').where({ site_id: siteId });
    const others = own.clone().whereNot({ course_id: course.id });
    if ((await countOf(others)) >= MOST_COURSES) throw new AppError('too-many-courses');
    await this.#db('site_courses')
      .insert({ ...row, roster_address: rosterAddress, class_id: null, teacher_id: FIRST_TEACHER })
      .onConflict(['site_id', 'course_id'])
      .merge({
        title: course.title,
        ...(rosterAddress === null ? {} : { roster_address: rosterAddress }),
      });
    return this.course(siteId, course.id);
  }

  /** @throws AppError `not-found` */
  async course(siteId: string, courseId: string): Promise<StoredCourse> {
    const row: StoredCourse | undefined = await this.#db('site_courses')
      .where({ site_id: siteId, course_id: courseId })
      .first();
    if (!row) throw new AppError('not-found', `course ${courseId}`);
    const theirs = row.class_id
      ? await this.#db('classes').where({ id: row.class_id, removed_at: null }).first('id')
      : undefined;
    return { ...row, class_id: theirs ? row.class_id : null };
  }

  /** Those who come from a course are of a class. @throws AppError `not-found` */
  async setClass(siteId: string, courseId: string, classId: string | null): Promise<void> {
    if (
      classId &&
      !(await this.#db('classes').where({ id: classId, removed_at: null }).first('id'))
    )
      throw new AppError('not-found', `class ${classId}`);
    const changed = await this.#db('site_courses')
      .where({ site_id: siteId, course_id: courseId })
      .update({ class_id: classId });
    if (changed === 0) throw new AppError('not-found', `course ${courseId}`);
  }

  /** The student that a site knows by a name of its own; null: nobody yet. */
  async studentOf(siteId: string, sub: string): Promise<string | null> {
    const row: { student_id: string } | undefined = await this.#db('site_people')
      .where({ site_id: siteId, sub })
      .first('student_id');
    return row?.student_id ?? null;
  }

  /** Whether something that counts once has not been used before. `now`, `until` in ms since 1970. */
  async useOnce(once: string, until: number, now = Date.now()): Promise<boolean> {
    await this.#db('site_nonces').where('until', '<', now).delete();
    const added = await this.#db('site_nonces')
      .insert({ hash: hashOf(once), until })
      .onConflict('hash')
      .ignore()
      .returning('hash');
    return added.length > 0;
  }

  /** What was used for nothing counts again. */
  async unuse(once: string): Promise<void> {
    await this.#db('site_nonces')
      .where({ hash: hashOf(once) })
      .delete();
  }
}
