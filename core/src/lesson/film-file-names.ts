import type { PictureSize } from '../destination/size-name';
import { lessonFileName } from './file-name';
import type { Plan } from './plan';

/** A film of a lesson, as far as its file's name goes. */
export interface NamedFilm {
  readonly id: string;
  readonly size: PictureSize;
}

const SIZE_WORDS: Readonly<Record<PictureSize, string>> = {
  ...{ '720p': '720p', '1080p': '1080p', 'as-recorded': 'as recorded', finest: 'finest' },
};

/**
 * The names that the films of a lesson are saved under, by their ids: as the lesson, its class and its unit are called now, and no
 * two the same. The newest has the plain name; another size says so, and so do earlier films.
 *
 * @param films the newest first
 */
export const filmFileNames = (
  plan: Pick<Plan, 'title' | 'className' | 'unit'>,
  films: readonly NamedFilm[],
): Map<string, string> => {
  const base = lessonFileName(plan, 'mp4').slice(0, -'.mp4'.length);
  const seen = new Map<PictureSize, number>();
  return new Map(
    films.map(({ id, size }) => {
      const later = seen.get(size) ?? 0;
      seen.set(size, later + 1);
      const which = later === 0 ? '' : ` (earlier${later === 1 ? '' : ` ${later}`})`;
      const more = `${size === films[0]!.size ? '' : ` ${SIZE_WORDS[size]}`}${which}`;
      // Within what file systems take: the base keeps to 200 bytes.
      return [id, `${base}${more}.mp4`];
    }),
  );
};
