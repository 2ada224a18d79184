import { Guesses } from './guesses';

/** A clock that only goes on when somebody waits. */
const clock = () => {
  let ms = 0;
  return {
    now: () => ms,
    async wait(more: number) {
      ms += more;
    },
    pass(more: number) {
      ms += more;
    },
  };
};
const at = (address: string, knownMark: string | null = null) => ({ address, knownMark });
const isRight = async () => true;
const isWrong = async () => false;
const codeOf = (guess: Promise<void>) =>
  guess.then(
    () => 'right',
    (error: { code: string }) => error.code,
  );

it('makes who guesses wrong wait, twice as long each time, and hears the right one all the same', async () => {
  const time = clock();
  const guesses = new Guesses(time);
  const waited: number[] = [];
  for (let times = 0; times < 12; times++) {
    const before = time.now();
    await codeOf(guesses.check(at('a'), isWrong, 'wrong-passphrase'));
    waited.push((time.now() - before) / 1_000);
  }
  expect(waited).toEqual([0, 0, 0, 0, 0, 1, 2, 4, 8, 16, 20, 20]);
  expect(await codeOf(guesses.check(at('a'), isRight, 'wrong-passphrase'))).toBe('right');
  const before = time.now();
  await codeOf(guesses.check(at('a'), isWrong, 'wrong-passphrase'));
  expect(time.now()).toBe(before);
});

it('lets nobody wait for the guesses of others', async () => {
  const time = clock();
  const guesses = new Guesses(time);
  for (let times = 0; times < 8; times++) {
    await codeOf(guesses.check(at('a'), isWrong, 'wrong-passphrase'));
  }
  const before = time.now();
  expect(await codeOf(guesses.check(at('b'), isRight, 'wrong-passphrase'))).toBe('right');
  expect(await codeOf(guesses.check(at('a', 'mark'), isRight, 'wrong-passphrase'))).toBe('right');
  expect(time.now()).toBe(before);
});

it('hears the right guess though wrong ones wait, and makes it wait no less', async () => {
  let [ms, waited] = [0, 0];
  const real = {
    now: () => ms,
    wait: async (more: number) => {
      waited++;
      await new Promise((resolve) => setTimeout(resolve, 5));
      ms += more;
    },
  };
  const guesses = new Guesses(real);
  for (let times = 0; times < 6; times++)
    await codeOf(guesses.check(at('a'), isWrong, 'wrong-pin'));
  const wrong = [1, 2, 3].map(() => codeOf(guesses.check(at('a'), isWrong, 'wrong-pin')));
  const right = codeOf(guesses.check(at('a'), isRight, 'wrong-pin'));
  expect(await right).toBe('right');
  expect((await Promise.all(wrong)).sort()).toEqual([
    ...['too-many-tries', 'wrong-pin', 'wrong-pin'],
  ]);
  expect(waited).toBeGreaterThanOrEqual(3);
});

it('forgets with time', async () => {
  const time = clock();
  const guesses = new Guesses(time);
  for (let times = 0; times < 9; times++) {
    await codeOf(guesses.check(at('a'), isWrong, 'wrong-passphrase'));
  }
  time.pass(300_001);
  const before = time.now();
  await codeOf(guesses.check(at('a'), isWrong, 'wrong-passphrase'));
  expect(time.now()).toBe(before);
});

it('checks one at a time, and lets few of one caller wait', async () => {
  const guesses = new Guesses(clock());
  let running = 0;
  let most = 0;
  const slow = async () => {
    most = Math.max(most, ++running);
    await new Promise((resolve) => setTimeout(resolve, 2));
    running--;
    return false;
  };
  const codes = await Promise.all(
    Array.from({ length: 12 }, () => codeOf(guesses.check(at('a'), slow, 'wrong-code'))),
  );
  expect(codes.filter((code) => code === 'wrong-code')).toHaveLength(3);
  expect(codes.filter((code) => code === 'too-many-tries')).toHaveLength(9);
  expect(most).toBe(1);
});

it('checks a new browser before addresses that have guessed wrong, however many wait', async () => {
  const guesses = new Guesses(clock());
  const order: string[] = [];
  const guess = (address: string, right: boolean) =>
    codeOf(
      guesses.check(
        at(address),
        async () => {
          await new Promise((resolve) => setTimeout(resolve, 1));
          order.push(address);
          return right;
        },
        'wrong-passphrase',
      ),
    );
  const guessers = Array.from({ length: 200 }, (_, index) => `guesser ${index}`);
  await Promise.all(guessers.map((address) => guess(address, false)));
  order.length = 0;
  const again = guessers.map((address) => guess(address, false));
  // Two hundred wait: it is heard all the same, and one of them gives way.
  expect(await guess('teacher', true)).toBe('right');
  expect(order.indexOf('teacher')).toBeLessThanOrEqual(2);
  const told = await Promise.all(again);
  expect(told.filter((code) => code === 'too-many-tries')).toHaveLength(1);
});
