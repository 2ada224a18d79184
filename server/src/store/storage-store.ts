import type { Knex } from 'knex';

/** A lesson, with what names the files that it takes up. */
export interface LessonFiles {
  readonly id: string;
  readonly title: string;
  readonly className: string;
  readonly takeIds: readonly string[];
  readonly trackIds: readonly string[];
  readonly films: readonly FilmFiles[];
}

export interface FilmFiles {
  readonly id: string;
  readonly done: boolean;
  /** It is at a link, or was: it can be put back. */
  readonly given: boolean;
}

interface Named {
  readonly lesson_id: string;
  readonly id: string;
}

const byLesson = <Row extends { lesson_id: string }>(rows: readonly Row[]): Map<string, Row[]> => {
  const found = new Map<string, Row[]>();
  for (const row of rows) {
    const of = found.get(row.lesson_id) ?? [];
    of.push(row);
    found.set(row.lesson_id, of);
  }
  return found;
};

/** Which files belong to which lesson. */
export class StorageStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** All lessons that aren't in the bin; of an id, that one alone. */
  async lessons(lessonId?: string): Promise<LessonFiles[]> {
    const only = lessonId === undefined ? {} : { lesson_id: lessonId };
    const lessons: { id: string; title: string | null; className: string | null }[] =
      await this.#db('lessons')
        .whereNull('removed_at')
        .where(lessonId === undefined ? {} : { id: lessonId })
        .select(
          'id',
          this.#db.raw(`json_extract(summary, '$.title') as title`),
          this.#db.raw(`json_extract(summary, '$.className') as className`),
        );
    const takes: Named[] = await this.#db('takes')
      .whereNull('removed_at')
      .where(only)
      .select('id', 'lesson_id');
    const tracks: Named[] = await this.#db('tracks')
      .join('takes', 'takes.id', 'tracks.take_id')
      .whereNull('takes.removed_at')
      .where(lessonId === undefined ? {} : { 'takes.lesson_id': lessonId })
      .select('tracks.id as id', 'takes.lesson_id as lesson_id');
    const films: (Named & { state: string; given: number })[] = await this.#db('films')
      .whereNull('removed_at')
      .where(only)
      .select(
        'id',
        'lesson_id',
        'state',
        this.#db.raw(
          `exists (select 1 from share_links where film_id = films.id)
           or exists (select 1 from link_versions where film_id = films.id) as given`,
        ),
      );
    const [takesOf, tracksOf, filmsOf] = [byLesson(takes), byLesson(tracks), byLesson(films)];
    const idsIn = (of: Map<string, Named[]>, id: string) => (of.get(id) ?? []).map((row) => row.id);
    return lessons.map(({ id, title, className }) => ({
      ...{ id, title: title ?? '', className: className ?? '' },
      takeIds: idsIn(takesOf, id),
      trackIds: idsIn(tracksOf, id),
      films: (filmsOf.get(id) ?? []).map((film) => ({
        ...{ id: film.id, done: film.state === 'done', given: film.given === 1 },
      })),
    }));
  }
}
