import { filmOf } from '../film/film';
import type { Take } from '../lesson/take';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { incompleteChecks } from './incomplete';

const checks = (...takes: Take[]) => incompleteChecks(filmOf(lessonOf(takes)));
const whole = { ...takeOfLength('take-one', 10e6), recordedAt: '2026-03-01T10:00:00Z' };
const torn = (problem: string): Take => ({
  ...{ ...takeOfLength('take-two', 5e6, ['surface']), recordedAt: '2026-03-01T10:05:00Z' },
  problem,
});

it('says nothing of takes that are whole', () => expect(checks(whole)).toEqual([]));

it('names a take whose sound is missing, with its place and a way to process it again', () =>
  expect(checks(whole, torn('sound-unreadable'))).toEqual([
    {
      id: 'incomplete',
      verdict: 'stop',
      sentence: 'A part of take 2 is missing. Its sound is damaged and can’t be played.',
      atUs: 10e6,
      mend: { words: 'Process again', processTakeId: 'take-two' },
    },
  ]));

it('offers nothing where processing it again can’t help', () =>
  expect(checks(torn('take-too-long'))[0]).not.toHaveProperty('mend'));
