import { lessonRowSchema, type LessonRow } from '@under-chalk/core/contract/lessons';
import { filmOf } from '@under-chalk/core/film/film';
import { isFound } from '@under-chalk/core/lesson/cover';
import { isIncomplete } from '@under-chalk/core/lesson/incomplete-take';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { takesHeard } from '@under-chalk/core/sound/heard';
import { FREE_DESTINATION_ID } from '@under-chalk/core/destination/destination';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';

/** What of a row is computed from the lesson, and kept. */
const summarySchema = lessonRowSchema.omit({
  id: true,
  handedOut: true,
  archived: true,
  keptFilmId: true,
  updatedAt: true,
  bytes: true,
  problem: true,
});
type Summary = ReturnType<typeof summarySchema.parse>;

interface Row {
  readonly id: string;
  readonly updated_at: string;
  readonly handed_out: number;
  readonly archived_at: string | null;
  readonly bytes: number;
  /** The last film that was made of it. */
  readonly film_id: string | null;
  /** What the summary depends on, as it is now; and as it was when it was made. */
  readonly state: string;
  readonly summary: string | null;
  readonly summary_of: string | null;
}

/** What is told of a lesson of which nothing can be read. */
const UNREADABLE: Summary = {
  title: '',
  className: '',
  unit: '',
  destinationId: FREE_DESTINATION_ID,
  filmUs: 0,
  takeCount: 0,
  pictureTakeId: null,
  pictureUs: 0,
  cover: null,
  incomplete: false,
};

const summaryOf = (lesson: Lesson): Summary => {
  const { plan, cover } = lesson.decisions;
  const film = filmOf(lesson);
  const pictured = film.spans.find((span) => span.take.tracks.some((track) => track.widthPx > 0));
  return {
    title: plan.title,
    className: plan.className,
    unit: plan.unit,
    destinationId: plan.destinationId,
    filmUs: film.durationUs,
    takeCount: lesson.takes.length,
    pictureTakeId: pictured?.take.id ?? null,
    pictureUs: pictured ? Math.round(pictured.take.durationUs / 2) : 0,
    cover: isFound(cover) || film.frames === 0 ? null : cover,
    incomplete: [...takesHeard(film)].some(isIncomplete),
  };
};

/** The form of a summary: raise it when something of it is computed differently. */
const SUMMARY_VERSION = 3;

/**
 * All that what is computed from a lesson's film depends on, as one text (a column of a question about `lessons`).
 *
 * @param version of how it is computed
 */
export const stateColumn = (db: Knex, version: number): Knex.Raw =>
  db.raw(
    `? || ' ' || (select coalesce(max(revision), 0) from edits where lesson_id = lessons.id)
      || ' ' || (select coalesce(group_concat(state || duration_us || coalesce(problem, ''), ' '), '') from
        (select state, duration_us, problem from takes
         where lesson_id = lessons.id and removed_at is null order by id)) as state`,
    [version],
  );

/** One question for all lessons: what each summary depends on, and the summary as it was made last. */
const rowsOf = (db: Knex, ids?: readonly string[]): Promise<Row[]> =>
  db('lessons')
    .whereNull('removed_at')
    .modify((query) => {
      if (ids) void query.whereIn('id', [...ids]);
    })
    .orderBy('updated_at', 'desc')
    .select<Row[]>(
      'id',
      'updated_at',
      'archived_at',
      'summary',
      'summary_of',
      db.raw(
        'exists (select 1 from share_links where lesson_id = lessons.id and revoked_at is null) as handed_out',
      ),
      db.raw(
        `(select coalesce(sum(tracks.bytes), 0) from tracks join takes on takes.id = tracks.take_id
          where takes.lesson_id = lessons.id and takes.removed_at is null) as bytes`,
      ),
      db.raw(
        `(select id from films where lesson_id = lessons.id and state = 'done' and removed_at is null
          order by rowid desc limit 1) as film_id`,
      ),
      stateColumn(db, SUMMARY_VERSION),
    );

/** Lessons whose summary is out of date. */
export const staleRows = (db: Knex): Promise<string[]> =>
  db
    .with('now', (query) =>
      query
        .from('lessons')
        .whereNull('removed_at')
        .select('id', 'summary_of', stateColumn(db, SUMMARY_VERSION)),
    )
    .from('now')
    .whereRaw('summary_of is not state')
    .pluck('id');

/** A summary that has been read already, what it was made of, and the line of the list that it was last told in. */
interface Held {
  readonly of: string;
  readonly summary: Summary;
  told: LessonRow | null;
}

/** Summaries that have been read already, by lesson. */
export type ReadSummaries = LRUCache<string, Held>;

/** Most lessons whose summaries are held. */
export const readSummaries = (): ReadSummaries => new LRUCache({ max: 10_000 });

const hold = (id: string, of: string, summary: Summary, read: ReadSummaries): Held => {
  const held: Held = { of, summary, told: null };
  read.set(id, held);
  return held;
};

/** The summary that is kept; null where it is out of date, or can't be read. */
const heldSummary = ({ id, summary, summary_of, state }: Row, read: ReadSummaries): Held | null => {
  if (summary === null || summary_of !== state) return null;
  const held = read.get(id);
  if (held?.of === state) return held;
  try {
    return hold(id, state, summarySchema.parse(JSON.parse(summary)), read);
  } catch {
    return null;
  }
};

/** What of a line is asked of the database each time. */
const factsOf = (row: Row) => ({
  id: row.id,
  handedOut: row.handed_out === 1,
  archived: row.archived_at !== null,
  updatedAt: row.updated_at,
  bytes: row.bytes,
});

/** The line of a lesson; the one that was told before, where nothing of it is another. */
const toldOf = (row: Row, held: Held): LessonRow => {
  const { told, summary } = held;
  const keptFilmId = summary.takeCount === 0 ? row.film_id : null;
  if (
    told?.updatedAt === row.updated_at &&
    told.handedOut === (row.handed_out === 1) &&
    told.archived === (row.archived_at !== null) &&
    told.bytes === row.bytes &&
    told.keptFilmId === keptFilmId
  )
    return told;
  const now: LessonRow = { ...factsOf(row), ...summary, keptFilmId, problem: null };
  held.told = now;
  return now;
};

/**
 * The list of lessons, last changed first. A summary is computed when the lesson has changed since it was, and
 * kept beside it; else no edit is looked at.
 *
 * @param lessonNow reads a lesson whose summary is out of date
 * @param onUnreadable told of a lesson that can't be read; it is in the list without its title
 * @param read what has been read before; more comes to it
 * @param ids only these, where they are given
 */
export const lessonRows = async (
  db: Knex,
  lessonNow: (id: string) => Promise<Lesson>,
  onUnreadable: (id: string, error: unknown) => void,
  read: ReadSummaries,
  ids?: readonly string[],
): Promise<LessonRow[]> => {
  const list: LessonRow[] = [];
  for (const row of await rowsOf(db, ids)) {
    try {
      let held = heldSummary(row, read);
      if (!held) {
        const summary = summarySchema.parse(summaryOf(await lessonNow(row.id)));
        await db('lessons')
          .where({ id: row.id })
          .update({ summary: JSON.stringify(summary), summary_of: row.state });
        held = hold(row.id, row.state, summary, read);
      }
      list.push(toldOf(row, held));
    } catch (error) {
      onUnreadable(row.id, error);
      list.push({
        ...{ ...factsOf(row), ...UNREADABLE },
        ...{ keptFilmId: null, problem: 'lesson-unreadable' },
      });
    }
  }
  return list;
};
