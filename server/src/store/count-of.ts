import type { Knex } from 'knex';

/** The number of rows that a query has. */
export const countOf = async (query: Knex.QueryBuilder): Promise<number> => {
  const [row] = await query.count({ all: '*' });
  return Number(row?.all ?? 0);
};
