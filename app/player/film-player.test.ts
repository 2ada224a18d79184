import { filmOf } from '@under-chalk/core/film/film';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import { FilmPlayer } from './film-player';

// What is decoded and heard needs a real browser; here only what is pressed is looked at.
jest.mock('./track-reader', () => ({
  TrackReader: class {
    pictureAt = () => new Promise((resolve) => setTimeout(() => resolve(null), 20));
    close = () => undefined;
  },
}));
jest.mock('./sound-feed', () => ({
  SoundFeed: class {
    close = () => undefined;
  },
}));
jest.mock('./picture-feed', () => ({
  PictureFeed: class {
    at = () => null;
    close = () => undefined;
  },
}));
jest.mock('../data/client', () => ({
  call: async (name: string) => (name === 'loudness' ? [] : { is: 'none' }),
}));

beforeEach(() => {
  Object.assign(globalThis, {
    AudioContext: class {
      currentTime = 0;
      resume = () => Promise.resolve();
      close = () => Promise.resolve();
    },
    requestAnimationFrame: () => 1,
    cancelAnimationFrame: () => undefined,
  });
});

const player = () => new FilmPlayer(filmOf(lessonOf([takeOfLength('take-one', 20_000_000)])));

it('goes on playing after a seek', async () => {
  const film = player();
  film.play();
  await film.seek(5_000_000);
  expect(film.view()).toMatchObject({ playing: true, filmUs: 5_000_000 });
});
it('shows nothing, and breaks nothing, while there is neither a film nor a place to show it', async () => {
  const failed = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const film = new FilmPlayer(filmOf(lessonOf([])));
  await film.seek(0);
  expect(failed).not.toHaveBeenCalled();
  failed.mockRestore();
});
it('goes on after several seeks in a row, at the last', async () => {
  const film = player();
  film.play();
  const first = film.seek(5_000_000);
  void film.seek(6_000_000);
  void film.seek(9_000_000);
  await first;
  expect(film.view()).toMatchObject({ playing: true, filmUs: 9_000_000 });
});
it('stays paused when it was paused while the seek was under way', async () => {
  const film = player();
  film.play();
  const seeking = film.seek(5_000_000);
  film.pause();
  await seeking;
  expect(film.view().playing).toBe(false);
});
it('stays closed', async () => {
  const film = player();
  film.play();
  const seeking = film.seek(5_000_000);
  film.close();
  await seeking;
  film.play();
  expect(film.view().playing).toBe(false);
});
