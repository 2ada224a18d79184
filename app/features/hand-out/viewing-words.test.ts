import type { Watched, WatchedByStudent } from '@under-chalk/core/contract/watched';
import { shareInWords, watchedInWords } from './viewing-words';

const student = (name: string, share: number, furthestS: number | null): WatchedByStudent => ({
  ...{ studentId: `student-${name}`, name, share, openedAt: null, lastAt: null },
  furthestUs: furthestS === null ? null : furthestS * 1e6,
});
const watched = (change: Partial<Watched>): Watched => ({
  filmUs: 6_000_000,
  chapters: [
    { title: 'Hello', startUs: 0, endUs: 2_000_000 },
    { title: 'The stream', startUs: 2_000_000, endUs: 6_000_000 },
  ],
  students: [],
  others: 0,
  curve: { watched: [2, 2, 2, 2, 1, 1], again: [0, 0, 0, 2, 1, 0] },
  keptDays: 365,
  ...change,
});

it('says who has begun and who has watched all, and where most went back to, by its chapter', () => {
  const students = [student('Wen', 1, 6), student('Ines', 0.5, 3), student('Bram', 0, null)];
  expect(watchedInWords(watched({ students }))).toEqual([
    '2 of 3 have begun it, one watched all of it.',
    '2 have watched 0:03 to 0:05 (The stream) more than once.',
  ]);
  expect(watchedInWords(watched({ students: students.slice(2), others: 1 }))).toEqual([
    'Nobody that it is for has begun it.',
    'It was played on one page by somebody without a name.',
    '2 have watched 0:03 to 0:05 (The stream) more than once.',
  ]);
});

it('says nothing of a curve that isn’t there', () => {
  const none = { watched: [0, 0], again: [0, 0] };
  expect(watchedInWords(watched({ curve: none }))).toEqual([
    'Nobody has watched it yet as it is now.',
  ]);
});

it('says of each how much and how far', () => {
  expect(shareInWords(student('Wen', 0.96, 6))).toBe('Watched all of it');
  expect(shareInWords(student('Ines', 0.004, 1))).toBe('Watched 1 %, as far as 0:01');
  expect(shareInWords(student('Bram', 0, null))).toBeNull();
});
