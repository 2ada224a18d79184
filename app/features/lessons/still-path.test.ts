import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import { stillPath } from './still-path';

const take = takeOfLength('take-board', 9_000_000, ['ink', 'voice']);
const path = (decisions: Partial<Decisions> = {}, of = take) =>
  stillPath(lessonOf([take], decisions), of, 1_500_000.4);
const recoloured = (colour: 'red' | 'blue', takeId = take.id): Partial<Decisions> => ({
  inkChanges: [{ takeId, strokeId: 'stroke-one', change: { colour } }],
});

it('is that of the recording while nothing was changed about its writing', () => {
  expect(path()).toBe('/api/takes/take-board/still?atUs=1500000');
  expect(path(recoloured('red', 'take-other'))).toBe(path());
  const screen = takeOfLength('take-board', 9_000_000, ['surface']);
  expect(path(recoloured('red'), screen)).toBe(path());
});

it('is another for each change', () => {
  expect(path(recoloured('red'))).toMatch(/^\/api.*&lessonId=lesson-1&changed=[0-9a-z]+$/);
  expect(path(recoloured('red'))).not.toBe(path(recoloured('blue')));
});
