import type { Lesson } from './lesson';
import type { Id, Take } from './take';

/** The name of each take: *Take 1* is the one recorded first, wherever it stands in the film. */
export const takeNames = (lesson: Pick<Lesson, 'takes'>): ReadonlyMap<Id, string> => {
  const inTime = [...lesson.takes].sort(
    (a, b) => a.recordedAt.localeCompare(b.recordedAt) || a.id.localeCompare(b.id),
  );
  return new Map(inTime.map(({ id }, index) => [id, `Take ${index + 1}`]));
};

export const takeNameOf = (lesson: Pick<Lesson, 'takes'>, takeId: Id): string =>
  takeNames(lesson).get(takeId) ?? 'Take';

/** Takes that aren't there to be worked with yet: they are being recorded, or made ready. */
export const comingTakes = (lesson: Pick<Lesson, 'takes'>): Take[] =>
  lesson.takes.filter(({ state }) => state === 'recording' || state === 'processing');
