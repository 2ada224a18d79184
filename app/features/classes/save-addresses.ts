import { pagesCsv } from '@under-chalk/core/class/roster-table';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { call } from '../../data/client';
import { saveBytes } from '../../data/save-bytes';
import { pageAddress } from './page-address';

/** Saves the addresses of a class's pages as a table, for e-mails of one's own; pages that were taken away are left out. */
export const saveAddresses = async ({ id, name, students }: ClassView): Promise<void> => {
  const pages = await call('studentPages', { params: { classId: id } });
  const mailOf = new Map(students.map((student) => [student.id, student.address]));
  const given = pages.flatMap((page) =>
    page.key === null || page.away
      ? []
      : [
          {
            name: page.name,
            mail: mailOf.get(page.studentId) ?? null,
            page: pageAddress(page.key),
          },
        ],
  );
  saveBytes(pagesCsv(given), 'text/csv', fileNameOf(`${name}, pages`, 'csv'));
};
