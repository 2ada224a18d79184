import { stringify } from 'csv-stringify/browser/esm/sync';
import type { GivenIn } from '../contract/submissions';
import { WRITTEN } from '../text/written-table';

const COLUMNS = ['Student', 'Handed in', 'Late', 'Text', 'Files'];

/** What was handed in as a table (CSV): a line for each who did, and then for each who hasn't. */
export const submissionsTable = ({ submissions, missing }: GivenIn): string =>
  stringify(
    [
      ...submissions.map(({ name, at, late, text, files }) => ({
        ...{ Student: name, 'Handed in': at, Late: late ? 'yes' : 'no', Text: text },
        Files: files.map((file) => file.name).join(', '),
      })),
      ...missing.map((name) => ({
        ...{ Student: name, 'Handed in': '', Late: '', Text: '', Files: '' },
      })),
    ],
    { ...WRITTEN, bom: true, columns: COLUMNS },
  );
