import { isLate } from '@under-chalk/core/submission/assignment';
import {
  MOST_FILES,
  type Submission,
  type SubmissionFile,
} from '@under-chalk/core/submission/submission';
import type { GivenIn } from '@under-chalk/core/contract/submissions';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Knex } from 'knex';
import type { Answering } from './answer-store';
import { countOf } from './count-of';

/** Who hands in: a student, or a device of somebody without an address of their own. */
export type Giver = Answering;

interface FileRow {
  readonly id: string;
  readonly share_link_id: string;
  readonly viewer: string;
  /** Null: of somebody without an address of their own. */
  readonly student_id: string | null;
  readonly name: string;
  readonly by: SubmissionFile['by'];
  /** Null: it is still coming. */
  readonly kind: SubmissionFile['kind'] | null;
  readonly bytes: number;
  readonly length_us: number | null;
  /** 1: it is part of what was handed in. */
  readonly submitted: number;
}

/** A file that will come, as it is announced. */
export type AnnouncedFile = Pick<FileRow, 'id' | 'name' | 'by' | 'bytes'>;

interface Row {
  readonly viewer: string;
  readonly student_id: string | null;
  readonly text: string;
  readonly at: string;
  /** Of the student; else what they say. */
  readonly name: string;
}

/** Submissions under one link of those without an address of their own, and files of one giver that aren’t handed in. */
const MOST_UNNAMED = 500;
const MOST_LOOSE = 2 * MOST_FILES;
/** Files under one link, handed in or not: two hundred students with a half-filled list each. */
const MOST_LINK_BYTES = 15_000_000_000;
/** Of these, what those without an address of their own may fill: the rest is the class's. */
const MOST_STRANGERS_BYTES = MOST_LINK_BYTES / 2;

/** How many bytes have come of files that are still coming, by their ids. What is only announced takes no room. */
export type ReceivedBytes = ReadonlyMap<string, number>;

const viewerOf = ({ studentId, visitor }: Giver): string => studentId ?? `visitor ${visitor}`;

const toFile = ({ id, name, by, kind, bytes, length_us }: FileRow): SubmissionFile => ({
  ...{ id, name, by, bytes, lengthUs: length_us },
  kind: kind!,
});

