import { preferredLanguage } from '../messages/languages';
import { loadCatalogue } from '../messages/load';
import { fetchReader, readerOf } from '../features/watch/stream-reader';

/**
 * The first that a student's page runs: the cover comes before the player, which is fetched as soon as the cover is
 * there, or where there is none.
 */
const COVER_MS = 1_400;

const cover = document.querySelector<HTMLImageElement>('.served img');
const seen = new Promise<void>((resolve) => {
  // What is still being made is waited for by the player.
  if (!cover || cover.complete || cover.dataset['making'] !== undefined) return resolve();
  cover.addEventListener('load', () => resolve(), { once: true });
  cover.addEventListener('error', () => resolve(), { once: true });
  setTimeout(resolve, COVER_MS);
});
/** Where the film comes in pieces, what puts them together is fetched beside the player: the line is never idle. */
const { playlist } = document.getElementById('watch-data')?.dataset ?? {};
void seen.then(() => {
  if (playlist && readerOf(playlist) === 'ours') fetchReader(playlist).catch(() => undefined);
  // Beside the player, which waits for it.
  loadCatalogue(preferredLanguage()).catch(() => undefined);
  return import('./entry');
});
