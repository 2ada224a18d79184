import * as z from 'zod';
import { cleanText } from '../text/clean';
import type { Asked, FilmInteraction } from './interaction';
import { MOST_OPTIONS } from './shown';

/** Most signs of an answer in words: what strangers send is 4 kB at most, and a sign may be four bytes. */
export const MOST_ANSWER_SIGNS = 900;

const option = z
  .number()
  .int()
  .min(0)
  .max(MOST_OPTIONS - 1);

/** What somebody answers: options are counted from 0. */
export const answerSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('one'), option }).readonly(),
  z
    .object({ by: z.literal('several'), options: z.array(option).max(MOST_OPTIONS).readonly() })
    .readonly(),
  z
    .object({
      by: z.literal('words'),
      text: z.string().overwrite(cleanText).trim().min(1).max(MOST_ANSWER_SIGNS),
    })
    .readonly(),
  z.object({ by: z.literal('number'), value: z.number() }).readonly(),
]);
export type Answer = z.infer<typeof answerSchema>;

/** Whether an answer can be one to what is asked. */
export const fits = (asked: Asked, answer: Answer): boolean => {
  if (asked.by === 'one') return answer.by === 'one' && answer.option < asked.options.length;
  if (asked.by === 'several') {
    return answer.by === 'several' && answer.options.every((one) => one < asked.options.length);
  }
  return asked.by === answer.by;
};

/** Numbers are read to so many figures: 0.1 and 0.2 aren't less than 0.3 apart from 0. */
const EPSILON = 1e-9;

/** Whether there is a right answer. */
export const hasRight = (asked: Asked): boolean => {
  if (asked.by === 'words') return false;
  return asked.by === 'number' ? asked.right !== null : asked.options.some(({ right }) => right);
};

/** Whether an answer is right; null where there is no right one. */
export const isRight = (asked: Asked, answer: Answer): boolean | null => {
  if (!hasRight(asked)) return null;
  switch (asked.by) {
    case 'one':
      return answer.by === 'one' && asked.options[answer.option]?.right === true;
    case 'several':
      return (
        answer.by === 'several' &&
        asked.options.every(({ right }, at) => right === answer.options.includes(at))
      );
    case 'words':
      return null;
    case 'number':
      if (asked.right === null) return null;
      return (
        answer.by === 'number' &&
        Math.abs(answer.value - asked.right) <=
          asked.within + EPSILON * Math.max(1, Math.abs(asked.right))
      );
  }
};

/** What is said to somebody who has answered. */
export interface Reply {
  /** Null: it isn't said, or there is no right answer. */
  readonly right: boolean | null;
  /** The teacher's words to it; empty: none. */
  readonly says: string;
}

export const replyTo = ({ does }: FilmInteraction, answer: Answer): Reply => {
  if (does.is !== 'question' || does.told === null) return { right: null, says: '' };
  const right = isRight(does.asked, answer);
  return { right, says: right === false ? does.told.wrong : does.told.right };
};

/** Reads a number as people write it: `5.4`, `5,4`, `−2`; null where it is none. */
export const readNumber = (text: string): number | null => {
  const plain = text.trim().replace(/[−–]/, '-').replace(/\s/g, '').replace(',', '.');
  return /^-?(\d{1,12}(\.\d{0,9})?|\.\d{1,9})$/.test(plain) ? Number(plain) : null;
};

/** An answer in words. */
export const answerInWords = (asked: Asked, answer: Answer): string => {
  switch (answer.by) {
    case 'one':
      return 'options' in asked ? (asked.options[answer.option]?.text ?? '') : '';
    case 'several':
      return 'options' in asked
        ? answer.options.map((one) => asked.options[one]?.text ?? '').join(', ') || 'none of them'
        : '';
    case 'words':
      return answer.text;
    case 'number':
      return `${answer.value}${asked.by === 'number' && asked.unit ? ` ${asked.unit}` : ''}`;
  }
};
