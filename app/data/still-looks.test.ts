import { looksSame } from './still-looks';

/** Points of a grey picture, four values each. */
const look = (grey: (at: number) => number) =>
  Uint8ClampedArray.from({ length: 40 * 22 * 4 }, (_, at) => grey(at >> 2));

const table = (at: number) => (at % 7) * 30;

it('takes two for the same that differ as pictures do that were compressed', () => {
  const noisy = look((at) => table(at) + ((at * 7919) % 5) - 2);
  expect(looksSame(look(table), look(table))).toBe(true);
  expect(looksSame(look(table), noisy)).toBe(true);
});

it('tells them apart by a line that was written, and by a little everywhere, and not by a pointer', () => {
  const changedAt = (...places: number[]) => look((at) => (places.includes(at) ? 0 : 120));
  const line = Array.from({ length: 9 }, (_, index) => 411 + index);
  expect(looksSame(look(() => 120), changedAt(...line))).toBe(false);
  expect(looksSame(changedAt(80, 81), changedAt(411, 412))).toBe(true);
  expect(looksSame(look(() => 120), look(() => 123))).toBe(false);
});
