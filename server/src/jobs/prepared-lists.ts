import { setImmediate } from 'node:timers/promises';
import type { Knex } from 'knex';
import type { Log } from '../log';
import type { LessonStore } from '../store/lesson-store';
import type { TranscriptSearch } from '../store/transcript-search';
import { Rounds } from './rounds';

/** Lessons processed before the event loop gets a turn. */
const AT_A_TIME = 10;
/** Interval between checks for changed lessons, ms. */
const EVERY_MS = 60_000;

/** Unreadable lessons are reported where somebody lists them. */
const NOBODY = () => undefined;

/**
 * Keeps list summaries and the search index up to date in the background, so that the first request after an update or an import doesn't
 * compute them for all lessons. A request in between computes what is missing.
 */
export class PreparedLists {
  readonly #rounds: Rounds;
  #changes = -1;

  constructor(db: Knex, lessons: LessonStore, said: TranscriptSearch, log: Log) {
    const round = async () => {
      const [now] = (await db.raw('select total_changes() as changes')) as [{ changes: number }];
      if (now.changes !== this.#changes) {
        this.#changes = now.changes;
        const work = [
          { stale: await lessons.stale(), prepare: (ids: string[]) => lessons.list(NOBODY, ids) },
          { stale: await said.stale(), prepare: (ids: string[]) => said.takeUp(ids) },
        ];
        for (const { stale, prepare } of work)
          for (let at = 0; at < stale.length && !this.#rounds.closed; at += AT_A_TIME) {
            await prepare(stale.slice(at, at + AT_A_TIME));
            await setImmediate();
          }
      }
      return Date.now() + EVERY_MS;
    };
    this.#rounds = new Rounds(round, 'lists could not be prepared', log);
  }

  begin(): void {
    this.#rounds.begin();
  }

  close(): Promise<void> {
    return this.#rounds.close();
  }
}
