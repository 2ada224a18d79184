import { frameToUs } from '../time/frames';
import type { Us } from '../time/us';
import { filmTimeFrom, type Film } from './film';

/** A part of the film about one topic. */
export interface Chapter {
  readonly title: string;
  readonly startUs: Us;
  readonly endUs: Us;
}

/**
 * The chapters of a film, from the topics that were ticked off while it was recorded. A tick says that
 * the topic is done: its chapter runs from the tick before (or the start) to this one; what comes after
 * the last tick belongs to the last chapter. A chapter of which nothing is left in the film is left out.
 */
export const chaptersOf = (film: Film): Chapter[] => {
  const { topicsDone, topics } = film.lesson.decisions;
  const placed = new Set(film.spans.map((span) => span.take.id));
  const done = topicsDone
    .filter((tick) => placed.has(tick.takeId))
    .map((tick) => ({
      title: topics.find((topic) => topic.id === tick.topicId)?.text ?? '',
      atUs: filmTimeFrom(film, { takeId: tick.takeId, takeUs: tick.atUs }),
    }))
    .filter((tick) => tick.title !== '')
    .sort((a, b) => a.atUs - b.atUs);
  const lastUs = frameToUs(film.frames);
  return done
    .map(({ title, atUs }, index) => ({
      title,
      startUs: done[index - 1]?.atUs ?? 0,
      endUs: index === done.length - 1 ? lastUs : atUs,
    }))
    .filter((chapter) => chapter.endUs > chapter.startUs);
};
