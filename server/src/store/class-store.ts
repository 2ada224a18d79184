import type { ClassRow, ClassView } from '@under-chalk/core/contract/classes';
import type { Newcomer } from '@under-chalk/core/contract/course-sites';
import {
  classSchema,
  KnownStudents,
  MOST_CLASSES,
  MOST_IN_CLASS,
  MOST_STUDENTS,
  type Class,
  type ClassMail,
  type NewStudent,
  type Student,
} from '@under-chalk/core/class/class';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Grant } from '@under-chalk/core/share-link/grant';
import type { Knex } from 'knex';
import { dueBefore } from './bin-time';
import { countOf } from './count-of';
import { eraseStudents } from './erase-students';
import { newId } from './ids';
import { mergeStudents } from './merge-students';
import { FIRST_TEACHER } from './migrations';

interface StoredClass {
  readonly id: string;
  readonly name: string;
  readonly units: string;
  readonly mail: string | null;
  readonly removed_at: string | null;
}

const read = ({ id, name, units, mail }: StoredClass): Class =>
  classSchema.parse({
    ...{ id, name, units: JSON.parse(units) },
    ...(mail === null ? {} : { mail: JSON.parse(mail) }),
  });

/** Classes, and who is in them. */
export class ClassStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  async all(): Promise<ClassRow[]> {
    const rows: (StoredClass & { students: number; lessons: number })[] = await this.#db('classes')
      .where({ removed_at: null })
      .orderBy('rowid')
      .select(
        'classes.*',
        this.#db.raw(
          '(select count(*) from class_students where class_id = classes.id and left_at is null) as students',
        ),
        this.#db.raw(
          `(select count(*) from lessons where removed_at is null
             and json_extract(summary, '$.className') = classes.name) as lessons`,
        ),
      );
    return rows.map((row) => ({ ...read(row), students: row.students, lessons: row.lessons }));
  }

  /** Some of them, in the order in which they were made. */
  async withIds(ids: readonly string[]): Promise<Class[]> {
    const rows: StoredClass[] = await this.#db('classes')
      .whereIn('id', [...ids])
      .where({ removed_at: null })
      .orderBy('rowid');
    return rows.map(read);
  }

  /** @throws AppError `not-found` */
  async #get(trx: Knex, id: string): Promise<StoredClass> {
    const row = await trx('classes').where({ id, removed_at: null }).first();
    if (!row) throw new AppError('not-found', `class ${id}`);
    return row;
  }

  /** @throws AppError `not-found` */
  async view(id: string, trx: Knex = this.#db): Promise<ClassView> {
    const found = read(await this.#get(trx, id));
    const students: Student[] = await this.#studentsOf(trx, id);
    const others: { student_id: string; name: string }[] = await trx('class_students as mine')
      .join('class_students as theirs', 'theirs.student_id', 'mine.student_id')
      .join('classes', 'classes.id', 'theirs.class_id')
      .where({ 'mine.class_id': id, 'mine.left_at': null, 'theirs.left_at': null })
      .whereNot('theirs.class_id', id)
      .whereNull('classes.removed_at')
      .select('mine.student_id as student_id', 'classes.name as name');
    const alsoIn = new Map<string, string[]>();
    for (const { student_id, name } of others)
      alsoIn.set(student_id, [...(alsoIn.get(student_id) ?? []), name]);
    return {
      ...found,
      students: students
        .map((student) => ({ ...student, alsoIn: (alsoIn.get(student.id) ?? []).sort() }))
        .sort((a, b) => a.name.localeCompare(b.name)),
    };
  }

  #studentsOf(trx: Knex, classId: string): Promise<Student[]> {
    return trx('class_students')
      .join('students', 'students.id', 'class_students.student_id')
      .where({ class_id: classId, left_at: null })
      .select('students.id', 'students.name', 'students.address');
  }

  /** @throws AppError `not-found` for one that was taken away; `class-name-taken`, `too-many-classes` */
  async set({ id, name, units, mail }: Class): Promise<ClassView> {
    return this.#db.transaction(async (trx) => {
      await this.checkName({ id, name }, trx);
      const row = {
        ...{ name, units: JSON.stringify(units) },
        ...(mail ? { mail: JSON.stringify(mail) } : {}),
      };
      const present: StoredClass | undefined = await trx('classes').where({ id }).first();
      if (present?.removed_at) throw new AppError('not-found', `class ${id}`);
      if (present) await trx('classes').where({ id }).update(row);
      else {
        if ((await countOf(trx('classes').where({ removed_at: null }))) >= MOST_CLASSES)
          throw new AppError('too-many-classes');
        await trx('classes').insert({ ...row, id, teacher_id: FIRST_TEACHER });
      }
      return this.view(id, trx);
    });
  }

  /** How e-mails to a student about a link are written: as those to a class that it is for, else to a class that they are in. */
  async mailFor(studentId: string, grants: readonly Grant[]): Promise<ClassMail | null> {
    const rows: StoredClass[] = await this.#db('classes')
      .join('class_students', 'class_students.class_id', 'classes.id')
      .where({ student_id: studentId, left_at: null, removed_at: null })
      .orderBy('classes.rowid')
      .select('classes.*');
    const isFor = new Set(
      grants.map(({ grantee }) => (grantee.is === 'class' ? grantee.classId : null)),
    );
    const one = rows.find(({ id }) => isFor.has(id)) ?? rows[0];
    return (one && read(one).mail) ?? null;
  }

  /** @throws AppError `class-name-taken` where another class is called so */
  async checkName({ id, name }: Pick<Class, 'id' | 'name'>, trx: Knex = this.#db): Promise<void> {
    const taken = await trx('classes').where({ name, removed_at: null }).whereNot({ id }).first();
    if (taken) throw new AppError('class-name-taken', name);
  }

  /** Puts the lessons of a unit into an order. @throws AppError `not-found` */
  async order(id: string, unitId: string, lessons: readonly string[]): Promise<ClassView> {
    return this.#db.transaction(async (trx) => {
      const { units } = await this.view(id, trx);
      if (!units.some((unit) => unit.id === unitId))
        throw new AppError('not-found', `unit ${unitId}`);
      const now = units.map((unit) => (unit.id === unitId ? { ...unit, lessons } : unit));
      await trx('classes')
        .where({ id })
        .update({ units: JSON.stringify(now) });
      return this.view(id, trx);
    });
  }

  /** Takes a class away, or brings it back. @throws AppError `not-found`; `class-name-taken` */
  async change(id: string, kept: boolean): Promise<void> {
    await this.#db.transaction(async (trx) => {
      const row: StoredClass | undefined = await trx('classes').where({ id }).first();
      if (!row) throw new AppError('not-found', `class ${id}`);
      const { name } = row;
      const other = trx('classes').where({ name, removed_at: null }).whereNot({ id }).first();
      if (kept && (await other)) throw new AppError('class-name-taken', name);
      const removedAt = kept ? null : (row.removed_at ?? new Date().toISOString());
      await trx('classes').where({ id }).update({ removed_at: removedAt });
    });
  }

  /**
   * Brings students into a class, each once.
   *
   * @returns how many weren't in it
   * @throws AppError `not-found`; `too-many-students`
   */
  async enrol(classId: string, coming: readonly NewStudent[]): Promise<number> {
    return this.#enrol(classId, coming);
  }

  /**
   * Brings somebody into a class whom a course site knows: who they were before; else whoever is in this class with their
   * address and is known to no site yet; else somebody new. Somebody of another class is never taken for them, whatever their
   * address: the teacher is asked whether they are the same person (`newcomers`).
   *
   * @param byName somebody of that name is taken for them where no address says otherwise: who says so has to be trusted with it
   * @returns which student that is
   * @throws AppError `not-found`; `too-many-students`
   */
  async enrolFromSite(
    classId: string,
    { siteId, sub }: { readonly siteId: string; readonly sub: string },
    coming: NewStudent,
    byName: boolean,
  ): Promise<string> {
    return this.#db.transaction(async (trx) => {
      await this.#get(trx, classId);
      const key = { site_id: siteId, sub };
      const known: { student_id: string } | undefined = await trx('site_people').where(key).first();
      if (known) {
        await this.#join(trx, classId, known.student_id);
        return known.student_id;
      }
      const linked = new Set<string>(await trx('site_people').pluck('student_id'));
      const present: Student[] = await this.#studentsOf(trx, classId);
      const free = new KnownStudents(present.filter(({ id }) => !linked.has(id)));
      const same = byName ? free.find(coming) : free.withAddress(coming);
      const { id, ...maybe } = same
        ? { id: same.id }
        : await this.#addNewcomer(trx, coming, present);
      await this.#join(trx, classId, id);
      await trx('site_people').insert({
        ...{ ...key, ...maybe, student_id: id, teacher_id: FIRST_TEACHER },
      });
      if (!same && present.length >= MOST_IN_CLASS) throw new AppError('too-many-students');
      return id;
    });
  }

  /** New students from a course site who may already exist. */
  async newcomers(siteId: string): Promise<Newcomer[]> {
    const rows: { student_id: string; maybe_student_id: string; maybe_by: Newcomer['by'] }[] =
      await this.#db('site_people')
        .where({ site_id: siteId })
        .whereNotNull('maybe_student_id')
        .orderBy('rowid')
        .select('student_id', 'maybe_student_id', 'maybe_by');
    const personOf = async (id: string) => {
      const { name, address }: Student = await this.#db('students').where({ id }).first();
      const classes: string[] = await this.#db('class_students')
        .join('classes', 'classes.id', 'class_students.class_id')
        .where({ student_id: id, left_at: null, removed_at: null })
        .orderBy('classes.rowid')
        .pluck('classes.name');
      return { studentId: id, name, address, classes };
    };
    return Promise.all(
      rows.map(async ({ student_id, maybe_student_id, maybe_by: by }) => ({
        ...{ by, ...(await personOf(student_id)) },
        other: await personOf(maybe_student_id),
      })),
    );
  }

  /**
   * Stores the teacher's answer to whether a newcomer already exists, and merges the two if so.
   *
   * @throws AppError `not-found` if the question is no longer open; `both-submitted`
   */
  async ingestNewcomer(siteId: string, studentId: string, isSame: boolean): Promise<void> {
    await this.#db.transaction(async (trx) => {
      const which = { site_id: siteId, student_id: studentId };
      const row: { maybe_student_id: string } | undefined = await trx('site_people')
        .where(which)
        .whereNotNull('maybe_student_id')
        .first('maybe_student_id');
      if (!row) throw new AppError('not-found', `newcomer ${studentId}`);
      await trx('site_people').where(which).update({ maybe_student_id: null });
      if (isSame) await mergeStudents(trx, { from: studentId, into: row.maybe_student_id });
    });
  }

  /**
   * Adds somebody from a course site, and tells who may be the same person: a student with their address in any class, or with their name
   * in this one. A taken address is not stored, because what is sent there is for its owner.
   *
   * @throws AppError `too-many-students`
   */
  async #addNewcomer(trx: Knex, coming: NewStudent, present: readonly Student[]) {
    const rows: Student[] = await trx('students').select('id', 'name', 'address');
    if (rows.length >= MOST_STUDENTS) throw new AppError('too-many-students');
    const { name, address } = coming;
    const byAddress = new KnownStudents(rows).withAddress(coming);
    const byName = new KnownStudents(present).find({ name, address: null });
    const id = newId();
    await trx('students').insert({
      ...{ id, name, address: byAddress ? null : address },
      ...{ created_at: new Date().toISOString(), teacher_id: FIRST_TEACHER },
    });
    return {
      id,
      maybe_student_id: (byAddress ?? byName)?.id ?? null,
      maybe_by: byAddress ? 'address' : byName ? 'name' : null,
    };
  }

  async #enrol(classId: string, coming: readonly NewStudent[]): Promise<number> {
    return this.#db.transaction(async (trx) => {
      await this.#get(trx, classId);
      const present = new KnownStudents(await this.#studentsOf(trx, classId));
      const rows: Student[] = await trx('students').select('id', 'name', 'address');
      const known = new KnownStudents(rows);
      let added = 0;
      for (const one of coming) {
        if (present.find(one)) continue;
        // A name alone says not enough to take somebody of another class for the same.
        const same = known.withAddress(one);
        const student = same ?? { id: newId(), ...one };
        if (!same) {
          await trx('students').insert({
            ...student,
            ...{ created_at: new Date().toISOString(), teacher_id: FIRST_TEACHER },
          });
          known.add(student);
        }
        await this.#join(trx, classId, student.id);
        present.add(student);
        added++;
      }
      if (present.size > MOST_IN_CLASS || known.size > MOST_STUDENTS)
        throw new AppError('too-many-students');
      return added;
    });
  }

  async #join(trx: Knex, classId: string, studentId: string): Promise<void> {
    await trx('class_students')
      .insert({ class_id: classId, student_id: studentId, teacher_id: FIRST_TEACHER })
      .onConflict(['class_id', 'student_id'])
      .merge({ left_at: null });
  }

  /** @throws AppError `not-found` */
  async join(classId: string, studentId: string): Promise<void> {
    await this.#db.transaction(async (trx) => {
      await this.#get(trx, classId);
      if (!(await trx('students').where({ id: studentId }).first()))
        throw new AppError('not-found', `student ${studentId}`);
      await this.#join(trx, classId, studentId);
    });
  }

  /** @throws AppError `not-found` */
  async leave(classId: string, studentId: string): Promise<void> {
    const left = await this.#db('class_students')
      .where({ class_id: classId, student_id: studentId, left_at: null })
      .update({ left_at: new Date().toISOString() });
    if (left === 0) throw new AppError('not-found', `student ${studentId} in ${classId}`);
  }

  /** @throws AppError `not-found` */
  async changeStudent(id: string, { name, address }: NewStudent): Promise<void> {
    const changed = await this.#db('students').where({ id }).update({ name, address });
    if (changed === 0) throw new AppError('not-found', `student ${id}`);
  }

  /**
   * Erases a student with all that is known of them in the database.
   *
   * @returns their address, to erase what was sent there
   * @throws AppError `not-found`
   */
  async erase(id: string): Promise<string | null> {
    return this.#db.transaction(async (trx) => {
      const student: Pick<Student, 'address'> | undefined = await trx('students')
        .where({ id })
        .first('address');
      if (!student) throw new AppError('not-found', `student ${id}`);
      await eraseStudents(trx, [id]);
      return student.address;
    });
  }

  /**
   * Forgets classes that were taken away as long ago as the bin keeps things, who left a class so long ago, and students that are in no
   * class any more. `now` in ms since 1970.
   */
  async forget(now: number): Promise<void> {
    const before = dueBefore(now);
    await this.#db.transaction(async (trx) => {
      const due = trx('classes').where('removed_at', '<', before).select('id');
      await trx('class_students').whereIn('class_id', due.clone()).delete();
      await trx('grants').where({ grantee: 'class' }).whereIn('grantee_id', due.clone()).delete();
      for (const table of ['passes', 'class_pages'])
        await trx(table).whereIn('class_id', due.clone()).delete();
      await trx('class_students').where('left_at', '<', before).delete();
      await due.clone().clearSelect().delete();
      const inNone: string[] = await trx('students')
        .whereNotIn('id', trx('class_students').select('student_id'))
        .where('created_at', '<', before)
        .pluck('id');
      await eraseStudents(trx, inNone);
    });
  }
}
