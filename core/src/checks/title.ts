import type { Check } from './check';

const TO_PLAN = { words: 'Give it a title', step: 'plan' } as const;

/** Words that say nothing of what is to be learned, with the names of days and months; and numbers and dates. */
const SAYS_NOTHING = new Set(
  [
    ...[
      'untitled',
      'new',
      'lesson',
      'recording',
      'record',
      'video',
      'film',
      'movie',
      'clip',
      'take',
    ],
    ...['screen', 'test', 'draft', 'copy', 'final', 'version', 'part', 'week', 'unit', 'no', 'nr'],
    ...['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'],
    ...['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september'],
    ...['october', 'november', 'december', 'am', 'pm', 'the', 'of', 'a', 'my', 'mp', 'mov', 'webm'],
  ].flatMap((word) => [word, word.slice(0, 3)]),
);

/** Whether a title names no goal: it is a date, a number, or what programs call what they make. */
export const namesNoGoal = (title: string): boolean =>
  (
    title
      .normalize('NFC')
      .toLocaleLowerCase()
      .match(/\p{L}+/gu) ?? []
  ).every((word) => SAYS_NOTHING.has(word));

export const titleCheck = (title: string): Check => {
  if (title === '') {
    const sentence = 'It has no title: students see “Untitled film”.';
    return { id: 'title', verdict: 'look', sentence, mend: TO_PLAN };
  }
  if (namesNoGoal(title)) {
    const sentence = `“${title}” doesn’t say what it is about: nobody finds it again by that.`;
    return { id: 'title', verdict: 'look', sentence, mend: TO_PLAN };
  }
  return { id: 'title', verdict: 'good', sentence: `It is called “${title}”.` };
};
