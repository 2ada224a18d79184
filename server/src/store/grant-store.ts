import type { ShareLink, Viewer } from '@under-chalk/core/contract/share-links';
import { AppError } from '@under-chalk/core/errors/errors';
import {
  grantSchema,
  granteeKey,
  type Grant,
  type Grantee,
} from '@under-chalk/core/share-link/grant';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { newId } from './ids';

interface StoredGrant {
  readonly share_link_id: string;
  readonly grantee: Grantee['is'];
  readonly grantee_id: string | null;
  readonly available_from: string | null;
  readonly available_until: string | null;
}

/** A grant as it stands in the database, read. */
const read = ({ grantee, grantee_id, available_from, available_until }: StoredGrant): Grant =>
  grantSchema.parse({
    grantee: {
      is: grantee,
      ...(grantee === 'class' ? { classId: grantee_id } : { studentId: grantee_id }),
    },
    ...{ availableFrom: available_from, availableUntil: available_until },
  });

const idOf = (grantee: Grantee): string | null =>
  grantee.is === 'class' ? grantee.classId : grantee.is === 'student' ? grantee.studentId : null;

/** Students that a link is for by name or by their class, as a question; `share_link_id` is that of the grants. */
const studentsOf = (trx: Knex, shareLinkId: string): Knex.QueryBuilder =>
  trx('students').whereIn(
    'students.id',
    trx('class_students')
      .join('grants', 'grants.grantee_id', 'class_students.class_id')
      .join('classes', 'classes.id', 'class_students.class_id')
      .where({ share_link_id: shareLinkId, grantee: 'class', left_at: null })
      .whereNull('classes.removed_at')
      .select('student_id')
      .union(
        trx('grants')
          .where({ share_link_id: shareLinkId, grantee: 'student' })
          .select('grantee_id as student_id'),
      ),
  );

/** The same, each with what is known of when they have opened it. */
const viewersOf = (trx: Knex, shareLinkId: string): Knex.QueryBuilder =>
  studentsOf(trx, shareLinkId).leftJoin('views', (join) =>
    join.on('views.student_id', 'students.id').andOnVal('views.share_link_id', shareLinkId),
  );

/** Whoever opens a film again within so long has it open still, ms. */
const SAME_VIEW_MS = 60_000;

/** Who may watch what is handed out, and who has. */
export class GrantStore {
  readonly #db: Knex;
  /** Openings that are written down already: a film is asked for in many pieces. */
  readonly #written = new LRUCache<string, true>({ max: 5_000, ttl: SAME_VIEW_MS / 2 });

  constructor(db: Knex) {
    this.#db = db;
  }

  /** The grants of links, by the link's id. */
  async of(shareLinkIds: readonly string[]): Promise<Map<string, Grant[]>> {
    const rows: StoredGrant[] = await this.#db('grants')
      .whereIn('share_link_id', [...shareLinkIds])
      .orderBy('rowid');
    const of = new Map<string, Grant[]>(shareLinkIds.map((id) => [id, []]));
    for (const row of rows) of.get(row.share_link_id)!.push(read(row));
    return of;
  }

  /** Puts grants in the place of those that there were. @throws AppError `not-found` for a class or student that isn't there */
  async set(shareLinkId: string, grants: readonly Grant[], within: Knex = this.#db): Promise<void> {
    const each = new Map(grants.map((grant) => [granteeKey(grant.grantee), grant]));
    await within.transaction(async (trx) => {
      for (const { grantee } of each.values()) {
        if (grantee.is === 'anyone') continue;
        const there =
          grantee.is === 'class'
            ? trx('classes').where({ id: grantee.classId, removed_at: null })
            : trx('students').where({ id: grantee.studentId });
        if (!(await there.first())) throw new AppError('not-found', granteeKey(grantee));
      }
      await trx('grants').where({ share_link_id: shareLinkId }).delete();
      for (const { grantee, availableFrom, availableUntil } of each.values()) {
        await trx('grants').insert({
          ...{
            id: newId(),
            share_link_id: shareLinkId,
            grantee: grantee.is,
            grantee_id: idOf(grantee),
          },
          ...{ available_from: availableFrom, available_until: availableUntil },
        });
      }
    });
  }

  /** Who may watch it, by name; what is for a class that was taken away is left out as long as it is. */
  async watchers(shareLinkId: string): Promise<ShareLink['watchers']> {
    const rows: (StoredGrant & { name: string | null; students: number })[] = await this.#db(
      'grants',
    )
      .leftJoin('classes', (join) =>
        join.on('classes.id', 'grants.grantee_id').andOnNull('classes.removed_at'),
      )
      .leftJoin('students', 'students.id', 'grants.grantee_id')
      .where({ share_link_id: shareLinkId })
      .orderBy('grants.rowid')
      .select(
        'grants.*',
        this.#db.raw('coalesce(classes.name, students.name) as name'),
        this.#db.raw(
          `(select count(*) from class_students where class_id = grants.grantee_id and left_at is null) as students`,
        ),
      );
    return rows.flatMap((row) => {
      if (row.grantee === 'anyone') return [{ ...read(row), name: '', students: 0 }];
      if (row.name === null) return [];
      return [
        { ...read(row), name: row.name, students: row.grantee === 'class' ? row.students : 1 },
      ];
    });
  }

  /** The students that it is for, by name, and when each has opened it. */
  async viewers(shareLinkId: string): Promise<Viewer[]> {
    const rows: {
      id: string;
      name: string;
      first_at: string | null;
      last_at: string | null;
      times: number | null;
    }[] = await viewersOf(this.#db, shareLinkId).select(
      'students.id',
      'students.name',
      'first_at',
      'last_at',
      'times',
    );
    return rows
      .map((row) => ({
        ...{ studentId: row.id, name: row.name },
        ...{ firstAt: row.first_at, lastAt: row.last_at, times: row.times ?? 0 },
      }))
      .sort((a, b) => a.name.localeCompare(b.name));
  }

  /** How many students it is for by name, and how many have opened it. */
  async opened(shareLinkId: string): Promise<ShareLink['opened']> {
    const [row] = await viewersOf(this.#db, shareLinkId).count({ of: '*', students: 'first_at' });
    return { of: Number(row?.of ?? 0), students: Number(row?.students ?? 0) };
  }

  /** Writes down that a student has opened a film. What follows soon is the same opening. */
  async open(shareLinkId: string, studentId: string, nowMs = Date.now()): Promise<void> {
    const which = `${shareLinkId} ${studentId}`;
    if (this.#written.has(which)) return;
    this.#written.set(which, true);
    const at = new Date(nowMs).toISOString();
    const before = new Date(nowMs - SAME_VIEW_MS).toISOString();
    await this.#db.raw(
      `insert into views (share_link_id, student_id, first_at, last_at, times)
         select ?, id, ?, ?, 1 from students where id = ?
       on conflict (share_link_id, student_id) do update
         set times = times + (last_at < ?), last_at = excluded.last_at`,
      [shareLinkId, at, at, studentId, before],
    );
  }

  /** Links that a student has opened. */
  async openedBy(studentId: string): Promise<Set<string>> {
    const ids: string[] = await this.#db('views')
      .where({ student_id: studentId })
      .pluck('share_link_id');
    return new Set(ids);
  }
}
