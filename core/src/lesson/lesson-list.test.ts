import {
  byClassAndUnit,
  firstOf,
  lessonsFound,
  nextLesson,
  standingSo,
  type Listed,
} from './lesson-list';

const lesson = (
  id: string,
  title: string,
  className = '',
  unit = '',
  handedOut = false,
): Listed => ({
  id,
  title,
  className,
  unit,
  handedOut,
  archived: false,
});
const NAVIGATION = 'Coastal navigation for beginners';
const ALL = [
  lesson('lesson-a', 'Reading a tide table', NAVIGATION, 'Week 3', true),
  lesson('lesson-b', 'Week four: welcome', NAVIGATION, 'Week 4'),
  lesson('lesson-c', 'Café opening hours'),
  lesson('lesson-d', 'Tide heights by the rule of twelfths', NAVIGATION, 'Week 3'),
];
const ids = (lessons: readonly Listed[]) => lessons.map(({ id }) => id);

it('finds by all words, in title, class or unit, whatever their case and accents', () => {
  expect(ids(lessonsFound(ALL, 'TIDE week 3'))).toEqual(['lesson-a', 'lesson-d']);
  expect(ids(lessonsFound(ALL, 'cafe'))).toEqual(['lesson-c']);
  expect(lessonsFound(ALL, '  ')).toEqual(ALL);
  expect(lessonsFound(ALL, 'tide café')).toEqual([]);
});

it('the next one to do is the one changed last that isn’t handed out', () => {
  expect(nextLesson(ALL)?.id).toBe('lesson-b');
  expect(nextLesson([ALL[0]!])).toBeNull();
});

it('groups by class and unit, the one changed last first', () => {
  expect(byClassAndUnit(ALL).map(({ name, lessons }) => [name, ids(lessons)])).toEqual([
    [`${NAVIGATION} · Week 3`, ['lesson-a', 'lesson-d']],
    [`${NAVIGATION} · Week 4`, ['lesson-b']],
    ['', ['lesson-c']],
  ]);
});

it('are told apart by how far they have come', () => {
  expect(ids(standingSo(ALL, 'handed-out'))).toEqual(['lesson-a']);
  expect(ids(standingSo(ALL, 'to-do'))).toEqual(['lesson-b', 'lesson-c', 'lesson-d']);
  expect(standingSo(ALL, 'all')).toEqual(ALL);
  const [first, ...others] = ALL as [Listed, ...Listed[]];
  const some = [{ ...first, archived: true }, ...others];
  expect(ids(standingSo(some, 'archived'))).toEqual(['lesson-a']);
  expect(standingSo(some, 'all')).toEqual(others);
  expect(standingSo(some, 'handed-out')).toEqual([]);
});

it('are taken from their groups as many as there is room for', () => {
  const groups = byClassAndUnit(ALL);
  expect(firstOf(groups, 3).map(({ lessons }) => ids(lessons))).toEqual([
    ['lesson-a', 'lesson-d'],
    ['lesson-b'],
  ]);
  expect(firstOf(groups, 1).map(({ lessons }) => ids(lessons))).toEqual([['lesson-a']]);
  expect(firstOf(groups, 99)).toEqual(groups);
  expect(firstOf(groups, 0)).toEqual([]);
});
