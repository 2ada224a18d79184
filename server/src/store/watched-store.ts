import type { PlayedNote } from '@under-chalk/core/contract/watched';
import { AppError } from '@under-chalk/core/errors/errors';
import { unwatched, withPlayed, type WatchedSeconds } from '@under-chalk/core/watched/seconds';
import type { Knex } from 'knex';
import * as z from 'zod';
import { countOf } from './count-of';

/** What was played, and whose page tells it. */
export interface Noted extends PlayedNote {
  readonly shareLinkId: string;
  /** Null: somebody without a name. */
  readonly studentId: string | null;
  /** Seconds that the film has. */
  readonly seconds: number;
}

/** How much somebody has watched of a film under a link. */
export interface StoredWatched {
  readonly share_link_id: string;
  /** A student, or a page that was opened by somebody without a name. */
  readonly viewer: string;
  /** Of which film. */
  readonly version: string;
  readonly student_id: string | null;
  readonly seconds: WatchedSeconds;
  /** The last parts that pages have told, as JSON: {@link visitsSchema}. */
  readonly visits: string;
  readonly first_at: string;
  readonly last_at: string;
}

const visitsSchema = z.record(z.string(), z.array(z.number().int()));
type Visits = z.infer<typeof visitsSchema>;

interface Waiting {
  readonly noted: Noted;
  readonly done: () => void;
  readonly failed: (error: unknown) => void;
}

/** How long what is told waits for others, so that one write to the disk keeps them all, ms. */
const TOGETHER_MS = 40;
/** Most that wait: more is turned away, and told again by its page. */
const MOST_WAITING = 20_000;
/** Visits whose parts are remembered for each viewer, and how many of each: they may come in another order than they were told. */
const MOST_VISITS = 8;
const MOST_PARTS = 40;
/** Most anonymous visits per link. */
const MOST_UNNAMED = 1_000;

const viewerOf = ({ studentId, visit }: Noted): string => studentId ?? `visit ${visit}`;
const keyOf = (noted: Noted): string => `${noted.shareLinkId} ${viewerOf(noted)} ${noted.version}`;

/** What is watched: by student, link and film. What is told is answered when it is on the disk. */
export class ViewingStore {
  readonly #db: Knex;
  #waiting: Waiting[] = [];
  #writing: Promise<void> | null = null;

  constructor(db: Knex) {
    this.#db = db;
  }

  /**
   * Counts what was played. The same part of a visit counts once.
   *
   * @throws AppError `not-ready` where more waits than can be written
   */
  note(noted: Noted): Promise<void> {
    if (this.#waiting.length >= MOST_WAITING) {
      return Promise.reject(new AppError('not-ready', 'what is watched'));
    }
    return new Promise((done, failed) => {
      this.#waiting.push({ noted, done, failed });
      this.#writing ??= this.#writeAll();
    });
  }

  /** Writes all that waits. */
  async close(): Promise<void> {
    while (this.#writing) await this.#writing;
  }

  /** Rows of a link, newest first. */
  ofShareLink(shareLinkId: string): Promise<StoredWatched[]> {
    return this.#db('viewings').where({ share_link_id: shareLinkId }).orderBy('last_at', 'desc');
  }

  /** Rows of a student under a link: one for each film that they have watched there. */
  ofStudent(shareLinkId: string, studentId: string): Promise<StoredWatched[]> {
    return this.#db('viewings').where({ share_link_id: shareLinkId, student_id: studentId });
  }

  async keptDays(): Promise<number | null> {
    const row = await this.#db('settings').where({ name: 'watched-kept-days' }).first('value');
    return row
      ? z.coerce
          .number()
          .int()
          .nullable()
          .parse(JSON.parse(row.value as string))
      : FIRST_DAYS;
  }

  /** Says how long it is kept, days; null: as long as the link. */
  async keepFor(days: number | null, nowMs = Date.now()): Promise<void> {
    await this.#db('settings')
      .insert({ name: 'watched-kept-days', value: JSON.stringify(days) })
      .onConflict('name')
      .merge();
    await this.forget(nowMs);
  }

  /** Forgets what is older than it is to be kept, and what was answered then. */
  async forget(nowMs: number): Promise<void> {
    const days = await this.keptDays();
    if (days === null) return;
    const before = new Date(nowMs - days * 86_400_000).toISOString();
    await this.#db('viewings').where('last_at', '<', before).delete();
    await this.#db('answers').where('at', '<', before).delete();
  }

  async #writeAll(): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, TOGETHER_MS));
    const waiting = this.#waiting;
    this.#waiting = [];
    try {
      await this.#db.transaction((trx) =>
        this.#write(
          trx,
          waiting.map(({ noted }) => noted),
        ),
      );
      waiting.forEach(({ done }) => done());
    } catch (error) {
      waiting.forEach(({ failed }) => failed(error));
    }
    this.#writing = this.#waiting.length > 0 ? this.#writeAll() : null;
  }

  async #write(trx: Knex, all: readonly Noted[]): Promise<void> {
    const together = new Map<string, Noted[]>();
    for (const noted of all) {
      const list = together.get(keyOf(noted));
      if (list) list.push(noted);
      else together.set(keyOf(noted), [noted]);
    }
    const at = new Date().toISOString();
    /** Anonymous visits of a link, counted when it gets a new one. */
    const unnamed = new Map<string, number>();
    for (const list of together.values()) {
      const [first] = list as [Noted];
      const { shareLinkId, version, studentId, seconds } = first;
      const viewer = viewerOf(first);
      // Whoever was erased while they watched leaves nothing.
      if (studentId !== null && !(await trx('students').where({ id: studentId }).first('id')))
        continue;
      const which = { share_link_id: shareLinkId, viewer, version };
      const before: StoredWatched | undefined = await trx('viewings').where(which).first();
      let watched = before?.seconds ?? unwatched(seconds);
      let visits: Visits = before ? visitsSchema.parse(JSON.parse(before.visits)) : {};
      for (const { visit, part, played } of list) {
        const told = visits[visit] ?? [];
        if (told.includes(part) || (told.length === MOST_PARTS && part < Math.min(...told)))
          continue;
        watched = withPlayed(watched, played);
        // The newest stands last.
        const { [visit]: _, ...others } = visits;
        visits = Object.fromEntries(
          [...Object.entries(others), [visit, [...told, part].slice(-MOST_PARTS)]].slice(
            -MOST_VISITS,
          ),
        );
      }
      const now = { seconds: watched, visits: JSON.stringify(visits), last_at: at };
      if (before) {
        await trx('viewings').where(which).update(now);
        continue;
      }
      if (studentId === null) {
        const others = trx('viewings').where({ share_link_id: shareLinkId, student_id: null });
        const many = unnamed.get(shareLinkId) ?? (await countOf(others));
        if (many >= MOST_UNNAMED) continue;
        unnamed.set(shareLinkId, many + 1);
      }
      await trx('viewings').insert({ ...which, ...now, student_id: studentId, first_at: at });
    }
  }
}

/** How long it is kept until something else is said, days. */
const FIRST_DAYS = 365;
