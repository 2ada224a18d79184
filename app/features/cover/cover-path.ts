import { pathTo } from '@under-chalk/core/contract/api';
import { timeOfCover, pageOfCover, type Cover } from '@under-chalk/core/lesson/cover';

interface Of {
  readonly id: string;
  /** What else its picture depends on, so that one that is held isn't shown after another. */
  readonly changed: number | string;
}

/** Where the cover is that a lesson's film would have. */
export const coverPath = ({ id, changed }: Of, cover: Cover, size: 'small' | 'large'): string => {
  const [moment, page] = [timeOfCover(cover), pageOfCover(cover)];
  const query = new URLSearchParams({
    ...(moment ? { takeId: moment.takeId, atUs: String(moment.atUs) } : {}),
    ...(page
      ? { content: page.content, page: String(page.page), aspect: String(page.aspect) }
      : {}),
    ...{ titled: String(cover.titled), size, changed: String(changed) },
  });
  return `${pathTo('coverPicture', { lessonId: id })}?${query}`;
};
