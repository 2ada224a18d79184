import { soundFormSchema } from '@under-chalk/core/destination/sound-form';
import { describedCues } from '@under-chalk/core/words/audio-description';
import { writeWebVtt } from '@under-chalk/core/words/files/web-vtt';
import { FORMS, wordsAs, type Form } from '@under-chalk/core/words/given';
import { ZipFile } from 'yazl';
import type { FilmWords, StoredFilm } from '../store/film-store';
import type { MediaStore } from '../store/media-store';
import { endArchive, TIMELESS, type MadeArchive } from './made-archive';
import { filmSound } from './film-sound';

/** What else goes along with a film. */
export interface Beside {
  readonly words: FilmWords;
  /** Its cover, a JPEG. */
  readonly cover: string;
  /** Pages of its board as PDF; null where nothing was written. */
  readonly pages: Buffer | null;
}

const WORDS_FORMS = Object.keys(FORMS) as Form[];

/**
 * A finished film with all that can be had of it: its sound alone, its words in every form and language, its cover, the pages of its
 * board. All are named as the film is.
 *
 * @throws FfmpegError
 */
export const filmArchive = async (
  film: StoredFilm,
  { words, cover, pages }: Beside,
  media: MediaStore,
): Promise<MadeArchive> => {
  const name = film.file_name.replace(/\.mp4$/, '');
  const zip = new ZipFile();
  zip.addFile(media.film(film.id), `${name}.mp4`, TIMELESS);
  for (const form of soundFormSchema.options)
    zip.addFile(await filmSound(media, film.id, form), `${name}.${form}`, TIMELESS);
  for (const of of words.captions) {
    for (const form of WORDS_FORMS) {
      const described = of.language === words.spoken ? words.described : [];
      const text = Buffer.from(wordsAs(form, of, { ...words, described }));
      zip.addBuffer(text, `${name} ${of.language}.${form}`, TIMELESS);
    }
  }
  if (words.described.length > 0) {
    const cues = describedCues(words.described, words.filmUs);
    const text = Buffer.from(writeWebVtt(cues, words.spoken));
    zip.addBuffer(text, `${name} described.vtt`, TIMELESS);
  }
  zip.addFile(cover, `${name}.jpg`, TIMELESS);
  if (pages) zip.addBuffer(pages, `${name}.pdf`, TIMELESS);
  return endArchive(zip);
};
