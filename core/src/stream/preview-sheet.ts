import type { Us } from '../time/us';

/** Small pictures of a film on one sheet, row by row, to be shown while somebody looks for a place in it. */
export interface PreviewSheet {
  /** Film time from one picture to the next, µs. */
  readonly everyUs: Us;
  readonly count: number;
  readonly columns: number;
  readonly rows: number;
}

/** Pictures of a sheet, at most; and the least time between two, µs: a film's frames can be found this often without decoding all. */
const MOST = 100;
const LEAST_US = 2_000_000;
const COLUMNS = 10;
/** Width of one, px. */
export const PREVIEW_PX = 160;

export const previewSheet = (filmUs: Us): PreviewSheet => {
  const count = Math.max(1, Math.min(MOST, Math.floor(filmUs / LEAST_US)));
  const columns = Math.min(COLUMNS, count);
  return { everyUs: filmUs / count, count, columns, rows: Math.ceil(count / columns) };
};

/** Which picture of a sheet shows a moment: its column and its row, from 0. */
export const previewAt = (
  { everyUs, count, columns }: PreviewSheet,
  filmUs: Us,
): { readonly column: number; readonly row: number } => {
  const index = Math.max(0, Math.min(count - 1, Math.floor(filmUs / everyUs)));
  return { column: index % columns, row: Math.floor(index / columns) };
};
