import { AppError } from '@under-chalk/core/errors/errors';
import { fileNameOf } from '@under-chalk/core/lesson/file-name';
import { curveOf, furthest, secondsOf, shareWatched } from '@under-chalk/core/watched/seconds';
import type { Watched, WatchedByStudent } from '@under-chalk/core/contract/watched';
import { watchedTable } from '@under-chalk/core/watched/watched-table';
import type { Parts } from '../http/context';
import { saveAs } from '../http/files';
import type { On } from '../http/route';
import { sharedAmongStrangers } from '../http/stranger-share';
import { wordsFor } from '../jobs/words-for';
import type { StoredWatched } from '../store/watched-store';

/** Most anonymous visits per address and link that are counted in a day: a few classes behind one router. */
const MOST_OF_ONE = 300;
const OK = { ok: true as const };

/** What students' pages tell of what is watched, and what comes of it. */
export const watchedRoutes = (on: On, parts: Parts): void => {
  const { films, shareLinks, grants, watched, scoreGiver } = parts;
  const isCounted = sharedAmongStrangers(parts.config.front, MOST_OF_ONE);

  on('notePlayed', async ({ ctx, who, body }) => {
    // A page goes on with the film that it came with.
    const film = await shareLinks.filmOfVersion(who.shareLink, body.version);
    if (film.film_us === null) throw new AppError('not-ready', 'a film whose length isn’t known');
    // More visits are not counted; their film continues.
    if (!isCounted(ctx, who, who.shareLink.id, body.visit)) return OK;
    await watched.note({
      ...body,
      shareLinkId: who.shareLink.id,
      studentId: who.person?.studentId ?? null,
      seconds: secondsOf(film.film_us),
    });
    if (who.person) {
      await grants.open(who.shareLink.id, who.person.studentId);
      await scoreGiver.changed(who.shareLink.id, who.person.studentId);
    }
    return OK;
  });

  const watchedOf = async (shareLinkId: string): Promise<Watched & { title: string }> => {
    const shareLink = await shareLinks.get(shareLinkId);
    const film = await films.get(shareLink.film_id);
    const { title, filmUs, chapters } = await wordsFor(parts, film);
    const rows = await watched.ofShareLink(shareLinkId);
    // Newest first: the film that they watched last.
    const last = new Map<string, StoredWatched>();
    for (const row of rows) {
      if (row.student_id !== null && !last.has(row.student_id)) last.set(row.student_id, row);
    }
    const students = (await grants.viewers(shareLinkId)).map(
      ({ studentId, name, firstAt }): WatchedByStudent => {
        const row = last.get(studentId);
        const at = row ? furthest(row.seconds) : null;
        return {
          ...{ studentId, name, openedAt: firstAt, lastAt: row?.last_at ?? null },
          share: row ? shareWatched(row.seconds) : 0,
          furthestUs: at === null ? null : (at + 1) * 1_000_000,
        };
      },
    );
    const ofThis = rows.filter(({ version }) => version === film.manifest_id);
    return {
      ...{ title, filmUs, chapters: [...chapters], students },
      others: rows.filter(({ student_id }) => student_id === null).length,
      curve: curveOf(
        ofThis.map(({ seconds }) => seconds),
        secondsOf(filmUs),
      ),
      keptDays: await watched.keptDays(),
    };
  };

  on('viewing', async ({ params }) => {
    const { title: _, ...told } = await watchedOf(params.shareLinkId);
    return told;
  });

  on('viewingFile', async ({ params, ctx }) => {
    const { title, students } = await watchedOf(params.shareLinkId);
    saveAs(ctx, fileNameOf(`${title} watched`, 'csv'));
    ctx.type = 'text/csv; charset=utf-8';
    ctx.set('Cache-Control', 'private, no-cache');
    ctx.body = watchedTable(students);
  });

  on('setViewingRetention', async ({ body }) => {
    await watched.keepFor(body.days);
    return { ok: true as const };
  });
};
