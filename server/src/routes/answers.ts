import type { Answered } from '@under-chalk/core/contract/answers';
import { AppError } from '@under-chalk/core/errors/errors';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { fits, isRight, replyTo } from '@under-chalk/core/interaction/answer';
import { answersTable } from '@under-chalk/core/interaction/answers-table';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import { sharedAmongStrangers } from '../http/stranger-share';
import { wordsFor } from '../jobs/words-for';

/** Most anonymous visitors per address who can answer a question in a day: a few classes behind one router. */
const MOST_OF_ONE = 200;

/** What students answer to the questions of films, and what comes of it. */
export const answersRoutes = (on: On, parts: Parts): void => {
  const { films, grants, shareLinks, answers, scoreGiver } = parts;
  const mayAnswer = sharedAmongStrangers(parts.config.front, MOST_OF_ONE);

  on(
    'answerInteraction',
    async ({ ctx, who, body: { version, interactionId, visitor, answer } }) => {
      // A page goes on with the film that it came with.
      const film = await shareLinks.filmOfVersion(who.shareLink, version);
      const interaction = (await wordsFor(parts, film)).interactions.find(
        ({ id }) => id === interactionId,
      );
      if (interaction?.does.is !== 'question') throw new AppError('not-found', 'a question');
      const { asked } = interaction.does;
      if (!fits(asked, answer)) throw new AppError('bad-request', 'an answer to it');
      const shareLinkId = who.shareLink.id;
      const answering = { shareLinkId, studentId: who.person?.studentId ?? null, visitor };
      if (!mayAnswer(ctx, who, `${shareLinkId} ${interactionId}`, visitor))
        throw new AppError('too-many-answers', shareLinkId);
      const right = isRight(asked, answer);
      await answers.put(answering, interactionId, { text: interaction.text, asked, answer, right });
      if (who.person) {
        // Whoever answers has been there, whatever their browser had of the film already.
        await grants.open(who.shareLink.id, who.person.studentId);
        await scoreGiver.changed(who.shareLink.id, who.person.studentId);
      }
      return replyTo(interaction, answer);
    },
  );

  on('ownAnswers', async ({ who }) => {
    if (!who.person) return [];
    const { interactions } = await wordsFor(parts, await films.get(who.shareLink.film_id));
    const given = await answers.ofStudent(who.shareLink.id, who.person.studentId);
    return given.flatMap(({ interaction_id, answer }) => {
      const interaction = interactions.find(({ id }) => id === interaction_id);
      const isOfIt = interaction?.does.is === 'question' && fits(interaction.does.asked, answer);
      return isOfIt
        ? [{ interactionId: interaction_id, answer, ...replyTo(interaction, answer) }]
        : [];
    });
  });

  const answeredOf = async (shareLinkId: string): Promise<{ title: string; all: Answered[] }> => {
    const shareLink = await shareLinks.get(shareLinkId);
    const { title, interactions } = await wordsFor(parts, await films.get(shareLink.film_id));
    const questions = new Map<string, Answered>();
    for (const { id, filmUs, text, does } of interactions) {
      if (does.is !== 'question') continue;
      questions.set(id, { interactionId: id, filmUs, text, asked: does.asked, answers: [] });
    }
    for (const {
      interaction_id,
      text,
      asked,
      name,
      answer,
      right,
      at,
    } of await answers.ofShareLink(shareLinkId)) {
      const question = questions.get(interaction_id);
      const told = { name, answer, right, at };
      if (question && fits(question.asked, answer)) question.answers.push(told);
      else {
        // It was another question then, or isn't asked any more.
        const before = `${interaction_id} ${JSON.stringify(asked)}`;
        const there = questions.get(before);
        if (there) there.answers.push(told);
        else
          questions.set(before, {
            interactionId: interaction_id,
            filmUs: null,
            text,
            asked,
            answers: [told],
          });
      }
    }
    return { title, all: [...questions.values()] };
  };

  on('answers', async ({ params }) => (await answeredOf(params.shareLinkId)).all);

  on('answersFile', async ({ params, ctx }) => {
    const { title, all } = await answeredOf(params.shareLinkId);
    saveAs(ctx, fileNameOf(`${title} answers`, 'csv'));
    ctx.type = 'text/csv; charset=utf-8';
    ctx.set('Cache-Control', 'private, no-cache');
    ctx.body = answersTable(all);
  });
};
