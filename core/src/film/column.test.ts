import { lessonOf, takeOfLength } from '../testing/lessons';
import { placedIn, type Lesson } from '../lesson/lesson';
import type { Beat } from '../sound/beats';
import { columnOf } from './column';

const take = takeOfLength('take-one', 10_000_000);
const beat = (startUs: number, endUs: number): Beat => ({ kind: 'speech', startUs, endUs });
const beats = [beat(0, 3e6), beat(3e6, 6e6), beat(6e6, 10e6)];
const cut = (startUs: number, endUs: number) => ({ takeId: take.id, startUs, endUs });
const rows = (lesson: Lesson) =>
  columnOf(lesson, placedIn(lesson)[0]!, take, beats).map((row) => [
    row.kind === 'beat' ? 'beat' : row.where,
    row.startUs / 1e6,
    row.endUs / 1e6,
  ]);

it('is the beats of an untouched take', () =>
  expect(rows(lessonOf([take]))).toEqual([
    ['beat', 0, 3],
    ['beat', 3, 6],
    ['beat', 6, 10],
  ]));

it('folds a cut over several beats into one line, leaving what is kept of them', () =>
  expect(rows(lessonOf([take], { cuts: [cut(2e6, 7e6)] }))).toEqual([
    ['beat', 0, 2],
    ['middle', 2, 7],
    ['beat', 7, 10],
  ]));

it('joins what a cut leaves of a beat to the one beside it, where there is one', () => {
  expect(rows(lessonOf([take], { cuts: [cut(2e6, 5.8e6)] }))).toEqual([
    ['beat', 0, 2],
    ['middle', 2, 5.8],
    ['beat', 5.8, 10],
  ]);
  expect(rows(lessonOf([take], { cuts: [cut(3.2e6, 5.8e6), cut(7e6, 10e6)] }))).toEqual([
    ['beat', 0, 3.2],
    ['middle', 3.2, 5.8],
    ['beat', 5.8, 7],
    ['end', 7, 10],
  ]);
});

it('shows what was trimmed at the ends', () =>
  expect(
    rows(lessonOf([take], { trims: [{ placementId: take.id, startUs: 1e6, endUs: 9e6 }] })),
  ).toEqual([
    ['start', 0, 1],
    ['beat', 1, 3],
    ['beat', 3, 6],
    ['beat', 6, 9],
    ['end', 9, 10],
  ]));

it('joins a cut that touches the trimmed start, and drops slivers', () =>
  expect(
    rows(
      lessonOf([take], {
        trims: [{ placementId: take.id, startUs: 1e6, endUs: null }],
        cuts: [cut(1e6, 2_999_990)],
      }),
    ),
  ).toEqual([
    ['start', 0, 2.99999],
    ['beat', 3, 6],
    ['beat', 6, 10],
  ]));
