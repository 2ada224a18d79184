import type { FilmRow } from '@under-chalk/core/contract/films';
import { watchSchema } from '@under-chalk/core/contract/watch';
import { filmInteractionSchema } from '@under-chalk/core/interaction/interaction';
import { readWordsSchema } from '@under-chalk/core/words/read-cue';
import { AppError } from '@under-chalk/core/errors/errors';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import type { Knex } from 'knex';
import { LRUCache } from 'lru-cache';
import * as z from 'zod';
import { newId } from './ids';
import { readJson } from './read-json';

export interface StoredFilm {
  readonly id: string;
  readonly lesson_id: string;
  readonly revision: number;
  /** Digest of all that the film is made of; empty for one of an earlier version. */
  readonly manifest_id: string;
  readonly size: PictureSize;
  readonly state: FilmRow['state'];
  readonly problem: string | null;
  readonly problem_detail: string | null;
  readonly bytes: number;
  readonly film_us: number;
  readonly file_name: string;
  readonly created_at: string;
  /** {@link FilmWords} as JSON; null for a film of an earlier version that nobody has watched since. */
  readonly words: string | null;
}

export type FilmChange = Partial<
  Pick<StoredFilm, 'state' | 'problem' | 'problem_detail' | 'bytes'>
>;

/** What stands beside a film where students watch it: it belongs to the film, and not to the lesson as it is by then. */
export const filmWordsSchema = watchSchema
  .pick({
    ...{ title: true, description: true, filmUs: true, chapters: true },
    notePages: true,
    ...{ licence: true, described: true, spoken: true },
  })
  .extend({
    captions: z.array(readWordsSchema).default([]),
    /** With what is right: it stays here. */
    interactions: z.array(filmInteractionSchema).default([]),
  });
export type FilmWords = z.infer<typeof filmWordsSchema>;

const someCaptionsSchema = z.object({ captions: z.array(z.unknown()).default([]) });
/** Lists of films are asked for again and again: whether there are captions is found once a film, and once more when they change. */
const captioned = new LRUCache<string, boolean>({ max: 2_000 });

/** Whether captions go along in a film. */
export const hasCaptions = ({ id, manifest_id, words }: StoredFilm): boolean => {
  if (words === null) return false;
  const name = `${id} ${manifest_id} ${words.length}`;
  const known = captioned.get(name);
  if (known !== undefined) return known;
  const found = (readJson(someCaptionsSchema, words)?.captions ?? []).length > 0;
  captioned.set(name, found);
  return found;
};

const pieceSchema = z.object({ key: z.string(), frames: z.number().int().positive() });
/** What it takes to play a film while it is made: what its pieces are kept as, and how large it is. */
export const filmStreamSchema = z.object({
  /** Of its pictures; and of its sound, whose frames are packets. */
  chunks: z.array(pieceSchema),
  sound: z.array(pieceSchema),
  size: z.object({
    widthPx: z.number().int(),
    heightPx: z.number().int(),
    finer: z.literal(true).optional(),
  }),
});
export type FilmStream = z.infer<typeof filmStreamSchema>;

/** Words as they stand in a film's row. */
const columnsOf = (words: FilmWords) => ({ words: JSON.stringify(words), film_us: words.filmUs });

/** Films made of lessons. */
export class FilmStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /**
   * The film of a lesson that is made of the same: the one there is, unless it was given up, or a new one.
   *
   * @param stream absent for one that can't be played before it is made
   */
  async want(
    film: Pick<
      StoredFilm,
      'lesson_id' | 'revision' | 'manifest_id' | 'size' | 'film_us' | 'file_name' | 'words'
    >,
    stream?: FilmStream,
  ): Promise<StoredFilm> {
    const { lesson_id, manifest_id, size } = film;
    return this.#db.transaction(async (trx) => {
      const present = await trx('films')
        .where({ lesson_id, manifest_id, size, removed_at: null })
        .whereIn('state', ['waiting', 'making', 'done'])
        .first();
      if (present) return present as StoredFilm;
      const id = newId();
      await trx('films').insert({
        ...film,
        id,
        state: 'waiting',
        created_at: new Date().toISOString(),
      });
      if (stream) await trx('film_streams').insert({ film_id: id, stream: JSON.stringify(stream) });
      return trx('films').where({ id }).first() as Promise<StoredFilm>;
    });
  }

  /** @throws AppError `not-found` */
  async get(id: string): Promise<StoredFilm> {
    const row = await this.#db('films').where({ id }).first();
    if (!row) throw new AppError('not-found', `film ${id}`);
    return row;
  }

  async ofLesson(lessonId: string): Promise<StoredFilm[]> {
    return this.#db('films')
      .where({ lesson_id: lessonId, removed_at: null })
      .orderBy('rowid', 'desc')
      .select('*');
  }

  /** What files are called from now on. @param names by the ids of their films */
  async rename(names: ReadonlyMap<string, string>): Promise<void> {
    for (const [id, file_name] of names)
      await this.#db('films').where({ id }).update({ file_name });
  }

  /** Takes the film that has waited longest out of the queue, or the one of an id: it is being made from now on. */
  async claim(id: string | null = null): Promise<StoredFilm | undefined> {
    return this.#db.transaction(async (trx) => {
      const film = await trx('films')
        .where({ state: 'waiting', ...(id === null ? {} : { id }) })
        .orderBy('rowid')
        .first();
      if (film) await trx('films').where({ id: film.id }).update({ state: 'making' });
      return film && { ...film, state: 'making' };
    });
  }

  /**
   * Changes a film, if it is in one of these states: what was called off meanwhile stays called off.
   *
   * @returns whether it was
   */
  async change(
    id: string,
    from: readonly StoredFilm['state'][],
    change: FilmChange,
  ): Promise<boolean> {
    return (await this.#db('films').where({ id }).whereIn('state', from).update(change)) > 0;
  }

  /** What a film has become, and what a student is told beside it. */
  async keepMade(
    id: string,
    manifestId: string,
    words: FilmWords,
    stream: FilmStream,
  ): Promise<void> {
    await this.#db.transaction(async (trx) => {
      await trx('films')
        .where({ id })
        .update({ ...columnsOf(words), manifest_id: manifestId });
      await trx('film_streams')
        .insert({ film_id: id, stream: JSON.stringify(stream) })
        .onConflict('film_id')
        .merge();
    });
  }

  /** What it takes to play a film in pieces; null for one of an earlier version. */
  async streamOf(id: string): Promise<FilmStream | null> {
    const row = await this.#db('film_streams').where({ film_id: id }).first('stream');
    return row ? filmStreamSchema.parse(JSON.parse(row.stream)) : null;
  }

  /** What a student is told beside a film, kept with it. */
  async keepWords(id: string, words: FilmWords): Promise<void> {
    await this.#db('films').where({ id }).update(columnsOf(words));
  }

  /** Says of a lesson's films that there are no pages of the board to be had with them any more. */
  async withoutPages(lessonId: string): Promise<void> {
    const films: StoredFilm[] = await this.#db('films').where({ lesson_id: lessonId });
    for (const { id, words } of films) {
      if (words === null) continue;
      const before = filmWordsSchema.parse(JSON.parse(words));
      await this.keepWords(id, { ...before, notePages: 0 });
    }
  }

  async isAnyInWork(): Promise<boolean> {
    const row = await this.#db('films').whereIn('state', ['waiting', 'making']).first('id');
    return row !== undefined;
  }

  /** Puts films that a stopped server left half made back into the queue. */
  async requeue(): Promise<void> {
    await this.#db('films').where({ state: 'making' }).update({ state: 'waiting' });
  }
}
