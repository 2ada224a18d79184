import type { MaterialPage } from '@under-chalk/core/material/material';
import { useMaterials } from '../../data/queries';

/** A picture among a lesson's materials, and the page that shows it. */
export interface LessonPicture {
  readonly id: string;
  readonly name: string;
  readonly of: MaterialPage;
}

/** Pictures among a lesson's materials: those of one page that can be shown. */
export const usePictures = (lessonId: string): LessonPicture[] => {
  const { data = [] } = useMaterials(lessonId);
  return data
    .filter(({ state, aspects }) => state === 'ready' && aspects.length === 1)
    .map(({ id, name, content, aspects }) => ({
      ...{ id, name },
      of: { content: content!, page: 0, aspect: aspects[0]! },
    }));
};
