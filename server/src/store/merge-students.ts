import { AppError } from '@under-chalk/core/errors/errors';
import { addedTimes, type WatchedSeconds } from '@under-chalk/core/watched/seconds';
import type { Knex } from 'knex';

interface Pair {
  readonly from: string;
  readonly into: string;
}

/** Tables whose rows only need their `student_id` changed. */
const MOVED = ['site_people', 'site_scores', 'passes', 'mail'];

/** Tables in which both students can have a row for the same thing. */
interface Mergeable<Row> {
  readonly table: string;
  /** Columns that name the thing. */
  readonly key: readonly (keyof Row & string)[];
  /** Columns that name the student; the first is part of the primary key. */
  readonly named: readonly [string, ...string[]];
  /** The row of both. */
  readonly merged: (mine: Row, theirs: Row) => Partial<Row>;
}

const mergeRows = async <Row extends object>(
  trx: Knex,
  { from, into }: Pair,
  { table, key, named, merged }: Mergeable<Row>,
): Promise<void> => {
  const [own] = named;
  const rows: Row[] = await trx(table).where({ [own]: from });
  for (const mine of rows) {
    const of = (id: string) =>
      trx(table).where({ ...Object.fromEntries(key.map((name) => [name, mine[name]])), [own]: id });
    const theirs: Row | undefined = await of(into).first();
    if (theirs) {
      await of(into).update(merged(mine, theirs));
      await of(from).delete();
    } else await of(from).update(Object.fromEntries(named.map((name) => [name, into])));
  }
};

/** Dates are ISO 8601 in UTC, which compare as text. */
const earlier = (a: string, b: string): string => (a < b ? a : b);
const later = (a: string, b: string): string => (a > b ? a : b);

interface Span {
  readonly first_at: string;
  readonly last_at: string;
}
const bothSpans = (mine: Span, theirs: Span): Span => ({
  first_at: earlier(mine.first_at, theirs.first_at),
  last_at: later(mine.last_at, theirs.last_at),
});

interface Opening extends Span {
  readonly share_link_id: string;
  readonly times: number;
}
const VIEWERS: Mergeable<Opening> = {
  ...{ table: 'views', key: ['share_link_id'], named: ['student_id'] },
  merged: (mine, theirs) => ({ ...bothSpans(mine, theirs), times: mine.times + theirs.times }),
};

interface Watched extends Span {
  readonly share_link_id: string;
  readonly version: string;
  readonly seconds: WatchedSeconds;
  readonly visits: string;
}
const WATCHED: Mergeable<Watched> = {
  ...{ table: 'viewings', key: ['share_link_id', 'version'], named: ['viewer', 'student_id'] },
  merged: (mine, theirs) => ({
    ...bothSpans(mine, theirs),
    seconds: addedTimes(theirs.seconds, mine.seconds),
    visits: JSON.stringify({
      ...(JSON.parse(theirs.visits) as object),
      ...(JSON.parse(mine.visits) as object),
    }),
  }),
};

interface GivenAnswer {
  readonly share_link_id: string;
  readonly interaction_id: string;
  readonly text: string;
  readonly asked: string;
  readonly answer: string;
  readonly right: number | null;
  readonly at: string;
}
/** If both answered a question, the later answer is kept. */
const ANSWERS: Mergeable<GivenAnswer> = {
  ...{
    table: 'answers',
    key: ['share_link_id', 'interaction_id'],
    named: ['viewer', 'student_id'],
  },
  merged(mine, theirs) {
    const { text, asked, answer, right, at } = theirs.at >= mine.at ? theirs : mine;
    return { text, asked, answer, right, at };
  },
};

interface Membership {
  readonly class_id: string;
  readonly left_at: string | null;
}
/** A current membership of either student counts. */
const CLASSES: Mergeable<Membership> = {
  ...{ table: 'class_students', key: ['class_id'], named: ['student_id'] },
  merged: (mine, theirs) => ({ left_at: mine.left_at === null ? null : theirs.left_at }),
};

interface Dates {
  readonly share_link_id: string;
  readonly grantee: string;
  /** Null is no limit. */
  readonly available_from: string | null;
  readonly available_until: string | null;
}
const unlessNull = (a: string | null, b: string | null, pick: (a: string, b: string) => string) =>
  a === null || b === null ? null : pick(a, b);
/** If both have access to a film, the wider dates are kept. */
const GRANTS: Mergeable<Dates> = {
  ...{ table: 'grants', key: ['share_link_id', 'grantee'], named: ['grantee_id'] },
  merged: (mine, theirs) => ({
    available_from: unlessNull(mine.available_from, theirs.available_from, earlier),
    available_until: unlessNull(mine.available_until, theirs.available_until, later),
  }),
};

/** @throws AppError `both-submitted`: there can be only one submission per link, and none is discarded */
const mergeSubmissions = async (trx: Knex, { from, into }: Pair): Promise<void> => {
  const both: unknown = await trx('submissions as mine')
    .join('submissions as theirs', 'theirs.share_link_id', 'mine.share_link_id')
    .where({ 'mine.viewer': from, 'theirs.viewer': into })
    .first('mine.share_link_id');
  if (both) throw new AppError('both-submitted', `${from} and ${into}`);
  for (const table of ['submissions', 'submission_files'])
    await trx(table).where({ viewer: from }).update({ viewer: into, student_id: into });
};

/**
 * Merges one student into another and removes the first. If both have a page or an e-mail address, those of the remaining student are
 * kept.
 *
 * @throws AppError `not-found`; `both-submitted` if both have submitted work for the same link
 */
export const mergeStudents = async (trx: Knex, pair: Pair): Promise<void> => {
  const { from, into } = pair;
  const [gone, stays] = await Promise.all(
    [from, into].map((id) => trx('students').where({ id }).first('address')),
  );
  if (!gone || !stays || from === into) throw new AppError('not-found', `student ${into}`);
  await mergeSubmissions(trx, pair);
  await mergeRows(trx, pair, ANSWERS);
  await mergeRows(trx, pair, WATCHED);
  await mergeRows(trx, pair, VIEWERS);
  await mergeRows(trx, pair, CLASSES);
  await mergeRows(trx, pair, GRANTS);
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
