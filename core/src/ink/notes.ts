import type { Film } from '../film/film';
import { filmIn } from '../film/span';
import { frameToUs } from '../time/frames';
import type { Us } from '../time/us';
import type { InkOf } from './changed-track';
import { pageAt, pageNameAt, WHOLE_VIEW, type ShownPage } from './ink-track';

/** A page of the board as it is left: what students keep of a lesson. */
export interface NotesPage {
  /** As it looks when it is seen last. */
  readonly page: ShownPage;
  /** When it is turned to, film times, in order. */
  readonly shownUs: readonly Us[];
}

/**
 * The pages of the boards of a film that have something on them, in the order in which they are first seen. Only what
 * the film shows: what was cut out is on none of them.
 */
export const notesOf = (film: Film, inkOf: InkOf): NotesPage[] => {
  const pages = new Map<string, { page: ShownPage; shownUs: Us[] }>();
  let before = '';
  for (const span of film.spans) {
    const track = inkOf(span.take.id);
    if (!track || track.turns.length === 0) {
      before = '';
      continue;
    }
    const [startUs, endUs] = [frameToUs(span.startFrame), frameToUs(span.endFrame)];
    const turnedTo = track.turns.filter(({ atUs }) => atUs > startUs && atUs < endUs);
    const stays = [{ atUs: startUs, page: pageNameAt(track, startUs) }, ...turnedTo];
    stays.forEach(({ atUs, page: name }, index) => {
      const untilUs = stays[index + 1]?.atUs ?? endUs;
      if (untilUs <= atUs) return;
      const page = pageAt(track, Math.max(atUs, untilUs - frameToUs(1)));
      const key = `${span.take.id} ${name}`;
      if (page.paper.ruling === 'none') {
        before = '';
        return;
      }
      const known = pages.get(key);
      const shownUs = known?.shownUs ?? [];
      if (key !== before) shownUs.push(filmIn(span, atUs));
      before = key;
      pages.set(key, { page: { ...page, view: WHOLE_VIEW }, shownUs });
    });
  }
  return [...pages.values()].filter(({ page }) => page.of || page.strokes.length > 0);
};
