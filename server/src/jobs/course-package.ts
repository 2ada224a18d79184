import {
  captionsFile,
  PACKAGE_FILES,
  packageManifest,
  packagePage,
  SCHEMAS,
} from '@under-chalk/core/out/course-package';
import { wordsAs } from '@under-chalk/core/words/given';
import { join } from 'node:path';
import { ZipFile } from 'yazl';
import type { FilmWords, StoredFilm } from '../store/film-store';
import type { MediaStore } from '../store/media-store';
import { endArchive, TIMELESS, type MadeArchive } from './made-archive';
import { languageFrom } from '@under-chalk/core/text/student-languages';
import { labelsOf, studentText } from '../messages/student-text';

/** What else goes into a package for a course site. */
export interface InPackage {
  readonly words: FilmWords;
  readonly teacherName: string;
  /** A JPEG. */
  readonly cover: string;
  /** Files that are built with the server: the page's program, and where the schemas are. */
  readonly player: string;
  readonly schemas: string;
}

/** A finished film as a package that a course site can take (SCORM 1.2): nothing in it asks for anything from elsewhere. */
export const coursePackage = async (
  film: StoredFilm,
  { words, teacherName, cover, player, schemas }: InPackage,
  media: MediaStore,
): Promise<MadeArchive> => {
  const { title, description, filmUs, chapters, spoken, captions } = words;
  const text = studentText(languageFrom([spoken]));
  const about = {
    ...{ id: film.id, title: title || text.t('page.untitled'), description, teacherName },
    ...{ filmUs, chapters, language: spoken, captions: captions.map(({ language }) => language) },
  };
  const zip = new ZipFile();
  const put = (text: string, name: string) => zip.addBuffer(Buffer.from(text), name, TIMELESS);
  // Sites look for the manifest; by custom it is the first.
  put(packageManifest(about), PACKAGE_FILES.manifest);
  put(packagePage(about, labelsOf(text)), PACKAGE_FILES.page);
  zip.addFile(player, PACKAGE_FILES.player, TIMELESS);
  zip.addFile(media.film(film.id), PACKAGE_FILES.film, TIMELESS);
  zip.addFile(cover, PACKAGE_FILES.cover, TIMELESS);
  for (const one of captions) put(wordsAs('vtt', one, words), captionsFile(one.language));
  for (const schema of SCHEMAS) zip.addFile(join(schemas, schema), schema, TIMELESS);
  return endArchive(zip);
};
