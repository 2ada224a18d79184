import { AppError } from '@under-chalk/core/errors/errors';
import { answerSchema, type Answer } from '@under-chalk/core/interaction/answer';
import { askedSchema, type Asked } from '@under-chalk/core/interaction/interaction';
import type { Knex } from 'knex';
import { countOf } from './count-of';

/** An answer to a question of a film, under a link. */
export interface StoredAnswer {
  readonly share_link_id: string;
  readonly interaction_id: string;
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
  readonly shareLinkId: string;
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

  /** Keeps an answer, in place of one that they gave before. @throws AppError `too-many-answers` */
  async put(
    { shareLinkId, studentId, visitor }: Answering,
    interactionId: string,
    what: Pick<StoredAnswer, 'text' | 'asked' | 'answer' | 'right'>,
  ): Promise<void> {
    const row = {
      ...{ share_link_id: shareLinkId, interaction_id: interactionId, student_id: studentId },
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
        const question = {
          share_link_id: shareLinkId,
          interaction_id: interactionId,
          student_id: null,
        };
        const others = trx('answers').where(question).whereNot({ viewer: row.viewer });
        if ((await countOf(others)) >= MOST_UNNAMED)
          throw new AppError('too-many-answers', shareLinkId);
      }
      await trx('answers')
        .insert(row)
        .onConflict(['share_link_id', 'interaction_id', 'viewer'])
        .merge();
    });
  }

  /** What a student has answered under a link. */
  async ofStudent(shareLinkId: string, studentId: string): Promise<StoredAnswer[]> {
    return (await this.#rows(shareLinkId).where({ student_id: studentId })).map(read);
  }

  /** What all have answered under a link, newest first. */
  async ofShareLink(shareLinkId: string): Promise<StoredAnswer[]> {
    return (await this.#rows(shareLinkId)).map(read);
  }

  #rows(shareLinkId: string): Knex.QueryBuilder<object, Row[]> {
    return this.#db('answers')
      .leftJoin('students', 'students.id', 'answers.student_id')
      .where({ share_link_id: shareLinkId })
      .orderBy('at', 'desc')
      .select('answers.*', 'students.name');
  }
}
