import type { Answer } from '../interaction/answer';
import type { FilmInteraction } from '../interaction/interaction';
import { scoreMessage, scoreOf, scoresFor } from './score';

const question = (id: string, asked: object): FilmInteraction =>
  ({
    ...{ id, filmUs: 0, text: 'How high is the water?' },
    does: { is: 'question', asked, waits: false, told: null },
  }) as FilmInteraction;
const ONE = question('interaction-one', {
  by: 'one',
  options: [
    { text: 'ebb', right: false },
    { text: 'flood', right: true },
  ],
});
const HEIGHT = question('interaction-height', { by: 'number', right: 5.4, within: 0.1, unit: 'm' });
const OPEN = question('interaction-open', { by: 'words' });
const SAID: FilmInteraction = { ...ONE, id: 'interaction-note', does: { is: 'note' } };
const answers = (all: Record<string, Answer>) => new Map(Object.entries(all));

const scoreOfWatched = (share: number) => scoreOf('watched', [ONE], { share, answers: new Map() });
const scoreOfQuestions = (interactions: FilmInteraction[], given: ReadonlyMap<string, Answer>) =>
  scoreOf('questions', interactions, { share: 0.5, answers: given });

it('is the share that was watched, and done when that is as good as all of it', () => {
  expect(scoreOfWatched(0)).toEqual({ given: 0, most: 100, done: false });
  expect(scoreOfWatched(0.794)).toEqual({ given: 79, most: 100, done: false });
  expect(scoreOfWatched(0.8)).toEqual({ given: 80, most: 100, done: true });
  expect(scoreOfWatched(1)).toEqual({ given: 100, most: 100, done: true });
});

it('is how many questions were answered right, of those that have a right answer', () => {
  const all = [ONE, SAID, HEIGHT, OPEN];
  expect(scoreOfQuestions(all, answers({}))).toEqual({ given: 0, most: 2, done: false });
  const right = { 'interaction-one': { by: 'one', option: 1 } as const };
  expect(scoreOfQuestions(all, answers(right))).toEqual({ given: 1, most: 2, done: false });
  const whole = {
    ...right,
    'interaction-height': { by: 'number', value: 5.6 } as const,
    'interaction-open': { by: 'words', text: 'It turns at noon.' } as const,
  };
  expect(scoreOfQuestions(all, answers(whole))).toEqual({ given: 1, most: 2, done: true });
});

it('takes no answer to a question that was another then', () => {
  const gone = {
    'interaction-one': { by: 'one', option: 7 } as const,
    'interaction-height': { by: 'words', text: 'high' } as const,
    'interaction-never': { by: 'one', option: 1 } as const,
  };
  expect(scoreOfQuestions([ONE, HEIGHT], answers(gone))).toEqual({
    ...{ given: 0, most: 2, done: false },
  });
});

it('is that all was answered, where nothing is right or wrong', () => {
  const said = { 'interaction-open': { by: 'words', text: 'It turns at noon.' } as const };
  expect(scoreOfQuestions([OPEN], answers({}))).toEqual({ given: 0, most: 1, done: false });
  expect(scoreOfQuestions([OPEN], answers(said))).toEqual({ given: 1, most: 1, done: true });
  // A film that asks nothing any more.
  expect(scoreOfQuestions([SAID], answers({}))).toEqual({ given: 50, most: 100, done: false });
  expect(scoresFor('questions', [SAID])).toEqual({ gives: 'watched', most: 100 });
  expect(scoresFor('questions', [OPEN, HEIGHT])).toEqual({ gives: 'questions', most: 1 });
});

it('is sent with whom it is of, when, and whether there is more to come', () => {
  const told = { userId: 'person-7', at: new Date('2026-03-02T21:00:00.500Z') };
  expect(scoreMessage({ given: 1, most: 2, done: false }, told)).toEqual({
    ...{ userId: 'person-7', timestamp: '2026-03-02T21:00:00.500Z' },
    ...{ scoreGiven: 1, scoreMaximum: 2 },
    ...{ activityProgress: 'InProgress', gradingProgress: 'FullyGraded' },
  });
  expect(scoreMessage({ given: 2, most: 2, done: true }, told)).toMatchObject({
    activityProgress: 'Completed',
  });
});
