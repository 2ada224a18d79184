import { lessonOf, takeOfLength } from '../testing/lessons';
import { placedIn, type Lesson } from '../lesson/lesson';
import type { Phrase } from '../sound/phrases';
import { columnOf } from './column';

const take = takeOfLength('take-one', 10_000_000);
const phrase = (startUs: number, endUs: number): Phrase => ({ kind: 'speech', startUs, endUs });
const phrases = [phrase(0, 3e6), phrase(3e6, 6e6), phrase(6e6, 10e6)];
const cut = (startUs: number, endUs: number) => ({ takeId: take.id, startUs, endUs });
const rows = (lesson: Lesson) =>
  columnOf(lesson, placedIn(lesson)[0]!, take, phrases).map((row) => [
    row.kind === 'phrase' ? 'phrase' : row.where,
    row.startUs / 1e6,
    row.endUs / 1e6,
  ]);

it('is the phrases of an untouched take', () =>
  expect(rows(lessonOf([take]))).toEqual([
    ['phrase', 0, 3],
    ['phrase', 3, 6],
    ['phrase', 6, 10],
  ]));

it('folds a cut over several phrases into one line, leaving what is kept of them', () =>
  expect(rows(lessonOf([take], { cuts: [cut(2e6, 7e6)] }))).toEqual([
    ['phrase', 0, 2],
    ['middle', 2, 7],
    ['phrase', 7, 10],
  ]));

it('joins what a cut leaves of a phrase to the one beside it, where there is one', () => {
  expect(rows(lessonOf([take], { cuts: [cut(2e6, 5.8e6)] }))).toEqual([
    ['phrase', 0, 2],
    ['middle', 2, 5.8],
    ['phrase', 5.8, 10],
  ]);
  expect(rows(lessonOf([take], { cuts: [cut(3.2e6, 5.8e6), cut(7e6, 10e6)] }))).toEqual([
    ['phrase', 0, 3.2],
    ['middle', 3.2, 5.8],
    ['phrase', 5.8, 7],
    ['end', 7, 10],
  ]);
});

it('shows what was trimmed at the ends', () =>
  expect(
    rows(lessonOf([take], { trims: [{ placementId: take.id, startUs: 1e6, endUs: 9e6 }] })),
  ).toEqual([
    ['start', 0, 1],
    ['phrase', 1, 3],
    ['phrase', 3, 6],
    ['phrase', 6, 9],
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
    ['phrase', 3, 6],
    ['phrase', 6, 10],
  ]));
