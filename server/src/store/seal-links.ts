import type { Knex } from 'knex';
import type { LinkSeal } from './link-seal';

/** Keeps the tokens of links as hashes, and sealed: in a new table, so that nothing of the old one stays in its pages. */
export const sealLinks = async (knex: Knex, seal: LinkSeal): Promise<void> => {
  const rows: { token: string; [column: string]: unknown }[] = await knex('hand_outs')
    .orderBy('rowid')
    .select('*');
  await knex.schema.dropTable('hand_outs').createTable('hand_outs', (table) => {
    table.text('id').primary();
    table.text('lesson_id').notNullable().references('lessons.id').index();
    table.text('film_id').notNullable().references('films.id');
    table.text('token_hash').notNullable().unique();
    table.text('token_sealed').notNullable();
    table.text('created_at').notNullable();
    table.text('taken_back_at');
  });
  for (const { token, ...row } of rows) {
    const { hash, sealed } = seal.keep(token);
    await knex('hand_outs').insert({ ...row, token_hash: hash, token_sealed: sealed });
  }
};
