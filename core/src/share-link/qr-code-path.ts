/** Light modules that a QR code needs on all sides (ISO/IEC 18004, 6.3.8). */
export const QUIET_MODULES = 4;

/** A square of dark and light modules, row by row. */
export interface Modules {
  readonly size: number;
  /** Whether each is dark. */
  readonly isDark: (row: number, column: number) => boolean;
}

/** Dark modules beside one another in a row. */
export interface DarkRun {
  readonly row: number;
  readonly column: number;
  readonly length: number;
}

/** All dark modules of a code, as runs. */
export const darkRuns = ({ size, isDark }: Modules): DarkRun[] => {
  const runs: DarkRun[] = [];
  for (let row = 0; row < size; row++) {
    for (let column = 0; column < size; column++) {
      if (!isDark(row, column)) continue;
      const from = column;
      while (column + 1 < size && isDark(row, column + 1)) column++;
      runs.push({ row, column: from, length: column + 1 - from });
    }
  }
  return runs;
};

/** The same as a path (SVG), a module a unit, with the quiet zone round it: a square of `size` + 2 × {@link QUIET_MODULES}. */
export const qrCodePath = (modules: Modules): string =>
  darkRuns(modules)
    .map(
      ({ row, column, length }) =>
        `M${column + QUIET_MODULES} ${row + QUIET_MODULES}h${length}v1h-${length}z`,
    )
    .join('');
