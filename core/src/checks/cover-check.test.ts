import { filmOf } from '../film/film';
import { NEW_DECISIONS, type Decisions } from '../edit/decisions';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { chosenTime, coverScene } from '../scene/cover-scene';
import { readScenes } from '../scene/scene';
import { coverCheck } from './cover-check';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const film = (decisions: Partial<Decisions>) =>
  filmOf(lessonOf([takeOfLength('take-one', s(20))], decisions));
const shows = (second: number, titled = false) => ({
  of: { takeId: 'take-one', atUs: s(second) },
  titled,
});
const verdict = (decisions: Partial<Decisions>, isBlank = false) =>
  coverCheck(film(decisions), { isBlank }).map((one) => [one.verdict, one.sentence]);

it('is content with a cover that shows something, found or chosen', () => {
  expect(verdict({})).toEqual([['good', 'Its cover was found in the film.']]);
  expect(verdict({ cover: shows(8) })).toEqual([['good', 'Its cover is the one that you chose.']]);
});

it('tells of a blank one, and of a moment that was cut out', () => {
  expect(verdict({}, true)[0]![0]).toBe('look');
  const cuts = [{ takeId: 'take-one', startUs: s(5), endUs: s(10) }];
  const [gone] = coverCheck(film({ cuts, cover: shows(8) }), null);
  expect(gone!.sentence).toContain('isn’t in the film any more');
  expect(gone!.mend).toEqual({ words: 'Choose the cover', opens: 'cover' });
});

it('says nothing of an empty film', () => {
  expect(coverCheck(filmOf(lessonOf([])), null)).toEqual([]);
});

describe('a cover', () => {
  const scenes = (decisions: Partial<Decisions>) => readScenes(film(decisions));
  const takeUs = (decisions: Partial<Decisions>) => {
    const all = { ...NEW_DECISIONS, ...decisions };
    const scene = coverScene(scenes(decisions), all.cover, s(1))!;
    const picture = scene.layers.find((layer) => layer.kind === 'picture');
    return picture?.kind === 'picture' ? picture.takeUs : null;
  };
  it('shows the moment that was chosen, wherever that has come to in the film', () => {
    const cuts = [{ takeId: 'take-one', startUs: s(2), endUs: s(5) }];
    expect(chosenTime(film({ cuts }), shows(8))).toBe(s(5));
    expect(takeUs({ cuts, cover: shows(8) })).toBe(s(8));
  });
  it('never shows what was cut out: what was found stands for it', () => {
    const cuts = [{ takeId: 'take-one', startUs: s(5), endUs: s(10) }];
    expect(takeUs({ cuts, cover: shows(8) })).toBe(s(1));
  });
  it('has the title over it where that is wanted and there is one', () => {
    const last = (title: string, titled: boolean) => {
      const plan = { ...NEW_DECISIONS.plan, title };
      return coverScene(scenes({ plan }), shows(8, titled), 0)!.layers.at(-1);
    };
    expect(last('Tides', true)).toMatchObject({
      kind: 'title-card',
      heading: 'Tides',
      on: 'picture',
    });
    expect(last('Tides', false)!.kind).not.toBe('card');
    expect(last('', true)!.kind).not.toBe('card');
  });
  it('shows a page that was brought in whole, and nothing of the film', () => {
    const of = { content: 'a'.repeat(64), page: 2, aspect: 1 };
    const { layers } = coverScene(scenes({}), { of, titled: false }, 0)!;
    const page = layers.at(-1)!;
    expect(page).toMatchObject({ kind: 'page', of, from: { x: 0, y: 0, width: 1, height: 1 } });
    if (page.kind === 'page') expect(page.to.width).toBeCloseTo(9 / 16);
    expect(layers.some(({ kind }) => kind === 'picture')).toBe(false);
  });
});
