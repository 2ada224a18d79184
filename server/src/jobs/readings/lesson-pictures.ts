import type { LessonPictures } from '@under-chalk/core/contract/lessons';
import { filmOf } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { pagesShown } from '@under-chalk/core/picture/pages-shown';
import type { MediaStore } from '../../store/media-store';
import { inkOfFilm } from '../ink-of';
import type { PageReadings } from './page-readings';
import type { PictureReadings } from './picture-readings';

/** What is known of the pictures of a lesson's film. @throws AppError `footage-missing` */
export const lessonPictures = async (
  lesson: Lesson,
  {
    media,
    pictures,
    pageReadings,
  }: {
    readonly media: MediaStore;
    readonly pictures: PictureReadings;
    readonly pageReadings: PageReadings;
  },
): Promise<LessonPictures> => {
  const film = filmOf(lesson);
  const found: LessonPictures = { tracks: [], pages: [], isWhole: true };
  // Any of them may be shown in place of another.
  for (const take of lesson.takes) {
    const { readings, isWhole } = await pictures.readIn(take);
    found.tracks.push(...readings.map(([trackId, reading]) => ({ trackId, reading })));
    found.isWhole &&= isWhole;
  }
  for (const page of pagesShown(film, await inkOfFilm(film, media))) {
    const reading = await pageReadings.readingOf(page);
    if (reading === 'looking') found.isWhole = false;
    else if (reading) found.pages.push({ content: page.content, page: page.page, reading });
  }
  return found;
};
