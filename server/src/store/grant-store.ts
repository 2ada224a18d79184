import type { HandOut, Opening } from '@under-chalk/core/contract/hand-outs';
import { TellableError } from '@under-chalk/core/errors/errors';
import { grantSchema, whomKey, type Grant, type Whom } from '@under-chalk/core/hand-out/grant';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import { newId } from './ids';

interface StoredGrant {
  readonly hand_out_id: string;
  readonly whom: Whom['is'];
  readonly whom_id: string | null;
  readonly from_at: string | null;
  readonly until_at: string | null;
}

/** A grant as it stands in the database, read. */
const read = ({ whom, whom_id, from_at, until_at }: StoredGrant): Grant =>
  grantSchema.parse({
    whom: { is: whom, ...(whom === 'class' ? { classId: whom_id } : { studentId: whom_id }) },
    ...{ fromAt: from_at, untilAt: until_at },
  });

const idOf = (whom: Whom): string | null =>
  whom.is === 'class' ? whom.classId : whom.is === 'student' ? whom.studentId : null;

/** Students that a hand-out is for by name or by their class, as a question; `hand_out_id` is that of the grants. */
const studentsOf = (trx: Knex, handOutId: string): Knex.QueryBuilder =>
  trx('students').whereIn(
    'students.id',
    trx('class_students')
      .join('grants', 'grants.whom_id', 'class_students.class_id')
      .join('classes', 'classes.id', 'class_students.class_id')
      .where({ hand_out_id: handOutId, whom: 'class', left_at: null })
      .whereNull('classes.removed_at')
      .select('student_id')
      .union(
        trx('grants')
          .where({ hand_out_id: handOutId, whom: 'student' })
          .select('whom_id as student_id'),
      ),
  );

/** The same, each with what is known of when they have opened it. */
const openingsOf = (trx: Knex, handOutId: string): Knex.QueryBuilder =>
  studentsOf(trx, handOutId).leftJoin('openings', (join) =>
    join.on('openings.student_id', 'students.id').andOnVal('openings.hand_out_id', handOutId),
  );

/** Whoever opens a film again within so long has it open still, ms. */
const SAME_OPENING_MS = 60_000;

/** Who may watch what is handed out, and who has. */
export class GrantStore {
  readonly #db: Knex;
  /** Openings that are written down already: a film is asked for in many pieces. */
  readonly #written = new LRUCache<string, true>({ max: 5_000, ttl: SAME_OPENING_MS / 2 });

  constructor(db: Knex) {
    this.#db = db;
  }

  /** The grants of hand-outs, by the hand-out's id. */
  async of(handOutIds: readonly string[]): Promise<Map<string, Grant[]>> {
    const rows: StoredGrant[] = await this.#db('grants')
      .whereIn('hand_out_id', [...handOutIds])
      .orderBy('rowid');
    const of = new Map<string, Grant[]>(handOutIds.map((id) => [id, []]));
    for (const row of rows) of.get(row.hand_out_id)!.push(read(row));
    return of;
  }

  /** Puts grants in the place of those that there were. @throws TellableError `not-found` for a class or student that isn't there */
  async set(handOutId: string, grants: readonly Grant[], within: Knex = this.#db): Promise<void> {
    const each = new Map(grants.map((grant) => [whomKey(grant.whom), grant]));
    await within.transaction(async (trx) => {
      for (const { whom } of each.values()) {
        if (whom.is === 'anyone') continue;
        const there =
          whom.is === 'class'
            ? trx('classes').where({ id: whom.classId, removed_at: null })
            : trx('students').where({ id: whom.studentId });
        if (!(await there.first())) throw new TellableError('not-found', whomKey(whom));
      }
      await trx('grants').where({ hand_out_id: handOutId }).delete();
      for (const { whom, fromAt, untilAt } of each.values()) {
        await trx('grants').insert({
          ...{ id: newId(), hand_out_id: handOutId, whom: whom.is, whom_id: idOf(whom) },
          ...{ from_at: fromAt, until_at: untilAt },
        });
      }
    });
  }

  /** Who may watch it, by name; what is for a class that was taken away is left out as long as it is. */
  async watchers(handOutId: string): Promise<HandOut['watchers']> {
    const rows: (StoredGrant & { name: string | null; students: number })[] = await this.#db(
      'grants',
    )
      .leftJoin('classes', (join) =>
        join.on('classes.id', 'grants.whom_id').andOnNull('classes.removed_at'),
      )
      .leftJoin('students', 'students.id', 'grants.whom_id')
      .where({ hand_out_id: handOutId })
      .orderBy('grants.rowid')
      .select(
        'grants.*',
        this.#db.raw('coalesce(classes.name, students.name) as name'),
        this.#db.raw(
          `(select count(*) from class_students where class_id = grants.whom_id and left_at is null) as students`,
        ),
      );
    return rows.flatMap((row) => {
      if (row.whom === 'anyone') return [{ ...read(row), name: '', students: 0 }];
      if (row.name === null) return [];
      return [{ ...read(row), name: row.name, students: row.whom === 'class' ? row.students : 1 }];
    });
  }

  /** The students that it is for, by name, and when each has opened it. */
  async openings(handOutId: string): Promise<Opening[]> {
    const rows: {
      id: string;
      name: string;
      first_at: string | null;
      last_at: string | null;
      times: number | null;
    }[] = await openingsOf(this.#db, handOutId).select(
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
  async opened(handOutId: string): Promise<HandOut['opened']> {
    const [row] = await openingsOf(this.#db, handOutId).count({ of: '*', students: 'first_at' });
    return { of: Number(row?.of ?? 0), students: Number(row?.students ?? 0) };
  }

  /** Writes down that a student has opened a film. What follows soon is the same opening. */
  async open(handOutId: string, studentId: string, nowMs = Date.now()): Promise<void> {
    const which = `${handOutId} ${studentId}`;
    if (this.#written.has(which)) return;
    this.#written.set(which, true);
    const at = new Date(nowMs).toISOString();
    const before = new Date(nowMs - SAME_OPENING_MS).toISOString();
    await this.#db.raw(
      `insert into openings (hand_out_id, student_id, first_at, last_at, times)
         select ?, id, ?, ?, 1 from students where id = ?
       on conflict (hand_out_id, student_id) do update
         set times = times + (last_at < ?), last_at = excluded.last_at`,
      [handOutId, at, at, studentId, before],
    );
  }

  /** Hand-outs that a student has opened. */
  async openedBy(studentId: string): Promise<Set<string>> {
    const ids: string[] = await this.#db('openings')
      .where({ student_id: studentId })
      .pluck('hand_out_id');
    return new Set(ids);
  }
}
