import { Attempts } from './attempts';

const SHORT_US = 1_000_000;

it('tries the same settings once more, then simpler ones, until there are none', () => {
  const attempts = new Attempts(['high', 'half']);
  const seen = [attempts.present];
  const followed = Array.from({ length: 4 }, () => {
    const recovery = attempts.failed(SHORT_US);
    seen.push(attempts.present);
    return recovery;
  });
  expect(followed).toEqual(['again', 'simpler', 'again', 'gone']);
  expect(seen).toEqual(['high', 'high', 'half', 'half', undefined]);
});

it('stays with settings that worked for long', () => {
  const attempts = new Attempts(['high', 'half']);
  expect(Array.from({ length: 5 }, () => attempts.failed(60_000_000))).toEqual(
    Array(5).fill('again'),
  );
  expect(attempts.present).toBe('high');
});

it('has nothing to offer where nothing can be encoded', () =>
  expect(new Attempts([]).failed(0)).toBe('gone'));
