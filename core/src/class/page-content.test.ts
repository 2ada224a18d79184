import type { Class } from './class';
import { pageContentOf, type OnPage } from './page-content';

const unit = (name: string) => ({ id: name.toLowerCase().replaceAll(' ', '-'), name });
const COASTAL: Class = {
  id: 'coastal',
  name: 'Coastal navigation',
  units: [unit('Week 1'), unit('Week 2'), unit('Week 3')],
};
const KNOTS: Class = { id: 'knots', name: 'Knots', units: [] };

const film = (title: string, more: Partial<OnPage> = {}) => ({
  lessonId: `lesson-${title.toLowerCase()}`,
  ...{ title, className: COASTAL.name, unit: '', classIds: ['coastal'], open: true },
  upAt: '2026-11-02T08:00:00Z',
  ...more,
});
const on = (day: number) => ({ upAt: `2026-11-${String(day).padStart(2, '0')}T08:00:00Z` });
const titles = (shown: { name: string; films: readonly { title: string }[] } | null) =>
  shown && [shown.name, ...shown.films.map(({ title }) => title)];

const TIDES = film('Tides', { unit: 'Week 1', ...on(2) });
const CHARTS = film('Charts', { unit: 'Week 2', ...on(9) });
const BUOYS = film('Buoys', { unit: 'Week 2', ...on(10) });

it('has what was put up last on top, and the rest below in the class’s order', () => {
  const [shown, ...others] = pageContentOf([KNOTS, COASTAL], [BUOYS, TIDES, CHARTS]).classes;
  expect(others).toEqual([]);
  expect(shown!.name).toBe('Coastal navigation');
  expect(titles(shown!.now)).toEqual(['Week 2', 'Charts', 'Buoys']);
  expect(shown!.units.map(titles)).toEqual([['Week 1', 'Tides']]);
});

it('moves last week down when the next is put up, and not before that opens', () => {
  const next = film('Lights', { unit: 'Week 3', ...on(16) });
  const before = pageContentOf([COASTAL], [TIDES, CHARTS, { ...next, open: false }]).classes[0]!;
  expect(titles(before.now)).toEqual(['Week 2', 'Charts']);
  expect(before.units.map(titles)).toEqual([
    ['Week 1', 'Tides'],
    ['Week 3', 'Lights'],
  ]);
  const after = pageContentOf([COASTAL], [TIDES, CHARTS, next]).classes[0]!;
  expect(titles(after.now)).toEqual(['Week 3', 'Lights']);
  expect(after.units.map(titles)).toEqual([
    ['Week 1', 'Tides'],
    ['Week 2', 'Charts'],
  ]);
});

it('has the films of a unit as their teacher ordered them, and what came since after those', () => {
  const [first, second, third] = COASTAL.units;
  const lessons = ['lesson-gone', 'lesson-buoys', 'lesson-charts'];
  const LIGHTS = film('Lights', { unit: 'Week 2', ...on(11) });
  const klass = { ...COASTAL, units: [first!, { ...second!, lessons }, third!] };
  const { now } = pageContentOf([klass], [CHARTS, LIGHTS, BUOYS, TIDES]).classes[0]!;
  expect(titles(now)).toEqual(['Week 2', 'Buoys', 'Charts', 'Lights']);
});

it('has films of no unit, or of one that is no more, last', () => {
  const stray = film('Welcome', { unit: 'Week 9', ...on(1) });
  const { now, units } = pageContentOf([COASTAL], [stray, TIDES, CHARTS]).classes[0]!;
  expect(titles(now)).toEqual(['Week 2', 'Charts']);
  expect(units.map(titles)).toEqual([
    ['Week 1', 'Tides'],
    ['', 'Welcome'],
  ]);
});

it('puts a film under the class of its lesson, else of its link, else by itself', () => {
  const moved = film('Bowline', { className: 'Sailing', classIds: ['elsewhere', 'knots'] });
  const own = film('For Wen', { className: 'Another class', classIds: [] });
  const named = film('Splices', { className: 'Knots', classIds: [] });
  const shown = pageContentOf([COASTAL, KNOTS], [moved, own, named]);
  expect(shown.classes.map(({ name, now }) => [name, titles(now)])).toEqual([
    ['Knots', ['', 'Bowline', 'Splices']],
  ]);
  expect(shown.own.map(({ title }) => title)).toEqual(['For Wen']);
});

it('is empty where there is nothing', () =>
  expect(pageContentOf([COASTAL], [])).toEqual({ classes: [], own: [] }));
