import type { Answered } from '@under-chalk/core/contract/answers';
import { TellableError } from '@under-chalk/core/errors/errors';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { fits, isRight, replyTo } from '@under-chalk/core/moment/answer';
import { answersTable } from '@under-chalk/core/moment/answers-table';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import { sharedAmongStrangers } from '../http/stranger-share';
import { wordsFor } from '../jobs/words-for';

/** Most anonymous visitors per address who can answer a question in a day: a few classes behind one router. */
const MOST_OF_ONE = 200;

/** What students answer to the questions of films, and what comes of it. */
export const answersRoutes = (on: On, parts: Parts): void => {
  const { films, grants, handOuts, answers, scoreGiver } = parts;
  const mayAnswer = sharedAmongStrangers(parts.config.front, MOST_OF_ONE);

  on('answerMoment', async ({ ctx, who, body: { version, momentId, visitor, answer } }) => {
    // A page goes on with the film that it came with.
    const film = await handOuts.filmOfVersion(who.handOut, version);
    const moment = (await wordsFor(parts, film)).moments.find(({ id }) => id === momentId);
    if (moment?.does.is !== 'question') throw new TellableError('not-found', 'a question');
    const { asked } = moment.does;
    if (!fits(asked, answer)) throw new TellableError('bad-request', 'an answer to it');
    const handOutId = who.handOut.id;
    const answering = { handOutId, studentId: who.person?.studentId ?? null, visitor };
    if (!mayAnswer(ctx, who, `${handOutId} ${momentId}`, visitor))
      throw new TellableError('too-many-answers', handOutId);
    const right = isRight(asked, answer);
    await answers.put(answering, momentId, { text: moment.text, asked, answer, right });
    if (who.person) {
      // Whoever answers has been there, whatever their browser had of the film already.
      await grants.open(who.handOut.id, who.person.studentId);
      await scoreGiver.changed(who.handOut.id, who.person.studentId);
    }
    return replyTo(moment, answer);
  });

  on('ownAnswers', async ({ who }) => {
    if (!who.person) return [];
    const { moments } = await wordsFor(parts, await films.get(who.handOut.film_id));
    const given = await answers.ofStudent(who.handOut.id, who.person.studentId);
    return given.flatMap(({ moment_id, answer }) => {
      const moment = moments.find(({ id }) => id === moment_id);
      const isOfIt = moment?.does.is === 'question' && fits(moment.does.asked, answer);
      return isOfIt ? [{ momentId: moment_id, answer, ...replyTo(moment, answer) }] : [];
    });
  });

  const answeredOf = async (handOutId: string): Promise<{ title: string; all: Answered[] }> => {
    const handOut = await handOuts.get(handOutId);
    const { title, moments } = await wordsFor(parts, await films.get(handOut.film_id));
    const questions = new Map<string, Answered>();
    for (const { id, filmUs, text, does } of moments) {
      if (does.is !== 'question') continue;
      questions.set(id, { momentId: id, filmUs, text, asked: does.asked, answers: [] });
    }
    for (const { moment_id, text, asked, name, answer, right, at } of await answers.ofHandOut(
      handOutId,
    )) {
      const question = questions.get(moment_id);
      const told = { name, answer, right, at };
      if (question && fits(question.asked, answer)) question.answers.push(told);
      else {
        // It was another question then, or isn't asked any more.
        const before = `${moment_id} ${JSON.stringify(asked)}`;
        const there = questions.get(before);
        if (there) there.answers.push(told);
        else
          questions.set(before, {
            momentId: moment_id,
            filmUs: null,
            text,
            asked,
            answers: [told],
          });
      }
    }
    return { title, all: [...questions.values()] };
  };

  on('answers', async ({ params }) => (await answeredOf(params.handOutId)).all);

  on('answersFile', async ({ params, ctx }) => {
    const { title, all } = await answeredOf(params.handOutId);
    saveAs(ctx, fileNameOf(`${title} answers`, 'csv'));
    ctx.type = 'text/csv; charset=utf-8';
    ctx.set('Cache-Control', 'private, no-cache');
    ctx.body = answersTable(all);
  });
};
