import { fromOlderList } from '@under-chalk/core/edit/older-entries';
import type { Knex } from 'knex';

/** Rows written at a time: SQLite takes a limited number of values in one statement. */
const AT_A_TIME = 200;

/** The id of an entry that had none; by its place in the list. */
const idAt = (index: number) => `entry-${index + 1}`;

/** What an undo of nothing becomes: it keeps its place in the list, and takes back nothing still. */
const OF_NOTHING = { do: 'undo', entries: ['nothing'] };

const plainly = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
};

/**
 * Gives every entry an id, each undo the names of what it took back, and each take a rank in place of a number.
 * Revisions stay as they are: films are known by them. A lesson's summary gets room beside it.
 */
export const nameEntries = async (knex: Knex): Promise<void> => {
  await knex.schema.alterTable('edits', (table) => {
    table.text('entry_id');
  });
  await knex.schema.alterTable('lessons', (table) => {
    table.text('summary');
    table.text('summary_of');
  });
  for (const lessonId of (await knex('lessons').pluck('id')) as string[]) {
    const rows: { revision: number; entry: string; at: string }[] = await knex('edits')
      .where({ lesson_id: lessonId })
      .orderBy('revision')
      .select('revision', 'entry', 'at');
    const older = rows.map(({ entry }) => plainly(entry));
    const named = fromOlderList(older, idAt).map((entry, index) => {
      if (entry) return entry;
      const written = older[index] as { do?: unknown } | null;
      const turns = written?.do === 'undo' || written?.do === 'redo';
      return { id: idAt(index), by: 'teacher', edit: turns ? OF_NOTHING : written };
    });
    await knex('edits').where({ lesson_id: lessonId }).delete();
    for (let from = 0; from < rows.length; from += AT_A_TIME) {
      await knex('edits').insert(
        rows.slice(from, from + AT_A_TIME).map(({ revision, at }, index) => ({
          lesson_id: lessonId,
          revision,
          entry_id: idAt(from + index),
          entry: JSON.stringify(named[from + index]),
          at,
        })),
      );
    }
  }
  await knex.schema.alterTable('edits', (table) => {
    table.dropNullable('entry_id');
    table.unique(['lesson_id', 'entry_id']);
  });
};
