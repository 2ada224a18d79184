import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { startPracticeSite, type PracticeSite } from '@under-chalk/practice/site';
import { formIn, visitsFrom } from '@under-chalk/practice/visits';
import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const CLASS = 'class-coastal';
const LESSON = 'lesson-tides';
let server: TestServer;
let site: PracticeSite;
let folder: string;
let shareLink: ShareLink;
const { post, press, arrives } = visitsFrom(() => site.url);

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const sums = async () => ((await ask('GET', '/api/course-sites')) as [JoinedSite])[0].scores;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-scores-'));
  server = await startTestServer({ home: join(folder, 'home') });
  site = await startPracticeSite({ toolOrigin: server.url });
  const path = join(folder, 'surface.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '4', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p', path],
  ]);
  await ask('POST', '/api/lessons', { id: LESSON, title: 'Tides & streams' });
  await ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: 'take-tides', source: 'screen', practice: false },
    tracks: [{ id: 'take-tides-surface', kind: 'surface' }],
  });
  await server.upload('take-tides-surface', await readFile(path));
  await ask('POST', '/api/takes/take-tides/stop', {});
  expect(await server.ingested('take-tides')).toBe('ready');
  await server.edit(LESSON, {
    ...{ do: 'set-interaction', id: 'interaction-height' },
    interaction: {
      ...{ id: 'interaction-height', takeId: 'take-tides', atUs: 500_000, text: 'How high?' },
      does: {
        ...{ is: 'question', waits: false, told: null },
        asked: { by: 'number', right: 5.4, within: 0.1, unit: 'm' },
      },
    },
  } as never);
  await ask('POST', '/api/classes', { id: CLASS, name: 'Coastal navigation', units: [] });
  shareLink = await ask('POST', `/api/lessons/${LESSON}/share-links`, {
    size: '720p',
    grants: [
      { grantee: { is: 'class', classId: CLASS }, availableFrom: null, availableUntil: null },
    ],
  });
  await ask('POST', '/api/course-sites', site.joined);
  await arrives('ottilie', 'choose');
  await ask('POST', `/api/course-sites/${site.joined.id}/courses`, {
    ...{ courseId: 'coastal-4', classId: CLASS },
  });
});
afterAll(async () => {
  await site.stop();
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

/** Puts the film into the course. @returns its item there */
const putIn = async (gives: string) => {
  await press('ottilie', '/choose', { week: 'Week 4' });
  const { fields } = formIn((await arrives('ottilie', 'choose')).html);
  const chosen = await post({
    to: `${server.url}/lti/choose`,
    fields: { ...fields, share_link: shareLink.id, gives },
  });
  expect((await post(formIn(await chosen.text()))).status).toBe(200);
  return site.items.at(-1)! as (typeof site.items)[number] & { shows: { columnId: string | null } };
};
/** Opens the film from the course. @returns what is done with it there */
const opens = async (who: string, item: string) => {
  const token = /\/w\/(.+)$/.exec((await arrives(who, item)).to!)![1]!;
  const { stream: version } = await ask('GET', `/api/watch/${token}`);
  return {
    watches: (from: number, to: number, part = from + 1) =>
      ask('POST', `/api/watch/${token}/played`, {
        ...{ version, visit: `visit-of-${who}-0123456`, part, played: [[from, to]] },
      }),
    answers: (value: number) =>
      ask('POST', `/api/watch/${token}/answers`, {
        ...{ version, interactionId: 'interaction-height', visitor: `visitor-of-${who}-01` },
        answer: { by: 'number', value },
      }),
  };
};
/** What is due in some seconds is given now; resolves when it has been tried. */
const giveNow = async () => {
  const due = (db: Parameters<Parameters<TestServer['inDatabase']>[0]>[0]) =>
    db('site_scores').whereNotNull('due_at');
  await server.inDatabase((db) => due(db).update({ due_at: 1 }));
  server.parts.scoreGiver.begin();
  for (;;) {
    const left = await server.inDatabase((db) => due(db).where({ due_at: 1 }));
    if (left.length === 0) return;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
};
const scoresIn = (item: { shows: { columnId: string | null } }) =>
  site.scores
    .filter(({ columnId }) => columnId === item.shows.columnId)
    .map(({ userId, given, most, progress }) => [userId, given, most, progress]);

it('tells a course nothing where nobody wanted it', async () => {
  const item = await putIn('');
  expect(item.shows.columnId).toBeNull();
  const { watches, answers } = await opens('bram', item.id);
  await watches(0, 4);
  await answers(5.4);
  await giveNow();
  expect(site.scores).toEqual([]);
  expect(await server.inDatabase((db) => db('site_scores'))).toEqual([]);
  // What isn't among the choices is none.
  const { fields } = formIn((await arrives('ottilie', 'choose')).html);
  const to = `${server.url}/lti/choose`;
  const wrong = await post({ to, fields: { ...fields, share_link: shareLink.id, gives: 'all' } });
  expect(wrong.status).toBe(400);
});

describe('how much was watched', () => {
  let item: Awaited<ReturnType<typeof putIn>>;
  it('is told of each, some seconds after they did it, and once', async () => {
    item = await putIn('watched');
    expect(item.shows).toMatchObject({ custom: { share_link: shareLink.id, gives: 'watched' } });
    const bram = await opens('bram', item.id);
    const sunniva = await opens('sunniva', item.id);
    // Bram has watched all of it before, by the other link; Tomas nothing at all.
    await opens('tomas', item.id);
    await sunniva.watches(0, 2);
    expect(site.scores).toEqual([]);
    await giveNow();
    expect(scoresIn(item).sort()).toEqual([
      ['practice-bram', 100, 100, 'Completed'],
      ['practice-sunniva', 50, 100, 'InProgress'],
    ]);
    const ofBram = () => site.scores.find(({ userId }) => userId === 'practice-bram')!.at;
    const first = ofBram();
    await bram.watches(0, 1, 10);
    await giveNow();
    // Nothing new is nothing to be told.
    expect(ofBram()).toBe(first);
    await sunniva.watches(2, 4);
    await giveNow();
    expect(scoresIn(item)).toContainEqual(['practice-sunniva', 100, 100, 'Completed']);
    expect(await sums()).toEqual({ given: 2, waiting: 0, refused: 0 });
  });

  it('isn’t taken back when what was watched is kept no longer', async () => {
    await server.parts.watched.forget(Date.now() + 4_000 * 86_400_000);
    const { watches } = await opens('sunniva', item.id);
    await watches(0, 1, 20);
    await giveNow();
    expect(scoresIn(item)).toContainEqual(['practice-sunniva', 100, 100, 'Completed']);
  });

  it('waits while the site is away, over a restart too, and is told when it is back', async () => {
    const { watches } = await opens('ines', item.id);
    site.goAway(true);
    await watches(0, 4);
    await giveNow();
    expect(await sums()).toMatchObject({ waiting: 1, refused: 0 });
    await ask('POST', `/api/course-sites/${site.joined.id}/scores`);
    await new Promise((resolve) => setTimeout(resolve, 300));
    expect(await sums()).toMatchObject({ waiting: 1 });
    expect(scoresIn(item)).toHaveLength(2);
    await server.stop();
    site.goAway(false);
    const { home } = server.config.folders;
    // On the same address: the site knows it by that.
    const port = Number(new URL(server.url).port);
    server = await startTestServer({ home, port });
    await ask('POST', `/api/course-sites/${site.joined.id}/scores`);
    for (let tries = 0; tries < 200 && scoresIn(item).length < 3; tries++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(scoresIn(item)).toContainEqual(['practice-ines', 100, 100, 'Completed']);
    expect(await sums()).toMatchObject({ given: 3, waiting: 0 });
  });

  it('is given up where its column is gone', async () => {
    const other = await putIn('watched');
    const { watches } = await opens('tomas', other.id);
    await site.dropColumn(other.shows.columnId!);
    await watches(0, 4);
    await giveNow();
    expect(await sums()).toMatchObject({ waiting: 0, refused: 1 });
  });

  it('is nobody’s any more who was erased', async () => {
    const of = () => server.inDatabase((db) => db('site_scores').where({ sub: 'practice-ines' }));
    const [{ student_id: id }] = await of();
    await ask('POST', `/api/students/${id}/erase`);
    expect(await of()).toEqual([]);
  });
});

it('tells how many questions were answered right, by the last answer', async () => {
  const item = await putIn('questions');
  const { answers } = await opens('wen', item.id);
  await answers(9);
  await giveNow();
  expect(scoresIn(item)).toEqual([['practice-wen', 0, 1, 'Completed']]);
  await answers(5.45);
  await giveNow();
  expect(scoresIn(item)).toEqual([['practice-wen', 1, 1, 'Completed']]);
});

it('forgets what is to be told to a site that it is parted from', async () => {
  await ask('DELETE', `/api/course-sites/${site.joined.id}`);
  expect(await server.inDatabase((db) => db('site_scores'))).toEqual([]);
});
