import { TellableError } from '@under-chalk/core/errors/errors';
import { answerSchema, type Answer } from '@under-chalk/core/moment/answer';
import { askedSchema, type Asked } from '@under-chalk/core/moment/moment';
import type { Knex } from 'knex';
import { countOf } from './count-of';

/** An answer to a question of a film, under a link. */
export interface StoredAnswer {
  readonly hand_out_id: string;
  readonly moment_id: string;
  /** A student, or a device that somebody without a name answers on. */
  readonly viewer: string;
  readonly student_id: string | null;
  /** By the name that they have now; null: they have none. */
  readonly name: string | null;
  /** What was asked, as it was then. */
  readonly text: string;
  readonly asked: Asked;
  readonly answer: Answer;
  readonly right: boolean | null;
  readonly at: string;
}

interface Row extends Omit<StoredAnswer, 'asked' | 'answer' | 'right'> {
  readonly asked: string;
  readonly answer: string;
  readonly right: number | null;
}

/** Somebody who answers. */
export interface Answering {
  readonly handOutId: string;
  /** Null: somebody without a name. */
  readonly studentId: string | null;
  /** Names their device, where they have none. */
  readonly visitor: string;
}

/** Most anonymous answers per question. */
const MOST_UNNAMED = 1_000;

const read = ({ asked, answer, right, ...row }: Row): StoredAnswer => ({
  ...row,
  asked: askedSchema.parse(JSON.parse(asked)),
  answer: answerSchema.parse(JSON.parse(answer)),
  right: right === null ? null : right === 1,
});

/** What is answered to questions of films: of each who answers, their last answer. */
export class AnswerStore {
  readonly #db: Knex;

  constructor(db: Knex) {
    this.#db = db;
  }

  /** Keeps an answer, in place of one that they gave before. @throws TellableError `too-many-answers` */
  async put(
    { handOutId, studentId, visitor }: Answering,
    momentId: string,
    what: Pick<StoredAnswer, 'text' | 'asked' | 'answer' | 'right'>,
  ): Promise<void> {
    const row = {
      ...{ hand_out_id: handOutId, moment_id: momentId, student_id: studentId },
      viewer: studentId ?? `visitor ${visitor}`,
      ...{
        text: what.text,
        asked: JSON.stringify(what.asked),
        answer: JSON.stringify(what.answer),
      },
      ...{ right: what.right === null ? null : Number(what.right), at: new Date().toISOString() },
    };
    await this.#db.transaction(async (trx) => {
      // Whoever was erased while they answered leaves nothing.
      if (studentId !== null && !(await trx('students').where({ id: studentId }).first('id')))
        return;
      if (studentId === null) {
        const question = { hand_out_id: handOutId, moment_id: momentId, student_id: null };
        const others = trx('answers').where(question).whereNot({ viewer: row.viewer });
        if ((await countOf(others)) >= MOST_UNNAMED)
          throw new TellableError('too-many-answers', handOutId);
      }
      await trx('answers').insert(row).onConflict(['hand_out_id', 'moment_id', 'viewer']).merge();
    });
  }

  /** What a student has answered under a link. */
  async ofStudent(handOutId: string, studentId: string): Promise<StoredAnswer[]> {
    return (await this.#rows(handOutId).where({ student_id: studentId })).map(read);
  }

  /** What all have answered under a link, newest first. */
  async ofHandOut(handOutId: string): Promise<StoredAnswer[]> {
    return (await this.#rows(handOutId)).map(read);
  }

  #rows(handOutId: string): Knex.QueryBuilder<object, Row[]> {
    return this.#db('answers')
      .leftJoin('students', 'students.id', 'answers.student_id')
      .where({ hand_out_id: handOutId })
      .orderBy('at', 'desc')
      .select('answers.*', 'students.name');
  }
}
