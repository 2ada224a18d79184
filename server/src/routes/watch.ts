import { pathTo } from '@under-chalk/core/contract/api';
import type { Watch } from '@under-chalk/core/contract/watch';
import { EMBED_WIDTH_PX, embedCode, embedHeightPx } from '@under-chalk/core/share-link/embed-code';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Material } from '@under-chalk/core/material/material';
import { shownInteraction } from '@under-chalk/core/interaction/shown';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { coverOf } from '../jobs/film-cover';
import type { Parts } from '../http/context';
import { saveAs, sendFile } from '../http/files';
import type { On } from '../http/route';
import { originOf } from '../http/security';
import type { Student } from '../http/who';
import { sendDescribed, sendWords } from './words';
import { assignmentOf, attachmentsOf, type StoredShareLink } from '../store/share-link-store';
import { materialFile, officeFile } from '../store/material-files';
import { wordsFor } from '../jobs/words-for';
import { filmSound, SOUND_TYPES } from '../jobs/film-sound';

/** Materials that are given along with a film: those of its lesson that are there, and no other's. */
const givenWith = async ({ materials }: Parts, shareLink: StoredShareLink): Promise<Material[]> => {
  const ids = attachmentsOf(shareLink);
  if (ids.length === 0) return [];
  const all = await materials.ofLesson(shareLink.lesson_id);
  return all.filter(({ id, content }) => ids.includes(id) && content !== null);
};

/** What is told of the film that a student's link leads to. */
export const watchFor = async (parts: Parts, { shareLink, person }: Student): Promise<Watch> => {
  const film = await parts.films.get(shareLink.film_id);
  const { state, done } = parts.maker.toRow(film);
  const aspect = await parts.streams.aspectOf(film);
  const teacherName = await parts.accounts.teacherName();
  const { captions, interactions, ...words } = await wordsFor(parts, film);
  const languages = captions.map(({ language }) => language);
  return {
    ...{ ...words, languages, teacherName, state, done },
    ...{ aspect: aspect ?? 16 / 9, stream: aspect === null ? null : film.manifest_id },
    downloads: Boolean(shareLink.downloads),
    ...{ named: person !== null, assignment: assignmentOf(shareLink) },
    interactions: interactions.map(shownInteraction),
    materials: (await givenWith(parts, shareLink)).map(({ name, bytes }) => ({ name, bytes })),
  };
};

/**
 * What a student can reach: the finished film and its words, by the link's token. No identifier of a
 * lesson, take or track leaves through here, so there is nothing to try on other routes.
 */
export const watchRoutes = (on: On, parts: Parts): void => {
  const { films, shareLinks, maker, notes, lessons, accounts } = parts;

  const filmFor = ({ shareLink }: Student) => films.get(shareLink.film_id);

  on('watch', async ({ who, ctx }) => {
    ctx.set('Cache-Control', 'no-store');
    return watchFor(parts, who);
  });

  on('watchOEmbed', async ({ who, params, ctx }) => {
    const { title, teacherName, aspect } = await watchFor(parts, who);
    const origin = originOf(parts.config.front, ctx);
    const [width, height] = [EMBED_WIDTH_PX, embedHeightPx(aspect)];
    ctx.set('Cache-Control', 'no-store');
    return {
      ...({ type: 'video', version: '1.0', provider_name: 'Under Chalk' } as const),
      ...{ title, author_name: teacherName, width, height },
      html: embedCode(`${origin}/w/${params.token}`, title, aspect),
      thumbnail_url: origin + pathTo('watchCover', params),
      ...{ thumbnail_width: width, thumbnail_height: height },
    };
  });

  on('watchFilm', async ({ who, query: { version }, ctx }) => {
    const film = version
      ? await shareLinks.filmOfVersion(who.shareLink, version)
      : await filmFor(who);
    if (film.state !== 'done') throw new AppError('not-ready');
    if (who.person) await parts.grants.open(who.shareLink.id, who.person.studentId);
    await sendFile(ctx, maker.pathOf(film.id), { type: 'video/mp4', keep: 'never' });
  });

  on('watchSave', async ({ who, params: { form }, ctx }) => {
    const film = await filmFor(who);
    // Where it may not be saved there is nothing of the kind.
    if (!who.shareLink.downloads) throw new AppError('not-found', 'to be saved');
    if (film.state !== 'done') throw new AppError('not-ready');
    const path =
      form === 'mp4' ? maker.pathOf(film.id) : await filmSound(parts.media, film.id, form);
    await sendFile(ctx, path, {
      ...{ type: form === 'mp4' ? 'video/mp4' : SOUND_TYPES[form], keep: 'never' },
      saveAs: film.file_name.replace(/\.mp4$/, `.${form}`),
    });
  });

  on('watchMaterial', async ({ who, params, ctx }) => {
    const given = (await givenWith(parts, who.shareLink))[Number(params.number)];
    const { folders } = parts.config;
    const path =
      given?.content &&
      (officeFile(folders, given.content) ?? materialFile(folders, given.content));
    if (!path) throw new AppError('not-found', 'a material that is given');
    // Whatever is in it, it is saved and not shown: it was brought in by somebody.
    await sendFile(ctx, path, {
      ...{ type: 'application/octet-stream', keep: 'never', saveAs: given.name },
    });
  });

  const wordsIn = async (who: Student, language: string) => {
    const words = await wordsFor(parts, await filmFor(who));
    const found = words.captions.find((one) => one.language === language);
    if (!found) throw new AppError('not-found', `words in ${language}`);
    return { words: found, about: words };
  };

  on('watchWords', async ({ who, params, ctx }) => {
    ctx.set('Cache-Control', 'private, no-cache');
    return (await wordsIn(who, params.language)).words;
  });

  on('watchWordsFile', async ({ who, params, ctx }) => {
    const { words, about } = await wordsIn(who, params.language);
    // Its times lead to this student's own address.
    const address = `${originOf(parts.config.front, ctx)}/w/${params.token}`;
    const addressAt = (seconds: number) => `${address}?t=${seconds}`;
    const described = words.language === about.spoken ? about.described : [];
    sendWords(ctx, params.form, words, { ...about, described, addressAt });
  });

  on('watchDescribedFile', async ({ who, ctx }) => {
    sendDescribed(ctx, await wordsFor(parts, await filmFor(who)));
  });

  on('watchNotes', async ({ who, params, ctx }) => {
    const film = await filmFor(who);
    // Its links lead to this student's own address.
    const address = `${originOf(parts.config.front, ctx)}/w/${params.token}`;
    const ofFilm = await notes.ofFilm(film.id, () =>
      lessons.lessonAt(film.lesson_id, film.revision),
    );
    const teacher = await accounts.teacherName();
    const pdf = await notes.pdf(
      ofFilm,
      teacher,
      (filmUs) => `${address}?t=${Math.floor(filmUs / 1e6)}`,
      JSON.stringify([film.id, film.manifest_id, teacher, address]),
    );
    ctx.set('Cache-Control', 'private, no-cache');
    saveAs(ctx, fileNameOf(ofFilm.title, 'pdf'));
    ctx.type = 'application/pdf';
    ctx.body = pdf;
  });

  on('watchCover', async ({ who, ctx }) => {
    const film = await filmFor(who);
    const path = await coverOf(parts, film);
    await sendFile(ctx, path, { type: 'image/jpeg', keep: 'never' });
  });
};
