import { parse } from 'csv-parse/browser/esm/sync';
import { stringify } from 'csv-stringify/browser/esm/sync';
import { cleanText } from '../text/clean';
import { WRITTEN } from '../text/written-table';
import { MOST_IN_CLASS, studentSchema, type NewStudent } from './class';

/** What a column of a list of students says. */
export type ColumnOf = 'name' | 'given' | 'family' | 'address' | 'nothing';

/** A list as it came: rows of cells, each row as long as the longest. */
export interface RosterTable {
  /** What stands above the columns; null where the first row is a student already. */
  readonly heads: readonly string[] | null;
  readonly rows: readonly (readonly string[])[];
  readonly columns: number;
}

/** Longest list that is read, signs; and most of its columns. */
export const MOST_SIGNS = 2_000_000;
const MOST_COLUMNS = 60;

/** What parts cells, likeliest first. */
const DELIMITERS = ['\t', ';', ','] as const;

const ADDRESS = /^[^\s@<>]+@[^\s@<>]+\.[^\s@<>]+$/;

/** What heads are called, in words that lists come with. */
const HEADS: readonly (readonly [of: ColumnOf, words: RegExp])[] = [
  ['address', /^(e-?mail|mail|address|e-?mail address|login|sis login id)$/i],
  ['given', /^(given ?name|first ?name|preferred ?given ?name|forename)s?$/i],
  ['family', /^(family ?name|last ?name|surname)s?$/i],
  ['name', /^(name|full ?name|student|student ?name|display ?name|participant)s?$/i],
];

const headOf = (cell: string): ColumnOf =>
  HEADS.find(([, words]) => words.test(cell.replaceAll('_', ' ').trim()))?.[0] ?? 'nothing';

/** How well a list is parted by some sign: how many of its lines have the same number of them as the first; 0: none has. */
const partedBy = (lines: readonly string[], delimiter: string): number => {
  const counts = lines.map((line) => line.split(delimiter).length - 1);
  const first = counts[0] ?? 0;
  return first === 0 ? 0 : counts.filter((count) => count === first).length;
};

/** “Okafor, Bram” on each of the lines, and nothing else: family names first. */
const isFamilyFirst = (lines: readonly string[]): boolean => {
  if (lines.length === 0 || !lines.every((line) => /^[^,;\t@"]+,\s+[^,;\t@"\d]+$/.test(line)))
    return false;
  // What says the same of many is a group, and no given name.
  const given = new Set(lines.map((line) => line.split(',')[1]!.trim()));
  return given.size > lines.length / 2;
};

/** “Bram Okafor <bram@example.org>”, as mail programs write it. */
const asMail = (line: string): string[] | null => {
  const found = /^"?([^"<>]*?)"?\s*<([^<>\s]+@[^<>\s]+)>[,;]?$/.exec(line.trim());
  return found ? [found[1]!.trim(), found[2]!] : null;
};

const tableOf = (rows: readonly (readonly string[])[]): RosterTable => {
  const filled = rows.filter((row) => row.some((cell) => cell !== ''));
  const columns = Math.min(MOST_COLUMNS, Math.max(0, ...filled.map(({ length }) => length)));
  const padded = filled.map((row) => Array.from({ length: columns }, (_, at) => row[at] ?? ''));
  const [first] = padded;
  const isHead =
    first !== undefined &&
    first.some((cell) => headOf(cell) !== 'nothing') &&
    !first.some((cell) => ADDRESS.test(cell));
  return { heads: isHead ? first : null, rows: isHead ? padded.slice(1) : padded, columns };
};

/**
 * Reads a list of students: names a line each, as they were pasted, or CSV in whatever columns (RFC 4180, parted by commas, semicolons or
 * tabs). What is amiss in one line leaves the others.
 */
