import { isKnown } from '@under-chalk/core/edit/entry';
import { filmOf } from '@under-chalk/core/film/film';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import {
  ARCHIVE_DOCUMENT,
  ARCHIVE_FORM,
  ARCHIVE_VERSION,
  archiveText,
  materialPath,
  trackName,
} from '@under-chalk/core/out/lesson-archive';
import { openTimelineText } from '@under-chalk/core/out/opentimelineio';
import { existsSync } from 'node:fs';
import { ZipFile } from 'yazl';
import { endArchive, TIMELESS, type MadeArchive } from '../made-archive';
import type { Folders } from '../../config';
import type { LessonStore } from '../../store/lesson-store';
import { materialFile, officeFile } from '../../store/material-files';
import type { MaterialStore } from '../../store/material-store';
import type { MediaStore } from '../../store/media-store';

/** What a lesson archive is made from. */
export interface ExportParts {
  readonly lessons: LessonStore;
  readonly materials: MaterialStore;
  readonly media: MediaStore;
  readonly folders: Pick<Folders, 'materials'>;
}

/**
 * A lesson as an archive (ZIP, nothing compressed: footage can't be), written while it is read.
 *
 * @returns it, and how many bytes it will have
 * @throws AppError `not-found`
 */
export const exportLesson = async (
  lesson: Lesson,
  { lessons, materials, media, folders }: ExportParts,
): Promise<MadeArchive> => {
  const lessonId = lesson.id;
  const edits = (await lessons.edits(lessonId)).map(({ entry }) => entry).filter(isKnown);
  const brought = await materials.ofLesson(lessonId);
  const takes = lesson.takes.filter(({ state }) => state === 'ready');
  const zip = new ZipFile();
  const add = (text: string, name: string) => zip.addBuffer(Buffer.from(text), name, TIMELESS);
  const parts = { form: ARCHIVE_FORM, version: ARCHIVE_VERSION, lessonId } as const;
  add(archiveText({ ...parts, edits, takes, materials: brought }), ARCHIVE_DOCUMENT);
  add(openTimelineText(filmOf(lesson)), 'timeline.otio');
  for (const track of takes.flatMap((take) => take.tracks)) {
    const isWritten = mediumOf(track.kind) === 'events';
    const path = isWritten ? media.ink(track.id) : media.media(track.id).path;
    if (existsSync(path)) zip.addFile(path, trackName(track), TIMELESS);
  }
  const named = new Set<string>();
  for (const material of brought) {
    const { content } = material;
    // As it was brought in: what was made of it is made again.
    const path = content && (officeFile(folders, content) ?? materialFile(folders, content));
    const name = materialPath(material);
    if (path && name && !named.has(name)) zip.addFile(path, name, TIMELESS);
    if (name) named.add(name);
  }
  return endArchive(zip);
};
