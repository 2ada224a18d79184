import { givesSchema, type Gives, type Score } from '@under-chalk/core/course-site/score';
import type { Knex } from 'knex';
import * as z from 'zod';
import { FIRST_TEACHER } from '../store/migrations';

/** A column of a course's, and somebody in it who has opened its film. */
export interface ScoreKey {
  readonly siteId: string;
  readonly lineItem: string;
  /** What the site knows them by. */
  readonly sub: string;
}

export interface DueScore extends ScoreKey {
  readonly shareLinkId: string;
  readonly studentId: string;
  readonly gives: Gives;
  readonly changedAt: string;
  readonly tries: number;
  /** What was given last; null: nothing was. */
  readonly given: Score | null;
}

/** How giving scores to a site goes. */
export interface ScoreSums {
  /** Students who have one, over all films. */
  readonly given: number;
  /** Those that could not be given yet, and are tried again. */
  readonly waiting: number;
  /** Those that the site won't have. */
  readonly refused: number;
}

interface Row {
  readonly site_id: string;
  readonly line_item: string;
  readonly sub: string;
  readonly share_link_id: string;
  readonly student_id: string;
  readonly gives: string;
  readonly changed_at: string;
  readonly due_at: number | null;
  readonly tries: number;
  readonly problem: string | null;
  readonly given: string | null;
}

const givenSchema = z.object({ given: z.number(), most: z.number(), done: z.boolean() });

const whichRow = ({ siteId, lineItem, sub }: ScoreKey) => ({
  ...{ site_id: siteId, line_item: lineItem, sub },
});

/** Scores that course sites are given: of whom, where to, and what is still to be told. */
export class ScoreStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** Somebody has opened a film whose course is told of them. */
  async opened(
    key: ScoreKey,
    of: { readonly shareLinkId: string; readonly studentId: string; readonly gives: Gives },
  ): Promise<void> {
    const row = { share_link_id: of.shareLinkId, student_id: of.studentId, gives: of.gives };
    await this.#db('site_scores')
      .insert({ ...whichRow(key), ...row, teacher_id: FIRST_TEACHER })
      .onConflict(['site_id', 'line_item', 'sub'])
      .merge(row);
  }

  /**
   * A student has done something: what courses are told of it is to be given, when it hasn't been before, at some time (ms since 1970).
   *
   * @returns whether there is something to be given
   */
  async changed(shareLinkId: string, studentId: string, dueAt: number): Promise<boolean> {
    const changed = await this.#db('site_scores')
      .where({ share_link_id: shareLinkId, student_id: studentId })
      .update({
        changed_at: new Date().toISOString(),
        // One that waits to be tried again keeps its time.
        due_at: this.#db.raw('coalesce(due_at, ?)', [dueAt]),
      });
    return changed > 0;
  }

  /** What is to be given by now. */
  async due(now: number): Promise<DueScore[]> {
    const rows: Row[] = await this.#db('site_scores').where('due_at', '<=', now).orderBy('due_at');
    return rows.map((row) => ({
      ...{ siteId: row.site_id, lineItem: row.line_item, sub: row.sub, tries: row.tries },
      ...{ shareLinkId: row.share_link_id, studentId: row.student_id, changedAt: row.changed_at },
      gives: givesSchema.parse(row.gives),
      given: row.given === null ? null : givenSchema.parse(JSON.parse(row.given)),
    }));
  }

  /** When something is to be given next, ms since 1970; null: nothing is. */
  async nextDue(): Promise<number | null> {
    const row = await this.#db('site_scores').min('due_at as next').first();
    return row?.next ?? null;
  }

  /**
   * It was given, or needn't be. What they have done since is to be told in its turn.
   *
   * @param told what the site has by now; null: nothing
   */
  async given(score: DueScore, told: Score | null, nextAt: number): Promise<void> {
    const { changedAt } = score;
    await this.#db('site_scores')
      .where(whichRow(score))
      .update({
        ...{ given: told && JSON.stringify(told), tries: 0, problem: null },
        due_at: this.#db.raw('case when changed_at = ? then null else ? end', [changedAt, nextAt]),
      });
  }

  /** It could not be given. @param dueAt when it is tried again, ms since 1970; null: it isn't */
  async failed(score: DueScore, problem: string, dueAt: number | null): Promise<void> {
    const row = { problem, due_at: dueAt, tries: score.tries + 1 };
    await this.#db('site_scores').where(whichRow(score)).update(row);
  }

  /** What a site didn't take is tried again at once. */
  async tryAgain(siteId: string): Promise<void> {
    await this.#db('site_scores')
      .where({ site_id: siteId })
      .whereNotNull('problem')
      .update({ due_at: Date.now(), tries: 0 });
  }

  async sums(siteId: string): Promise<ScoreSums> {
    const row = await this.#db('site_scores')
      .where({ site_id: siteId })
      .first(
        this.#db.raw('count(given) as given'),
        this.#db.raw('sum(problem is not null and due_at is not null) as waiting'),
        this.#db.raw('sum(problem is not null and due_at is null) as refused'),
      );
    const { given, waiting, refused } = row as unknown as Record<keyof ScoreSums, number | null>;
    return { given: given ?? 0, waiting: waiting ?? 0, refused: refused ?? 0 };
  }
}
