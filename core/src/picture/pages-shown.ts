import type { Film } from '../film/film';
import type { InkOf } from '../ink/changed-track';
import { pageOfCutaway } from '../lesson/cutaway';
import type { MaterialPage } from '../material/material';
import { frameToUs } from '../time/frames';

/** Pages of materials that come in a film, each once: written on, or shown in place of what was recorded. */
export const pagesShown = (film: Film, inkOf: InkOf): MaterialPage[] => {
  const pages = new Map<string, MaterialPage>();
  const add = (page: MaterialPage | null | undefined) => {
    if (page) pages.set(`${page.content} ${page.page}`, page);
  };
  for (const { take, startFrame, endFrame } of film.spans) {
    const turns = inkOf(take.id)?.turns ?? [];
    turns.forEach(({ atUs, of }, index) => {
      // A page is there until the next one is turned to.
      const untilUs = turns[index + 1]?.atUs ?? Infinity;
      if (atUs < frameToUs(endFrame) && untilUs > frameToUs(startFrame)) add(of);
    });
  }
  for (const { of } of film.lesson.decisions.cutaways) add(pageOfCutaway(of));
  return [...pages.values()];
};
