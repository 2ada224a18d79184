import { strToU8, zipSync } from 'fflate';
import { writeOneRoster } from '@under-chalk/core/class/one-roster';
import { call } from '../../data/client';

/** Has the browser save some bytes as a file. */
export const saveBytes = (bytes: BlobPart, type: string, name: string): void => {
  const address = URL.createObjectURL(new Blob([bytes], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  // The browser has taken it up by then.
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
};

/** Saves some classes as a roster that other programs read (OneRoster 1.2, CSV in a ZIP). */
export const saveRoster = async (classIds: readonly string[], name: string): Promise<void> => {
  const classes = await Promise.all(
    classIds.map((classId) => call('class', { params: { classId } })),
  );
  const { teacherName } = await call('session');
  const files = writeOneRoster(classes, teacherName || 'Under Chalk', new Date().getFullYear());
  const zip = zipSync(Object.fromEntries([...files].map(([path, text]) => [path, strToU8(text)])));
  saveBytes(zip as BlobPart, 'application/zip', `${name}.zip`);
};
