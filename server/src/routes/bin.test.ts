import { BIN_DAYS } from '@under-chalk/core/contract/bin';
import { existsSync } from 'node:fs';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openSeal } from '../store/link-seal';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.remove());

const DAY_MS = 86_400_000;
const WORDS = JSON.stringify({ title: 'Tides', description: '', filmUs: 7, chapters: [] });

/** A lesson with a take and a film, and files of both. */
const makeLesson = async (id: string) => {
  const [takeId, trackId] = [`${id}-take`, `${id}-take-voice`];
  await server.ask('POST', '/api/lessons', { id, title: `Lesson ${id}` });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: takeId, source: 'sound', practice: false },
    tracks: [{ id: trackId, kind: 'voice' }],
  });
  const { takes, films, media } = server.parts;
  const track = { id: trackId, kind: 'voice' as const, durationUs: 9, widthPx: 0, heightPx: 0 };
  await takes.ingested(takeId, 9, [{ ...track, digest: '', bytes: 5 }], null);
  await media.prepare();
  await writeFile(media.media(trackId).path, 'media');
  await writeFile(media.levels(takeId), 'levels');
  const film = await films.want({
    ...{ lesson_id: id, revision: 1, manifest_id: `of-${id}`, size: '720p', film_us: 7 },
    ...{ file_name: 'x.mp4', words: WORDS },
  });
  await films.change(film.id, ['waiting'], { state: 'done', bytes: 3 });
  await mkdir(server.config.folders.films, { recursive: true });
  await writeFile(media.film(film.id), 'film');
  return { id, takeId, trackId, filmId: film.id };
};

const binned = async () =>
  (await server.ask('GET', '/api/bin')).json.map((row: { kind: string; id: string }) => [
    row.kind,
    row.id,
  ]);
const lessonIds = async () =>
  (await server.ask('GET', '/api/lessons')).json.map(({ id }: { id: string }) => id);
const bin = async (method: string, path: string) =>
  (await server.ask(method, `/api/bin/${path}`)).status;

it('takes a lesson out of sight, with its links, and brings all back as it was', async () => {
  const { id, filmId } = await makeLesson('lesson-back');
  const { shareLinks } = server.parts;
  const token = shareLinks.tokenOf(await shareLinks.add(id, filmId))!;
  const watched = async () => (await server.ask('GET', `/api/watch/${token}`)).status;
  expect([await lessonIds(), await watched()]).toEqual([[id], 200]);
  expect(await bin('POST', `lesson/${id}`)).toBe(200);
  expect([await lessonIds(), await watched()]).toEqual([[], 404]);
  const [row] = (await server.ask('GET', '/api/bin')).json;
  expect(row).toMatchObject({ kind: 'lesson', id, title: 'Lesson lesson-back', bytes: 8 });
  expect(Date.parse(row.goesAt) - Date.parse(row.removedAt)).toBe(BIN_DAYS * DAY_MS);
  expect(await bin('POST', `lesson/${id}/restore`)).toBe(200);
  expect([await lessonIds(), await watched(), await binned()]).toEqual([[id], 200, []]);
  expect(await bin('POST', `lesson/${id}/restore`)).toBe(404);
});

it('keeps a film that students can watch until its link is taken away; the link can be given again', async () => {
  const { id, filmId } = await makeLesson('lesson-film');
  const { json: link } = await server.ask('POST', `/api/lessons/${id}/share-links`, {
    size: '720p',
  });
  expect(link.code).toBe('nothing-in-film');
  const { shareLinks } = server.parts;
  const given = await shareLinks.add(id, filmId);
  const token = shareLinks.tokenOf(given)!;
  const watched = async () => (await server.ask('GET', `/api/watch/${token}`)).status;
  expect((await server.ask('POST', `/api/bin/film/${filmId}`)).json.code).toBe('film-handed-out');
  await server.ask('DELETE', `/api/share-links/${given.id}`);
  expect(await watched()).toBe(404);
  await server.ask('POST', `/api/share-links/${given.id}/restore`);
  expect(await watched()).toBe(200);
  await server.ask('DELETE', `/api/share-links/${given.id}`);
  expect(await bin('POST', `film/${filmId}`)).toBe(200);
  expect((await server.ask('GET', `/api/lessons/${id}/films`)).json).toEqual([]);
  const again = await server.ask('POST', `/api/share-links/${given.id}/restore`);
  expect([again.status, await watched()]).toEqual([404, 404]);
});

it('keeps what students sent under the link of a film that is gone, until its lesson goes', async () => {
  const { id, filmId } = await makeLesson('lesson-answered');
  const { media, binService, submissions, shareLinks } = server.parts;
  const given = await shareLinks.add(id, filmId);
  const giver = { shareLinkId: given.id, studentId: null, visitor: 'visitor-0123456789abcdef' };
  await submissions.put(giver, { name: 'Wen', text: '087 degrees', files: [] }, null);
  await server.ask('DELETE', `/api/share-links/${given.id}`);
  expect(await bin('POST', `film/${filmId}`)).toBe(200);
  await binService.sweep(Date.now() + (BIN_DAYS + 1) * DAY_MS);
  expect(existsSync(media.film(filmId))).toBe(false);
  const texts = async () =>
    (await submissions.all(given.id, null)).map(({ text }: { text: string }) => text);
  expect(await texts()).toEqual(['087 degrees']);
  const links = (await server.ask('GET', `/api/lessons/${id}/share-links`)).json;
  expect(links).toMatchObject([{ id: given.id, handedIn: 1 }]);
  // It is no longer in the bin, and goes no second time.
  expect((await server.ask('GET', '/api/bin')).json).not.toContainEqual(
    expect.objectContaining({ id: filmId }),
  );
  await binService.sweep(Date.now() + (BIN_DAYS + 2) * DAY_MS);
  expect(await bin('POST', `film/${filmId}/restore`)).toBe(404);
  await bin('POST', `lesson/${id}`);
  await binService.sweep(Date.now() + (BIN_DAYS + 3) * DAY_MS);
  expect(
    await server.inDatabase((db) => db('submissions').where({ share_link_id: given.id })),
  ).toEqual([]);
});

