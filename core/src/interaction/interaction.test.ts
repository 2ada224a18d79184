import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { answerInWords, fits, isRight, readNumber, replyTo, type Answer } from './answer';
import { filmInteractionsOf } from './film-interactions';
import {
  interactionSchema,
  type Asked,
  type FilmInteraction,
  type Interaction,
} from './interaction';
import { shownInteraction } from './shown';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const options = [
  { text: 'three', right: true },
  { text: 'four', right: false },
  { text: 'a quarter of twelve', right: true },
];
const ONE: Asked = { by: 'one', options };
const SEVERAL: Asked = { by: 'several', options };
const METRES: Asked = { by: 'number', right: 5.4, within: 0.1, unit: 'm' };
const WORDS: Asked = { by: 'words' };

describe('an answer', () => {
  it.each<[Asked, Answer, boolean | null]>([
    [ONE, { by: 'one', option: 0 }, true],
    [ONE, { by: 'one', option: 1 }, false],
    [SEVERAL, { by: 'several', options: [2, 0] }, true],
    [SEVERAL, { by: 'several', options: [0] }, false],
    [SEVERAL, { by: 'several', options: [0, 1, 2] }, false],
    [METRES, { by: 'number', value: 5.3 }, true],
    [METRES, { by: 'number', value: 5.5 }, true],
    [METRES, { by: 'number', value: 5.51 }, false],
    [{ ...METRES, right: null }, { by: 'number', value: 1 }, null],
    [WORDS, { by: 'words', text: 'The flood.' }, null],
    [
      { by: 'one', options: options.map(({ text }) => ({ text, right: false })) },
      { by: 'one', option: 1 },
      null,
    ],
  ])('is right or not: %j, %j', (asked, answer, right) => {
    expect(fits(asked, answer)).toBe(true);
    expect(isRight(asked, answer)).toBe(right);
  });

  it.each<[Asked, Answer]>([
    [ONE, { by: 'one', option: 3 }],
    [ONE, { by: 'words', text: 'three' }],
    [SEVERAL, { by: 'several', options: [0, 7] }],
    [METRES, { by: 'words', text: '5.4' }],
  ])('fits what is asked, or is none: %j, %j', (asked, answer) =>
    expect(fits(asked, answer)).toBe(false),
  );

  it('is told of in words', () => {
    expect(answerInWords(ONE, { by: 'one', option: 2 })).toBe('a quarter of twelve');
    expect(answerInWords(SEVERAL, { by: 'several', options: [] })).toBe('none of them');
    expect(answerInWords(METRES, { by: 'number', value: 5.4 })).toBe('5.4 m');
  });

  it('as a number is read as people write it', () => {
    expect(['5.4', ' 5,4 ', '−2', '.5', '1 200'].map(readNumber)).toEqual([
      5.4, 5.4, -2, 0.5, 1200,
    ]);
    expect(['', 'five', '5.4.1', '1e9', '--2', 'Infinity'].map(readNumber)).toEqual(
      Array.from({ length: 6 }, () => null),
    );
  });

  it('is said to be right or wrong only where the teacher wants that', () => {
    const told = { right: 'Yes: a quarter.', wrong: 'Count again.' };
    const asks = (asked: Asked, what: typeof told | null): FilmInteraction => ({
      ...{ id: 'interaction-one', filmUs: 0, text: 'How many twelfths?' },
      does: { is: 'question', asked, waits: false, told: what },
    });
    expect(replyTo(asks(ONE, told), { by: 'one', option: 1 })).toEqual({
      right: false,
      says: told.wrong,
    });
    expect(replyTo(asks(ONE, null), { by: 'one', option: 1 })).toEqual({ right: null, says: '' });
    expect(replyTo(asks(WORDS, told), { by: 'words', text: 'x' })).toEqual({
      right: null,
      says: told.right,
    });
  });
});

describe('interactions of a film', () => {
  const at = (id: string, seconds: number): Interaction => ({
    ...{ id, takeId: 'take-one', atUs: s(seconds), text: 'How many twelfths by now?' },
    does: { is: 'question', asked: ONE, waits: true, told: { right: 'Yes.', wrong: 'No.' } },
  });
  const filmWith = (cuts: readonly [number, number][] = []) =>
    filmOf(
      lessonOf([takeOfLength('take-one', s(20))], {
        interactions: [at('interaction-one', 5), at('interaction-two', 12)],
        cuts: cuts.map(([from, to]) => ({ takeId: 'take-one', startUs: s(from), endUs: s(to) })),
      }),
    );

  it('come where they were put, also after a cut, and not at all where that was cut', () => {
    const when = (...cuts: [number, number][]) =>
      filmInteractionsOf(filmWith(cuts)).map(({ id, filmUs }) => [id, filmUs]);
    expect(when()).toEqual([
      ['interaction-one', s(5)],
      ['interaction-two', s(12)],
    ]);
    expect(when([4, 6])).toEqual([['interaction-two', s(10)]]);
  });

  it('say to a student nothing of what is right', () => {
    const shown = filmInteractionsOf(filmWith()).map(shownInteraction);
    expect(JSON.stringify(shown)).not.toMatch(/right|wrong|Yes\./);
    expect(shown[0]!.does).toEqual({
      ...{ is: 'question', waits: true },
      asked: { by: 'one', options: options.map(({ text }) => text) },
    });
  });

  it('lead to the web and nowhere else', () => {
    const link = (address: string) =>
      interactionSchema.safeParse({ ...at('interaction-one', 1), does: { is: 'link', address } })
        .success;
    expect(link('https://lantern-quay.example/tides?day=2')).toBe(true);
    for (const bad of ['javascript:alert(1)', 'data:text/html,x', 'file:///etc/passwd', 'quay', ''])
      expect([bad, link(bad)]).toEqual([bad, false]);
  });
});
