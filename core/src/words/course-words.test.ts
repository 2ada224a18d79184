import { courseWordsOf, spelledAs } from './course-words';
import type { HeardText } from './drafted';

const SOUNDS: Readonly<Record<string, string>> = {
  key: 'K IY',
  quay: 'K IY',
  side: 'S AY D',
  quayside: 'K IY S AY D',
  twelfths: 'T W EH L F TH S',
  twelves: 'T W EH L V Z',
  lantern: 'L AE N T ER N',
  landing: 'L AE N D IH NG',
  ebb: 'EH B',
  web: 'W EH B',
  the: 'DH AH',
};
const soundsOf = (word: string) => (SOUNDS[word] ? [SOUNDS[word].split(' ')] : []);
const heard = (text: string, sure = 90): HeardText[] =>
  text
    .split(' ')
    .map((word, at) => ({ text: word, startUs: at * 1e6, endUs: at * 1e6 + 8e5, sure }));
const texts = (words: readonly HeardText[]) => words.map(({ text }) => text).join(' ');

describe('a course’s own words', () => {
  it('are those of its texts, names with their capital, headings and beginnings without', () => {
    expect(
      courseWordsOf([
        'THE RULE OF TWELFTHS',
        'Heights at Lantern Quay. Flood comes before the ebb, says Quay.',
        'We divide by twelfths',
      ]),
    ).toEqual([
      ...['rule', 'twelfths', 'heights', 'Lantern', 'Quay', 'flood', 'comes', 'before', 'says'],
      'divide',
    ]);
  });

  it('spell a draft: what sounds alike, names, and what is doubtful and nearly sounds so', () => {
    const course = courseWordsOf(['The rule of twelfths at Lantern Quay', 'On the quayside']);
    const spelled = (text: string, sure?: number) => {
      const found = spelledAs(heard(text, sure), course, soundsOf);
      return [texts(found.heard), found.changed];
    };
    expect(spelled('the lantern key')).toEqual(['the Lantern Quay', ['Quay']]);
    // Sure of another word, it is left alone.
    expect(spelled('by twelves')).toEqual(['by twelves', []]);
    expect(spelled('by twelves', 20)).toEqual(['by twelves', []]);
    expect(spelled('landing web', 20)).toEqual(['landing web', []]);
  });

  it('are found in two words that sound as one of them together, with the time of both', () => {
    const course = courseWordsOf(['On the quayside']);
    const { heard: found, changed } = spelledAs(heard('the key side', 70), course, soundsOf);
    expect([texts(found), changed]).toEqual(['the quayside', ['quayside']]);
    expect(found[1]).toMatchObject({ startUs: 1e6, endUs: 2.8e6, sure: 70 });
  });

  it('take a doubtful word that is a sound away', () => {
    const sounds = (word: string) =>
      word === 'estuary'
        ? [['EH', 'S', 'CH', 'UW', 'EH', 'R', 'IY']]
        : word === 'actuary'
          ? [['AE', 'S', 'CH', 'UW', 'EH', 'R', 'IY']]
          : [];
    const course = courseWordsOf(['In an estuary']);
    expect(texts(spelledAs(heard('actuary', 30), course, sounds).heard)).toBe('estuary');
    expect(texts(spelledAs(heard('actuary', 80), course, sounds).heard)).toBe('actuary');
  });

  it('change nothing where there are none', () => {
    expect(spelledAs(heard('the key'), [], soundsOf)).toEqual({
      heard: heard('the key'),
      changed: [],
    });
  });
});
