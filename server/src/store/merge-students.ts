import { TellableError } from '@under-chalk/core/errors/errors';
import { addedTimes, type WatchedSeconds } from '@under-chalk/core/watched/seconds';
import type { Knex } from 'knex';

interface Pair {
  readonly from: string;
  readonly into: string;
}

/** Tables whose rows only need their `student_id` changed. */
const MOVED = ['site_people', 'site_scores', 'passes', 'letters'];

interface Opening {
  readonly hand_out_id: string;
  readonly first_at: string;
  readonly last_at: string;
  readonly times: number;
}

const mergeOpenings = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const rows: Opening[] = await trx('openings').where({ student_id: from });
  for (const { hand_out_id, ...mine } of rows) {
    const which = { hand_out_id, student_id: into };
    const theirs: Opening | undefined = await trx('openings').where(which).first();
    if (!theirs) {
      await trx('openings').where({ hand_out_id, student_id: from }).update({ student_id: into });
      continue;
    }
    await trx('openings')
      .where(which)
      .update({
        first_at: mine.first_at < theirs.first_at ? mine.first_at : theirs.first_at,
        last_at: mine.last_at > theirs.last_at ? mine.last_at : theirs.last_at,
        times: mine.times + theirs.times,
      });
  }
  await trx('openings').where({ student_id: from }).delete();
};

interface Watched {
  readonly hand_out_id: string;
  readonly version: string;
  readonly seconds: WatchedSeconds;
  readonly visits: string;
  readonly first_at: string;
  readonly last_at: string;
}

const mergeWatched = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const rows: Watched[] = await trx('watched').where({ viewer: from });
  for (const { hand_out_id, version, ...mine } of rows) {
    const which = { hand_out_id, version };
    const theirs: Watched | undefined = await trx('watched')
      .where({ ...which, viewer: into })
      .first();
    if (!theirs) {
      const now = { viewer: into, student_id: into };
      await trx('watched')
        .where({ ...which, viewer: from })
        .update(now);
      continue;
    }
    await trx('watched')
      .where({ ...which, viewer: into })
      .update({
        seconds: addedTimes(theirs.seconds, mine.seconds),
        visits: JSON.stringify({
          ...(JSON.parse(theirs.visits) as object),
          ...(JSON.parse(mine.visits) as object),
        }),
        first_at: mine.first_at < theirs.first_at ? mine.first_at : theirs.first_at,
        last_at: mine.last_at > theirs.last_at ? mine.last_at : theirs.last_at,
      });
  }
  await trx('watched').where({ viewer: from }).delete();
};

/** If both answered a question, the later answer is kept. */
const mergeAnswers = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const rows: { hand_out_id: string; moment_id: string; at: string }[] = await trx('answers').where(
    { viewer: from },
  );
  for (const { hand_out_id, moment_id, at } of rows) {
    const which = { hand_out_id, moment_id };
    const theirs: { at: string } | undefined = await trx('answers')
      .where({ ...which, viewer: into })
      .first('at');
    if (theirs && theirs.at >= at) continue;
    if (theirs)
      await trx('answers')
        .where({ ...which, viewer: into })
        .delete();
    await trx('answers')
      .where({ ...which, viewer: from })
      .update({ viewer: into, student_id: into });
  }
  await trx('answers').where({ viewer: from }).delete();
};

/** @throws TellableError `both-submitted`: there can be only one submission per link, and none is discarded */
const mergeSubmissions = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const both: unknown = await trx('hand_ins as mine')
    .join('hand_ins as theirs', 'theirs.hand_out_id', 'mine.hand_out_id')
    .where({ 'mine.viewer': from, 'theirs.viewer': into })
    .first('mine.hand_out_id');
  if (both) throw new TellableError('both-submitted', `${from} and ${into}`);
  for (const table of ['hand_ins', 'hand_in_files'])
    await trx(table).where({ viewer: from }).update({ viewer: into, student_id: into });
};

const mergeClasses = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const rows: { class_id: string; left_at: string | null; teacher_id: string }[] = await trx(
    'class_students',
  ).where({ student_id: from });
  for (const { class_id, left_at, teacher_id } of rows) {
    const joined = trx('class_students')
      .insert({ class_id, student_id: into, left_at, teacher_id })
      .onConflict(['class_id', 'student_id']);
    // A current membership of either student counts.
    await (left_at === null ? joined.merge({ left_at: null }) : joined.ignore());
  }
  await trx('class_students').where({ student_id: from }).delete();
};

interface Dates {
  readonly hand_out_id: string;
  readonly from_at: string | null;
  readonly until_at: string | null;
}

/** The earlier or later of two dates (ISO 8601 in UTC, which compare as text); null is no limit. */
const widest = (a: string | null, b: string | null, isLater: boolean): string | null => {
  if (a === null || b === null) return null;
  return a > b === isLater ? a : b;
};

/** If both have access to a film, the wider dates are kept. */
const mergeGrants = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const ofStudent = (id: string) => trx('grants').where({ whom: 'student', whom_id: id });
  const rows: Dates[] = await ofStudent(from);
  for (const { hand_out_id, from_at, until_at } of rows) {
    const theirs: Dates | undefined = await ofStudent(into).where({ hand_out_id }).first();
    if (!theirs) continue;
    await ofStudent(into)
      .where({ hand_out_id })
      .update({
        from_at: widest(from_at, theirs.from_at, false),
        until_at: widest(until_at, theirs.until_at, true),
      });
    await ofStudent(from).where({ hand_out_id }).delete();
  }
  await ofStudent(from).update({ whom_id: into });
};

/**
 * Merges one student into another and removes the first. If both have a page or an e-mail address, those of the remaining student are
 * kept.
 *
 * @throws TellableError `not-found`; `both-submitted` if both have submitted work for the same link
 */
export const mergeStudents = async (trx: Knex, pair: Pair): Promise<void> => {
  const { from, into } = pair;
  const [gone, stays] = await Promise.all(
    [from, into].map((id) => trx('students').where({ id }).first('address')),
  );
  if (!gone || !stays || from === into) throw new TellableError('not-found', `student ${into}`);
  await mergeSubmissions(trx, pair);
  await mergeAnswers(trx, pair);
  await mergeWatched(trx, pair);
  await mergeOpenings(trx, pair);
  await mergeClasses(trx, pair);
  await mergeGrants(trx, pair);
  for (const table of MOVED)
    await trx(table).where({ student_id: from }).update({ student_id: into });
  await trx('site_people').where({ maybe_student_id: from }).update({ maybe_student_id: into });
  // The question about these two is answered.
  await trx('site_people')
    .where({ student_id: into, maybe_student_id: into })
    .update({ maybe_student_id: null });
  const pages = trx('student_pages');
  if (await pages.clone().where({ student_id: into }).first('student_id'))
    await pages.clone().where({ student_id: from }).delete();
  else await pages.clone().where({ student_id: from }).update({ student_id: into });
  await trx('students').where({ id: from }).delete();
  if (stays.address === null && gone.address !== null)
    await trx('students').where({ id: into }).update({ address: gone.address });
};
