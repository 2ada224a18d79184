import type { Knex } from 'knex';
import { hashOf } from './ids';
import type { LinkSeal } from './link-seal';

/** As many rows as one statement takes of values. */
const AT_ONCE = 100;

/**
 * Addresses of films on one page, in the order of the links: the same ones each time, until the page has another address itself. Only
 * their hashes are kept, to be found by.
 *
 * @param owner whose page it is, as its rows say
 * @param pageHash of the page's address
 */
export const passesOn = async (
  db: Knex,
  seal: LinkSeal,
  owner: { readonly student_id: string } | { readonly class_id: string },
  pageHash: string,
  shareLinkIds: readonly string[],
): Promise<string[]> => {
  const tokens = shareLinkIds.map((id) => seal.tokenFor('pass', pageHash, id));
  const known = new Set<string>(await db('passes').where(owner).pluck('token_hash'));
  const missing = tokens
    .map((token, index) => ({
      ...{ ...owner, token_hash: hashOf(token), share_link_id: shareLinkIds[index]! },
    }))
    .filter(({ token_hash }) => !known.has(token_hash));
  for (let at = 0; at < missing.length; at += AT_ONCE)
    await db('passes')
      .insert(missing.slice(at, at + AT_ONCE))
      .onConflict('token_hash')
      .ignore();
  return tokens;
};
