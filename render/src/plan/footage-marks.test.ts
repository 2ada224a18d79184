import { markAt } from './footage-marks';

const marks = [2, 4, 6].map((seconds) => ({
  untilUs: seconds * 1_000_000,
  digest: `until-${seconds}`,
}));

it('finds the first mark that has all that begins at a time', () => {
  expect(markAt(marks, 0)?.digest).toBe('until-2');
  expect(markAt(marks, 1_999_999)?.digest).toBe('until-2');
  // What begins where a mark ends isn't in it.
  expect(markAt(marks, 2_000_000)?.digest).toBe('until-4');
  expect(markAt(marks, 5_999_999)?.digest).toBe('until-6');
  expect(markAt(marks, 6_000_000)).toBeUndefined();
  expect(markAt([], 0)).toBeUndefined();
});
