import { AppError } from '@under-chalk/core/errors/errors';
import { chaptersOf } from '@under-chalk/core/film/chapters';
import { filmOf } from '@under-chalk/core/film/film';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { describedCues, readDescriptionsOf } from '@under-chalk/core/words/audio-description';
import { writeWebVtt } from '@under-chalk/core/words/files/web-vtt';
import { FORMS, readWordsOf, wordsAs, type About, type Form } from '@under-chalk/core/words/given';
import type { ReadWords } from '@under-chalk/core/words/read-cue';
import type { Context } from 'koa';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import type { FilmWords } from '../store/film-store';
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

/** Gives what is seen in a film, in words, as a file of WebVTT's kind *descriptions*. @throws AppError where there is nothing of it */
export const sendDescribed = (
  ctx: Context,
  about: Pick<FilmWords, 'title' | 'described' | 'spoken' | 'filmUs'>,
): void => {
  const { title, described, spoken, filmUs } = about;
  if (described.length === 0) throw new AppError('not-found', 'what is seen, in words');
  saveAs(ctx, fileNameOf(`${title} described`, 'vtt'));
  ctx.type = `${FORMS.vtt}; charset=utf-8`;
  ctx.set('Cache-Control', 'private, no-cache');
  ctx.body = writeWebVtt(describedCues(described, filmUs), spoken);
};

export const wordsRoutes = (
  on: On,
  { lessons, media, materials, wordsJobs, said, config, likenessScript }: Parts,
): void => {
  on('searchTranscripts', ({ query }) => said.find(query.words));

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

  on('cancelWordsJob', ({ params }) => wordsJobs.callOff(params.jobId));

  on('wordsFile', async ({ params, ctx }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const film = filmOf(lesson);
    const words = readWordsOf(film).find(({ language }) => language === params.language);
    if (!words) throw new AppError('not-found', `words in ${params.language}`);
    const { plan, language: spoken } = lesson.decisions;
    sendWords(ctx, params.form, words, {
      ...{ title: plan.title, chapters: chaptersOf(film) },
      described: params.language === spoken ? readDescriptionsOf(film) : [],
    });
  });

  on('describedFile', async ({ params, ctx }) => {
    const { lesson } = await lessons.view(params.lessonId);
    const film = filmOf(lesson);
    const { plan, language: spoken } = lesson.decisions;
    sendDescribed(ctx, {
      ...{ title: plan.title, filmUs: film.durationUs, spoken },
      described: readDescriptionsOf(film),
    });
  });
};
