/**
 * The first that a student's page runs: the cover comes before the player, which is fetched as soon as the cover is
 * there, or where there is none.
 */
const COVER_MS = 1_400;

const cover = document.querySelector<HTMLImageElement>('.served img');
const seen = new Promise<void>((resolve) => {
  if (!cover || cover.complete) return resolve();
  cover.addEventListener('load', () => resolve(), { once: true });
  cover.addEventListener('error', () => resolve(), { once: true });
  setTimeout(resolve, COVER_MS);
});
void seen.then(() => import('./entry'));