it('takes a take out of its lesson, unless another lesson shows it or it is being recorded', async () => {
  const { id, takeId } = await makeLesson('lesson-take');
  const takes = async () =>
    (await server.ask('GET', `/api/lessons/${id}`)).json.lesson.takes.length;
  await server.ask('POST', '/api/lessons', { id: 'lesson-other', title: 'Other' });
  const placement = { id: 'place-elsewhere', takeId, rank: 'a5' };
  await server.edit('lesson-other', { do: 'place', placement, arrives: false });
  const refused = await server.ask('POST', `/api/bin/take/${takeId}`);
  expect([refused.json.code, await takes()]).toEqual(['take-elsewhere', 1]);
  await bin('POST', 'lesson/lesson-other');
  await bin('DELETE', 'lesson/lesson-other');
  expect(await bin('POST', `take/${takeId}`)).toBe(200);
  expect(await takes()).toBe(0);
  expect(await bin('POST', `take/${takeId}/restore`)).toBe(200);
  expect(await takes()).toBe(1);

  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: 'take-running', source: 'sound', practice: false },
    tracks: [{ id: 'take-running-voice', kind: 'voice' }],
  });
  expect((await server.ask('POST', '/api/bin/take/take-running')).json.code).toBe('not-ready');
});

it(`lets go for good after ${BIN_DAYS} days, with all files; what another lesson shows becomes that one’s`, async () => {
  const gone = await makeLesson('lesson-gone');
  const shared = `${gone.id}-shared`;
  await server.ask('POST', `/api/lessons/${gone.id}/takes`, {
    ...{ id: shared, source: 'sound', practice: false },
    tracks: [{ id: `${shared}-voice`, kind: 'voice' }],
  });
  await server.ask('POST', '/api/lessons', { id: 'lesson-heir', title: 'Heir' });
  const placement = { id: 'place-of-heir', takeId: shared, rank: 'a5' };
  await server.edit('lesson-heir', { do: 'place', placement, arrives: false });
  const { media, binService } = server.parts;
  const files = [
    media.media(gone.trackId).path,
    media.levels(gone.takeId),
    media.film(gone.filmId),
  ];
  await bin('POST', `lesson/${gone.id}`);
  await binService.sweep(Date.now() + (BIN_DAYS - 1) * DAY_MS);
  expect([files.map(existsSync), await bin('POST', `lesson/${gone.id}/restore`)]).toEqual([
    [true, true, true],
    200,
  ]);
  await bin('POST', `lesson/${gone.id}`);
  await binService.sweep(Date.now() + (BIN_DAYS + 1) * DAY_MS);
  expect(files.map(existsSync)).toEqual([false, false, false]);
  for (const path of [`lessons/${gone.id}`, `takes/${gone.takeId}`]) {
    expect([path, (await server.ask('GET', `/api/${path}`)).status]).toEqual([path, 404]);
  }
  const { lesson } = (await server.ask('GET', '/api/lessons/lesson-heir')).json;
  expect(lesson.takes.map(({ id }: { id: string }) => id)).toEqual([shared]);
});

it('goes on with what a stopped server left half gone; it can’t be brought back any more', async () => {
  const { id, trackId } = await makeLesson('lesson-half');
  await bin('POST', `lesson/${id}`);
  // Stopped between the word that it goes and the removing of its files.
  await server.parts.bin.going({ kind: 'lesson', id });
  expect(await bin('POST', `lesson/${id}/restore`)).toBe(404);
  expect(await binned()).not.toContainEqual(['lesson', id]);
  const { home } = server.config.folders;
  await server.stop();
  server = await startTestServer({ home });
  expect(existsSync(server.parts.media.media(trackId).path)).toBe(false);
  expect((await server.ask('GET', `/api/lessons/${id}`)).status).toBe(404);
});

it('a key that was lost shows no address again, and the link still opens', async () => {
  const { id, filmId } = await makeLesson('lesson-key');
  const { shareLinks } = server.parts;
  const token = shareLinks.tokenOf(await shareLinks.add(id, filmId));
  const { home } = server.config.folders;
  await server.stop();

  await rm(join(home, 'links.key'));
  const sealed = (await openSeal(home)).keep('another').sealed;
  expect((await openSeal(home)).opened(sealed)).toBe('another');
  server = await startTestServer({ home });
  const { json } = await server.ask('GET', `/api/lessons/${id}/share-links`);
  expect(json[0].token).toBeNull();
  expect((await server.ask('GET', `/api/watch/${token}`)).status).toBe(200);
});