export const readRoster = (text: string): RosterTable => {
  const clean = cleanText(text.slice(0, MOST_SIGNS)).replace(/^\uFEFF/, '');
  const lines = clean
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
  const mail = lines.map(asMail);
  if (lines.length > 0 && mail.every((one) => one !== null)) return tableOf(mail);
  if (isFamilyFirst(lines)) {
    const turned = lines.map((line) => line.split(',').map((part) => part.trim()));
    // A line of heads looks just so.
    if (!turned[0]!.some((cell) => headOf(cell) !== 'nothing'))
      return tableOf(turned.map(([family, given]) => [`${given} ${family}`]));
  }
  const [delimiter] = [...DELIMITERS].sort((a, b) => partedBy(lines, b) - partedBy(lines, a));
  if (partedBy(lines, delimiter!) === 0) return tableOf(lines.map((line) => [line]));
  const rows = parse(clean, {
    delimiter: delimiter!,
    ...{ relax_column_count: true, relax_quotes: true, skip_empty_lines: true, trim: true },
    to: MOST_IN_CLASS * 2,
  }) as string[][];
  return tableOf(rows);
};

/** What the columns of a list are likely to say: by their heads, then by what is in them. */
export const guessColumns = ({ heads, rows, columns }: RosterTable): ColumnOf[] => {
  const guessed = Array.from({ length: columns }, (_, at): ColumnOf => headOf(heads?.[at] ?? ''));
  const cells = (at: number) => rows.map((row) => row[at]!).filter((cell) => cell !== '');
  const none = (of: ColumnOf) => !guessed.includes(of);
  const first = (is: (cells: readonly string[]) => boolean) =>
    guessed.findIndex((of, at) => of === 'nothing' && cells(at).length > 0 && is(cells(at)));
  if (none('address')) {
    const at = first((all) => all.every((cell) => ADDRESS.test(cell)));
    if (at >= 0) guessed[at] = 'address';
  }
  if (none('name') && none('given') && none('family')) {
    const at = first((all) => all.every((cell) => /\p{L}/u.test(cell) && !ADDRESS.test(cell)));
    if (at >= 0) guessed[at] = 'name';
  }
  // Each is said once: of two, the first.
  return guessed.map((of, at) => (of !== 'nothing' && guessed.indexOf(of) < at ? 'nothing' : of));
};

/** What comes of a list with its columns told. */
export interface ReadStudents {
  readonly students: readonly NewStudent[];
  /** Rows that no student can be made of, from 0, and why. */
  readonly left: readonly { readonly row: number; readonly why: 'no-name' | 'bad-address' }[];
}

export const studentsIn = ({ rows }: RosterTable, columns: readonly ColumnOf[]): ReadStudents => {
  const students: NewStudent[] = [];
  const left: ReadStudents['left'][number][] = [];
  const cellOf = (row: readonly string[], of: ColumnOf) => row[columns.indexOf(of)]?.trim() ?? '';
  rows.forEach((row, index) => {
    const name = cellOf(row, 'name') || `${cellOf(row, 'given')} ${cellOf(row, 'family')}`.trim();
    const address = cellOf(row, 'address');
    const read = studentSchema
      .unwrap()
      .omit({ id: true })
      .safeParse({ name, address: address === '' ? null : address });
    if (read.success) students.push(read.data);
    else left.push({ row: index, why: name === '' ? 'no-name' : 'bad-address' });
  });
  return { students, left };
};

/** A list of students as CSV: heads, a line each. */
export const rosterCsv = (students: readonly NewStudent[]): string =>
  stringify(
    students.map(({ name, address }) => [name, address ?? '']),
    { ...WRITTEN, columns: ['name', 'email'] },
  );

/** A table of students' own pages, for letters that are written to each: name, address for mail, address of the page. */
export const pagesCsv = (
  pages: readonly { readonly name: string; readonly mail: string | null; readonly page: string }[],
): string =>
  stringify(
    pages.map(({ name, mail, page }) => [name, mail ?? '', page]),
    { ...WRITTEN, columns: ['name', 'email', 'page'] },
  );
