import { lessonOf, takeOfLength } from '../testing/lessons';
import { comingTakes, takeNameOf, takeNames } from './take-names';

const at = (id: string, minute: number) => ({
  ...takeOfLength(id, 1_000_000),
  recordedAt: `2026-11-02T21:${minute}:00.000Z`,
});

it('names takes by when they were recorded, wherever they stand', () => {
  const lesson = lessonOf([at('take-last', 50), at('take-first', 40), at('take-between', 45)]);
  expect([...takeNames(lesson)]).toEqual([
    ['take-first', 'Take 1'],
    ['take-between', 'Take 2'],
    ['take-last', 'Take 3'],
  ]);
  expect(takeNameOf(lesson, 'take-between')).toBe('Take 2');
});

it('tells which are still coming', () => {
  const ingest = { ...at('take-last', 50), state: 'processing' as const };
  expect(comingTakes(lessonOf([at('take-first', 40), ingest]))).toEqual([ingest]);
});
