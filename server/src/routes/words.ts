import { TellableError } from '@under-chalk/core/errors/errors';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf } from '@under-chalk/core/film/film';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { FORMS, readWordsOf, wordsAs, type About, type Form } from '@under-chalk/core/words/given';
import type { ReadWords } from '@under-chalk/core/words/read-cue';
import type { Context } from 'koa';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import { englishDraft } from '../words/english-draft';
import { foreignListener } from '../words/foreign-listener';
import { canAlignEnglish } from '../words/english-voice';
import { draftOf, timingOf } from '../words/listening';
import { likenessLanguages } from '../words/other-voices';

/** Gives the words of a film as a file, named by its title and language. What a player takes is shown in place too. */
export const sendWords = (ctx: Context, form: Form, words: ReadWords, about: About): void => {
  const { language } = words;
  saveAs(ctx, fileNameOf(`${about.title} ${language}`, form));
  ctx.type = `${FORMS[form]}; charset=utf-8`;
  ctx.set('Cache-Control', 'private, no-cache');
  ctx.body = wordsAs(form, words, about);
};

export const wordsRoutes = (
  on: On,
  { lessons, media, materials, wordsJobs, said, config, likenessScript }: Parts,
): void => {
  on('findSaid', ({ query }) => said.find(query.words));

  on('canListen', async () => ({
    timing: [
      ...new Set([...(canAlignEnglish() ? ['en'] : []), ...(await likenessLanguages())]),
    ].sort(),
    // One that was configured knows whatever it is asked for.
    drafts: config.listener ? null : canAlignEnglish() ? ['en'] : [],
  }));

  on('timeWords', async ({ params, body }) => {
    const { lesson } = await lessons.view(params.lessonId);
    return wordsJobs.begin(lesson.id, async (onProgress, signal) => ({
      timing: await timingOf(
        ...([lesson, body.language, media, likenessScript, onProgress, signal] as const),
      ),
    }));
  });

  const recognisers = [
    ...(config.listener ? [foreignListener(config.listener)] : []),
    englishDraft,
  ];
  on('draftWords', async ({ params, body }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const brought = await materials.ofLesson(lesson.id);
    const written = (await Promise.all(brought.map(({ id }) => materials.words(id)))).flat();
    return wordsJobs.begin(lesson.id, async (onProgress, signal) => ({
      draft: await draftOf(
        ...([lesson, body.language, recognisers, media, written] as const),
        ...([onProgress, signal] as const),
      ),
    }));
  });

  on('wordsJob', ({ params }) => Promise.resolve(wordsJobs.stateOf(params.jobId)));

  on('callOffWords', ({ params }) => wordsJobs.callOff(params.jobId));

  on('wordsFile', async ({ params, ctx }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const film = filmOf(lesson);
    const words = readWordsOf(film).find(({ language }) => language === params.language);
    if (!words) throw new TellableError('not-found', `words in ${params.language}`);
    const { title } = lesson.decisions.plan;
    sendWords(ctx, params.form, words, { title, chapters: chaptersOf(film) });
  });
};
