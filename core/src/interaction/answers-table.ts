import { stringify } from 'csv-stringify/browser/esm/sync';
import type { Answered } from '../contract/answers';
import { WRITTEN } from '../text/written-table';
import { answerInWords } from './answer';

/** What was answered as a table (CSV), a line for each answer. */
export const answersTable = (all: readonly Answered[]): string =>
  stringify(
    all.flatMap(({ text, asked, answers }) =>
      answers.map(({ name, answer, right, at }) => ({
        Question: text,
        Student: name ?? '',
        Answer: answerInWords(asked, answer),
        Right: right === null ? '' : right ? 'yes' : 'no',
        When: at,
      })),
    ),
    { ...WRITTEN, bom: true, columns: ['Question', 'Student', 'Answer', 'Right', 'When'] },
  );
