import type { TranscriptResult } from '@under-chalk/core/contract/transcript-search';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { readWordsOf } from '@under-chalk/core/words/given';
import type { Knex } from 'knex';
import type { Log } from '../log';
import { stateColumn } from './lesson-rows';

/** The form of what is taken of a lesson: raise it when something else is. */
const VERSION = 1;
const MOST_FOUND = 50;
/** Most words that are looked for together. */
const MOST_WORDS = 12;

interface StaleRow {
  readonly id: string;
  readonly state: string;
}

/**
 * What is looked for as FTS5 asks for it: each word as it is, whatever signs are in it, and the last one as a beginning. Null where there is
 * no word.
 */
const questionOf = (text: string): string | null => {
  const words = (text.match(/[\p{L}\p{M}\p{N}]+/gu) ?? []).slice(0, MOST_WORDS);
  if (words.length === 0) return null;
  // Letters and digits only: nothing in it is a mark of the question's.
  return words.map((word, at) => `"${word}"${at === words.length - 1 ? '*' : ''}`).join(' ');
};

/**
 * Finds where something is said in any lesson (SQLite's FTS5). Of a lesson that has changed since, its words are taken anew before they are
 * looked through: no edit has to think of it.
 */
export class TranscriptSearch {
  readonly #db: Knex;
  readonly #lessonNow: (id: string) => Promise<Lesson>;
  readonly #log: Log;
  #taking: Promise<void> = Promise.resolve();

  constructor(db: Knex, lessonNow: (id: string) => Promise<Lesson>, log: Log) {
    this.#db = db;
    this.#lessonNow = lessonNow;
    this.#log = log;
  }

  /** Places where all of some words are said, the nearest to what is looked for first. */
  async find(text: string): Promise<TranscriptResult[]> {
    const question = questionOf(text);
    if (question === null) return [];
    await this.takeUp();
    const rows = await this.#db
      .select('transcripts.*', 'transcript_search_state.title')
      .from('transcripts')
      .join('transcript_search_state', 'transcript_search_state.lesson_id', 'transcripts.lesson_id')
      .join('lessons', 'lessons.id', 'transcripts.lesson_id')
      .whereNull('lessons.removed_at')
      .whereRaw('transcripts match ?', [question])
      .orderByRaw('bm25(transcripts), transcripts.lesson_id, cast(transcripts.film_us as integer)')
      .limit(MOST_FOUND);
    return rows.map((row): TranscriptResult => ({
      lessonId: row.lesson_id,
      title: row.title,
      kind: row.kind,
      language: row.language,
      text: row.text,
      filmUs: Number(row.film_us),
    }));
  }

  #stale(ids?: readonly string[]): Knex.QueryBuilder {
    return this.#db
      .with('now', (query) => {
        const state = stateColumn(this.#db, VERSION);
        void query.from('lessons').whereNull('removed_at').select('id', state);
        if (ids) void query.whereIn('id', [...ids]);
      })
      .from('now')
      .leftJoin('transcript_search_state', 'transcript_search_state.lesson_id', 'now.id')
      .whereRaw('transcript_search_state.state is not now.state');
  }

  /** Lessons whose search terms are out of date. */
  stale(): Promise<string[]> {
    return this.#stale().pluck('now.id');
  }

  /** Updates the search terms of changed lessons. @param ids only of these */
  takeUp(ids?: readonly string[]): Promise<void> {
    // One after the other: two would take the same words twice.
    const taken = this.#taking.then(() => this.#takeWords(ids));
    this.#taking = taken.catch(() => undefined);
    return taken;
  }

  async #takeWords(ids?: readonly string[]): Promise<void> {
    const stale: StaleRow[] = await this.#stale(ids).select('now.id', 'now.state');
    for (const { id, state } of stale) {
      // What can't be read now is not asked for again before it has changed.
      const { title, places } = await this.#wordsOf(id).catch((error: unknown) => {
        this.#log.warn(`lesson ${id}: its words can’t be looked through`, error);
        return { title: '', places: [] };
      });
      await this.#db.transaction(async (trx) => {
        await trx('transcripts').where({ lesson_id: id }).delete();
        if (places.length > 0) await trx.batchInsert('transcripts', places, 100);
        await trx('transcript_search_state')
          .insert({ lesson_id: id, state, title })
          .onConflict('lesson_id')
          .merge();
      });
    }
  }

  async #wordsOf(id: string) {
    const film = filmOf(await this.#lessonNow(id));
    const places = [
      ...chaptersOf(film).map(({ title, startUs }) => ({
        ...{ lesson_id: id, kind: 'chapter', language: '', film_us: startUs, text: title },
      })),
      ...readWordsOf(film).flatMap(({ language, cues }) =>
        cues.map(({ startUs, text }) => ({
          ...{ lesson_id: id, kind: 'said', language, film_us: startUs },
          text: text.replaceAll('\n', ' '),
        })),
      ),
    ];
    return { title: film.lesson.decisions.plan.title, places };
  }
}
