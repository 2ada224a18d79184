import * as fc from 'fast-check';
import { qrCodePath, darkRuns, QUIET_MODULES } from './qr-code-path';

const modulesOf = (rows: readonly string[]) => ({
  size: rows.length,
  isDark: (row: number, column: number) => rows[row]![column] === '#',
});

it('joins what lies beside one another, and leaves the quiet zone free', () => {
  expect(qrCodePath(modulesOf(['##.', '...', '#.#']))).toBe('M4 4h2v1h-2zM4 6h1v1h-1zM6 6h1v1h-1z');
  expect(QUIET_MODULES).toBe(4);
});

it('has each dark module once, and no light one', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 9 }).chain((size) =>
        fc.array(fc.array(fc.boolean(), { minLength: size, maxLength: size }), {
          ...{ minLength: size, maxLength: size },
        }),
      ),
      (dark) => {
        const isDark = (row: number, column: number) => dark[row]![column]!;
        const seen = dark.map((row) => row.map(() => 0));
        for (const { row, column, length } of darkRuns({ size: dark.length, isDark })) {
          for (let at = column; at < column + length; at++) seen[row]![at]!++;
        }
        expect(seen).toEqual(dark.map((row) => row.map(Number)));
      },
    ),
  ));