/** What is handed in under links: of each who does, what they handed in last. */
export class SubmissionStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** A file will come, under its id. Told again, it is the same. @throws AppError `too-many-files`, `too-many-submissions` */
  async announce(giver: Giver, file: AnnouncedFile, received: ReceivedBytes): Promise<void> {
    const whose = { share_link_id: giver.shareLinkId, viewer: viewerOf(giver) };
    await this.#db.transaction(async (trx) => {
      const before: FileRow | undefined = await trx('submission_files')
        .where({ id: file.id })
        .first();
      if (before) {
        const isSame =
          before.viewer === whose.viewer && before.share_link_id === whose.share_link_id;
        if (!isSame || before.bytes !== file.bytes)
          throw new AppError('exists-already', `file ${file.id}`);
        return;
      }
      await this.#stillThere(trx, giver);
      await this.#mindLink(trx, giver, received, file.bytes);
      if ((await countOf(trx('submission_files').where({ ...whose, submitted: 0 }))) >= MOST_LOOSE)
        throw new AppError('too-many-files', 'that aren’t handed in');
      await trx('submission_files').insert({
        ...{ ...whose, ...file, student_id: giver.studentId, submitted: 0 },
        at: new Date().toISOString(),
      });
    });
  }

  /** @throws AppError `too-many-submissions` where there is no room under a link for so many bytes more */
  async #mindLink(
    db: Knex,
    { shareLinkId, studentId }: Pick<Giver, 'shareLinkId' | 'studentId'>,
    received: ReceivedBytes,
    more: number,
  ): Promise<void> {
    const rows: FileRow[] = await db('submission_files').where({ share_link_id: shareLinkId });
    let [all, strangers] = [0, 0];
    for (const { id, kind, bytes, student_id } of rows) {
      const taken = kind === null ? Math.min(bytes, received.get(id) ?? 0) : bytes;
      all += taken;
      if (student_id === null) strangers += taken;
    }
    const isFull =
      all + more > MOST_LINK_BYTES ||
      (studentId === null && strangers + more > MOST_STRANGERS_BYTES);
    if (isFull) throw new AppError('too-many-submissions', shareLinkId);
  }

  /** Bytes of a file are coming. @throws AppError `too-many-submissions` where others have filled the link meanwhile */
  async mindComing(id: string, received: ReceivedBytes): Promise<void> {
    const row: FileRow | undefined = await this.#db('submission_files').where({ id }).first();
    if (!row) return;
    const giver = { shareLinkId: row.share_link_id, studentId: row.student_id };
    await this.#mindLink(this.#db, giver, received, row.bytes - (received.get(id) ?? 0));
  }

  /** How many bytes a file will have that is still coming; null where none is waited for. */
  async coming(id: string): Promise<number | null> {
    const row: FileRow | undefined = await this.#db('submission_files')
      .where({ id })
      .whereNull('kind')
      .first();
    return row?.bytes ?? null;
  }

  /** A file of a giver's. @throws AppError `not-found` */
  async file(giver: Giver, id: string): Promise<FileRow> {
    const row: FileRow | undefined = await this.#db('submission_files')
      .where({ id, share_link_id: giver.shareLinkId, viewer: viewerOf(giver) })
      .first();
    if (!row) throw new AppError('not-found', `file ${id}`);
    return row;
  }

  /** It has come, and is what it is. @throws AppError `not-found` where it was erased meanwhile */
  async came(
    id: string,
    facts: Pick<FileRow, 'kind' | 'bytes' | 'length_us' | 'name'>,
  ): Promise<SubmissionFile> {
    const changed = await this.#db('submission_files').where({ id }).update(facts);
    if (changed === 0) throw new AppError('not-found', `file ${id}`);
    return toFile(await this.#db('submission_files').where({ id }).first());
  }

  /** It is none that can be taken. */
  async refuse(id: string): Promise<void> {
    await this.#db('submission_files').where({ id }).whereNull('kind').delete();
  }

  /**
   * Hands in what is typed and files that have come, in place of what was.
   *
   * @throws AppError `not-found` where a file isn’t there; `too-many-submissions`
   */
  async put(
    giver: Giver,
    what: { readonly name: string; readonly text: string; readonly files: readonly string[] },
    dueAt: string | null,
  ): Promise<Submission> {
    const viewer = viewerOf(giver);
    const whose = { share_link_id: giver.shareLinkId, viewer };
    await this.#db.transaction(async (trx) => {
      await this.#stillThere(trx, giver);
      const there: string[] = await trx('submission_files')
        .where(whose)
        .whereNotNull('kind')
        .whereIn('id', [...what.files])
        .pluck('id');
      if (there.length !== new Set(what.files).size)
        throw new AppError('not-found', 'a file that is handed in');
      const isNew = !(await trx('submissions').where(whose).first('viewer'));
      if (isNew && giver.studentId === null) {
        const unnamed = trx('submissions').where({
          share_link_id: giver.shareLinkId,
          student_id: null,
        });
        if ((await countOf(unnamed)) >= MOST_UNNAMED)
          throw new AppError('too-many-submissions', giver.shareLinkId);
      }
      // What is still coming from another device may be handed in yet.
      await trx('submission_files')
        .where({ ...whose, submitted: 1 })
        .whereNotIn('id', there)
        .delete();
      await trx('submission_files').whereIn('id', there).update({ submitted: 1 });
      await trx('submissions')
        .insert({
          ...{ ...whose, student_id: giver.studentId, text: what.text },
          claimed_name: giver.studentId === null ? what.name : '',
          at: new Date().toISOString(),
        })
        .onConflict(['share_link_id', 'viewer'])
        .merge();
    });
    return (await this.own(giver, dueAt))!;
  }

  /** What a giver has handed in; null: nothing. */
  async own(giver: Giver, dueAt: string | null): Promise<Submission | null> {
    const rows = await this.#rows(giver.shareLinkId).where({ viewer: viewerOf(giver) });
    if (rows.length === 0) return null;
    const [one] = await this.#whole(giver.shareLinkId, rows, dueAt);
    const { text, files, at, late } = one!;
    return { text, files, at, late };
  }

  /** What was handed in under a link, newest first. */
  async all(shareLinkId: string, dueAt: string | null): Promise<GivenIn['submissions']> {
    return this.#whole(shareLinkId, await this.#rows(shareLinkId).orderBy('at', 'desc'), dueAt);
  }

  /** How many have handed something in under a link. */
  count(shareLinkId: string): Promise<number> {
    return countOf(this.#db('submissions').where({ share_link_id: shareLinkId }));
  }

  /** Students of whom something has come. */
  async studentsOf(shareLinkId: string): Promise<Set<string>> {
    const ids: string[] = await this.#db('submissions')
      .where({ share_link_id: shareLinkId })
      .whereNotNull('student_id')
      .pluck('student_id');
    return new Set(ids);
  }

  /** Under which links a student has handed something in. */
  async shareLinksOf(studentId: string): Promise<Set<string>> {
    const ids: string[] = await this.#db('submissions')
      .where({ student_id: studentId })
      .pluck('share_link_id');
    return new Set(ids);
  }

  /** A file that was handed in under a link. @throws AppError `not-found` */
  async handedFile(shareLinkId: string, id: string): Promise<SubmissionFile> {
    const row: FileRow | undefined = await this.#db('submission_files')
      .where({ id, share_link_id: shareLinkId, submitted: 1 })
      .whereNotNull('kind')
      .first();
    if (!row) throw new AppError('not-found', `file ${id}`);
    return toFile(row);
  }

  /**
   * Ids of all files that are known; those that nobody handed in since a moment (ISO 8601) are forgotten first.
   *
   * @param coming of which bytes came since then
   */
  async known(looseBefore: string, coming: readonly string[]): Promise<Set<string>> {
    await this.#db('submission_files')
      .where({ submitted: 0 })
      .where('at', '<', looseBefore)
      .whereNotIn('id', [...coming])
      .delete();
    return new Set(await this.#db('submission_files').pluck('id'));
  }

  /** Whoever was erased while they handed in leaves nothing. */
  async #stillThere(trx: Knex, { studentId }: Giver): Promise<void> {
    if (studentId !== null && !(await trx('students').where({ id: studentId }).first('id')))
      throw new AppError('not-found', 'the student');
  }

  #rows(shareLinkId: string): Knex.QueryBuilder<object, Row[]> {
    return this.#db('submissions')
      .leftJoin('students', 'students.id', 'submissions.student_id')
      .where({ share_link_id: shareLinkId })
      .select(
        ...['viewer', 'student_id', 'text', 'at'].map((column) => `submissions.${column}`),
        this.#db.raw('coalesce(students.name, submissions.claimed_name) as name'),
      );
  }

  async #whole(
    shareLinkId: string,
    rows: readonly Row[],
    dueAt: string | null,
  ): Promise<GivenIn['submissions']> {
    const files: FileRow[] = await this.#db('submission_files')
      .where({ share_link_id: shareLinkId, submitted: 1 })
      .whereNotNull('kind')
      .whereIn(
        'viewer',
        rows.map(({ viewer }) => viewer),
      )
      .orderBy('at');
    return rows.map(({ viewer, student_id, name, text, at }) => ({
      ...{ name, known: student_id !== null, text, at, late: isLate(at, dueAt) },
      files: files.filter((file) => file.viewer === viewer).map(toFile),
    }));
  }
}
