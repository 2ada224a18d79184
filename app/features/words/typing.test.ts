import { Typing } from './typing';

/** A film that plays when it is told to, and stands where the test puts it. */
const open = () => {
  const at = { playing: false, filmUs: 0 };
  const put = jest.fn();
  const typing = new Typing({
    player: {
      view: () => at as never,
      play: () => {
        at.playing = true;
      },
      pause: () => {
        at.playing = false;
      },
      seek: async (us) => {
        at.filmUs = us;
      },
    },
    key: `typing test ${Math.random()}`,
    speech: () => [],
    put,
  });
  const type = (words: string) => {
    for (let end = 1; end <= words.length; end++) typing.type(words.slice(0, end));
  };
  return { at, put, typing, type };
};

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('begins to play with the first key, and waits for the typing once something was heard', () => {
  const { at, typing, type } = open();
  type('Goo');
  expect([at.playing, typing.view().waits]).toEqual([true, false]);
  at.filmUs = 2_500_000;
  typing.type('Good');
  expect([at.playing, typing.view().waits]).toEqual([false, true]);
  jest.advanceTimersByTime(1_200);
  expect([at.playing, typing.view().waits]).toEqual([true, false]);
  typing.close();
});

it('does not start by itself after it was stopped', () => {
  const { at, typing, type } = open();
  typing.listen(true);
  at.filmUs = 1_000_000;
  typing.listen(false);
  type('Good');
  jest.advanceTimersByTime(5_000);
  expect(at.playing).toBe(false);
  typing.close();
});

it('shows text that was typed without listening as long as it takes to read', () => {
  const { put, type, typing } = open();
  type('Good evening, and welcome to week four. ');
  expect(put).toHaveBeenCalledWith('Good evening, and welcome to week four.', 0, 2_294_118);
  expect(typing.view().fromUs).toBe(2_294_118);
  type('Hello. ');
  expect(put).toHaveBeenLastCalledWith('Hello.', 2_294_118, 3_294_118);
  typing.close();
});

it('shows text that was listened to while it is spoken', () => {
  const { at, put, typing, type } = open();
  typing.listen(true);
  at.filmUs = 1_700_000;
  type('Good evening. ');
  expect(put).toHaveBeenCalledWith('Good evening.', 0, 1_700_000);
  typing.close();
});
