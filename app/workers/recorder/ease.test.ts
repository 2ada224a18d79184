import { easeOf } from './ease';

it('is at ease while nothing is left out, and again once nothing more is', () => {
  let left = 3;
  const atEase = easeOf(() => left);
  expect(atEase()).toBe(true);
  left = 5;
  expect(atEase()).toBe(false);
  expect(atEase()).toBe(true);
});
