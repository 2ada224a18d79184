import { stringify } from 'csv-stringify/browser/esm/sync';
import type { WatchedByStudent } from '../contract/watched';
import { WRITTEN } from '../text/written-table';
import { toSeconds } from '../time/us';

/** What students have watched as a table (CSV, RFC 4180), a line each: with a mark of its encoding, for spreadsheets take it for another without. */
export const watchedTable = (students: readonly WatchedByStudent[]): string =>
  stringify(
    students.map(({ name, share, furthestUs, openedAt, lastAt }) => ({
      Student: name,
      Opened: openedAt ?? '',
      'Watched, %': Math.round(share * 100),
      'As far as, s': furthestUs === null ? '' : Math.round(toSeconds(furthestUs)),
      'Watched last': lastAt ?? '',
    })),
    { ...WRITTEN, bom: true },
  );
