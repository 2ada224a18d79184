import { filmOf, type Film } from '@under-chalk/core/film/film';
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { PlayerView } from '../../player/film-player';
import { LiveValue } from '../../data/live-value';
import { NoiseReducedSound } from '../../player/noise-reduced-sound';
import { Tidying } from './tidying';

const s = (seconds: number) => seconds * 1_000_000;
const take = takeOfLength('take-one', s(20));
const film = filmOf(lessonOf([take], { cuts: [{ takeId: take.id, startUs: s(4), endUs: s(8) }] }));

/** A player that shows what it is told to. */
const playing = () => {
  const value = new LiveValue<PlayerView>({
    ...{ playing: false, filmUs: 0, durationUs: film.durationUs, seekMs: null },
  });
  const sought: number[] = [];
  const tried: number[][] = [];
  let plays = 0;
  return {
    tried,
    sought,
    plays: () => plays,
    show: (view: Partial<PlayerView>) => value.set({ ...value.view(), ...view }),
    player: {
      film,
      view: value.view,
      subscribe: value.subscribe,
      seek: async (filmUs: number) => {
        sought.push(filmUs);
      },
      play: () => {
        plays++;
      },
      tryOut: (other: Film, fromUs: number, untilUs: number) => {
        tried.push([other.durationUs, fromUs, untilUs]);
      },
      inkOf: () => null,
      noiseReduced: new NoiseReducedSound(),
      pause: () => undefined,
    },
  };
};
const stretch = (startUs: number, endUs: number) => ({
  ...{ takeId: take.id, placementId: take.id, startUs, endUs },
});

it('follows the picture to where it was recorded, in steps while it plays', () => {
  const { player, show } = playing();
  const tidying = new Tidying(player);
  tidying.start();
  let told = 0;
  tidying.subscribe(() => told++);
  show({ filmUs: s(5) });
  expect(tidying.view().here).toEqual({ takeId: take.id, placementId: take.id, takeUs: s(9) });
  show({ playing: true });
  told = 0;
  for (let filmUs = s(5); filmUs < s(6); filmUs += 33_333) show({ filmUs });
  expect(told).toBe(3);
  tidying.close();
  show({ playing: false, filmUs: 0 });
  expect(tidying.view().here!.takeUs).toBeGreaterThan(s(9));
});

it('opens a stretch with its picture, and one that was cut without', () => {
  const { player, sought } = playing();
  const tidying = new Tidying(player);
  tidying.open(stretch(s(9), s(10)));
  expect([tidying.view().open?.startUs, sought]).toEqual([s(9), [s(5) + 20_000]]);
  tidying.open(stretch(s(5), s(6)));
  expect(sought).toHaveLength(1);
  tidying.open(null);
  expect(tidying.view().open).toBeNull();
});

it('plays a stretch, or what is kept after one that was cut', async () => {
  const { player, sought, plays } = playing();
  const tidying = new Tidying(player);
  tidying.play(stretch(s(5), s(6)));
  await Promise.resolve();
  await Promise.resolve();
  expect([sought, plays()]).toEqual([[s(4)], 1]);
});

it('lets the join be heard: the film without what is chosen, a little before it and after', () => {
  const { player, tried } = playing();
  const tidying = new Tidying(player);
  // From 2 s to 3 s: the film is a second shorter, and goes on at 2 s.
  tidying.hearJoin(stretch(s(2), s(3)));
  expect(tried).toEqual([[film.durationUs - s(1), s(0.5), s(3.5)]]);
});

it('moves an end of what is chosen, with its picture, and takes it in hand', () => {
  const { player, sought } = playing();
  const tidying = new Tidying(player);
  tidying.open(stretch(s(1), s(2)));
  tidying.moveEnd('endUs', s(3));
  expect(tidying.view().open).toMatchObject({ startUs: s(1), endUs: s(3) });
  expect(sought.at(-1)).toBe(s(3) - 20_000);
  tidying.carry(tidying.view().open);
  expect([tidying.view().open, tidying.view().carried?.endUs]).toEqual([null, s(3)]);
});
