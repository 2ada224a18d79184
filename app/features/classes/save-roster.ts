import { strToU8, zipSync } from 'fflate';
import { writeOneRoster } from '@under-chalk/core/class/one-roster';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { call } from '../../data/client';
import { saveBytes } from '../../data/save-bytes';

/** Saves some classes as a roster that other programs read (OneRoster 1.2, CSV in a ZIP). */
export const saveRoster = async (classIds: readonly string[], name: string): Promise<void> => {
  const classes = await Promise.all(
    classIds.map((classId) => call('class', { params: { classId } })),
  );
  const { teacherName } = await call('session');
  const files = writeOneRoster(classes, teacherName || 'Under Chalk', new Date().getFullYear());
  const zip = zipSync(Object.fromEntries([...files].map(([path, text]) => [path, strToU8(text)])));
  saveBytes(zip as BlobPart, 'application/zip', fileNameOf(name, 'zip'));
};
