import type { Answered } from '@under-chalk/core/contract/answers';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { ShareLink, Viewer } from '@under-chalk/core/contract/share-links';
import type { ClassPage, PageContent, StudentPage } from '@under-chalk/core/contract/student-pages';
import type { Watched } from '@under-chalk/core/contract/watched';
import type { Unit } from '@under-chalk/core/class/class';
import type { Grant } from '@under-chalk/core/share-link/grant';
import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { GrantStore } from '../store/grant-store';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(180_000);

const [COASTAL, KNOTS] = ['class-coastal', 'class-knots'];
let server: TestServer;
let folder: string;
/** Students by name: Wen is in both classes, Ines and Bram in one each, Odo has left his. */
let ids: Record<string, string>;

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const makeLesson = async (id: string, title: string, unit: string, bytes: Buffer) => {
  await ask('POST', '/api/lessons', { id, title });
  await server.edit(id, { do: 'plan', set: { className: 'Coastal navigation', unit } });
  await ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `${id}-take`, source: 'screen', practice: false },
    tracks: [{ id: `${id}-surface`, kind: 'surface' }],
  });
  await server.upload(`${id}-surface`, bytes);
  await ask('POST', `/api/takes/${id}-take/stop`, {});
  expect(await server.ingested(`${id}-take`)).toBe('ready');
};
const toClass = (classId: string, availableUntil: string | null = null): Grant => ({
  ...{ grantee: { is: 'class', classId }, availableFrom: null, availableUntil },
});
const toStudent = (name: string, availableUntil: string | null = null): Grant => ({
  ...{ grantee: { is: 'student', studentId: ids[name]! }, availableFrom: null, availableUntil },
});
const TO_ANYONE: Grant = { grantee: { is: 'anyone' }, availableFrom: null, availableUntil: null };
const shareLink = (lessonId: string, ...grants: Grant[]): Promise<ShareLink> =>
  ask('POST', `/api/lessons/${lessonId}/share-links`, { size: '720p', grants });
const pageOf = (name: string): Promise<StudentPage> =>
  ask('POST', `/api/students/${ids[name]}/page`);
const pageContentOf = async (name: string): Promise<PageContent> =>
  ask('GET', `/api/page/${(await pageOf(name)).key}`);
const filmsOf = (pageContent: PageContent) => [
  ...pageContent.classes
    .flatMap(({ now, units }) => [...(now ? [now] : []), ...units])
    .flatMap(({ films }) => films),
  ...pageContent.own,
];
const inDays = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString();

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-pages-'));
  server = await startTestServer();
  const path = join(folder, 'surface.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '3'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p'],
    ...['-movflags', '+frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4', path],
  ]);
  const bytes = await readFile(path);
  await makeLesson('lesson-tides', 'Tide heights', 'Week 1', bytes);
  await makeLesson('lesson-drift', 'Set and drift', 'Week 2', bytes);
  const units = ['Week 1', 'Week 2'].map((name, index) => ({ id: `unit-${index}`, name }));
  await ask('POST', '/api/classes', { id: COASTAL, name: 'Coastal navigation', units });
  await ask('POST', '/api/classes', { id: KNOTS, name: 'Knots', units: [] });
  const enrol = (id: string, ...students: string[]) =>
    ask('POST', `/api/classes/${id}/students`, {
      students: students.map((name) => ({
        name,
        address: `${name.toLowerCase()}@lantern-quay.example`,
      })),
    });
  await enrol(COASTAL, 'Wen', 'Ines', 'Odo');
  await enrol(KNOTS, 'Wen', 'Bram');
  const views: ClassView[] = [
    await ask('GET', `/api/classes/${COASTAL}`),
    await ask('GET', `/api/classes/${KNOTS}`),
  ];
  ids = Object.fromEntries(
    views.flatMap(({ students }) => students.map(({ id, name }) => [name, id])),
  );
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

describe('who may watch', () => {
  const STUDENTS = ['Wen', 'Ines', 'Bram', 'Odo'];
  /** Who has what; said by hand, and not by what decides. */
  const GRANTS: readonly (readonly [string, () => Grant[], readonly string[]])[] = [
    ['anyone', () => [TO_ANYONE], ['link', 'class', 'Wen', 'Ines', 'Bram', 'Odo']],
    ['the class', () => [toClass(COASTAL)], ['class', 'Wen', 'Ines']],
    ['another class', () => [toClass(KNOTS)], ['Wen', 'Bram']],
    ['one student', () => [toStudent('Ines')], ['Ines']],
    ['students', () => [toStudent('Ines'), toStudent('Bram')], ['Ines', 'Bram']],
    ['one who has left', () => [toStudent('Odo')], ['Odo']],
    ['a class, and one besides', () => [toClass(KNOTS), toStudent('Odo')], ['Wen', 'Bram', 'Odo']],
  ];
  const STATES: readonly (readonly [string, (id: string) => Promise<unknown>, string | null])[] = [
    [
      'open',
      (id) =>
        ask('POST', `/api/share-links/${id}/open`, {
          availableFrom: null,
          availableUntil: inDays(2),
        }),
      null,
    ],
    [
      'not yet',
      (id) =>
        ask('POST', `/api/share-links/${id}/open`, {
          availableFrom: inDays(1),
          availableUntil: null,
        }),
      'not-open-yet',
    ],
    [
      'over',
      (id) =>
        ask('POST', `/api/share-links/${id}/open`, {
          availableFrom: null,
          availableUntil: inDays(-1),
        }),
      'no-longer-open',
    ],
    ['taken away', (id) => ask('DELETE', `/api/share-links/${id}`), 'not-found'],
    [
      'given back',
      async (id) => {
        await ask('POST', `/api/share-links/${id}/restore`);
        await ask('POST', `/api/share-links/${id}/open`, {
          availableFrom: null,
          availableUntil: null,
        });
      },
      null,
    ],
  ];
  const SUBMISSION = '/submission?visitor=visitor-0123456789abcdef';
  /** By a ticket that was given while it still was to be: whether they may is asked again. */
  const ROUTES = (token: string, version: string) => [
    ...['', '/oembed', '/cover.jpg', '/film.mp4', '/save/mp4', SUBMISSION].map(
      (name) => `/api/watch/${token}${name}`,
    ),
    ...['film.m3u8', 'previews.jpg', 'ticket'].map(
      (name) => `/api/watch/${token}/stream/${version}/${name}`,
    ),
    ...['picture.m3u8', 'picture/head.mp4', 'picture/0.m4s'].map(
      (name) => `/api/media/${server.parts.tickets.make({ token, version })}/${name}`,
    ),
  ];

  it('is decided alike for every student, link, state and route', async () => {
    // Everybody had an address of the film once: it is what might still be tried.
    const { id, token: link } = await shareLink(
      'lesson-tides',
      TO_ANYONE,
      toClass(COASTAL),
      toClass(KNOTS),
    );
    await ask('POST', `/api/share-links/${id}/downloads`, { downloads: true });
    const addresses = new Map([['link', link!]]);
    for (const name of STUDENTS) {
      const [film] = filmsOf(await pageContentOf(name));
      addresses.set(name, film!.token!);
    }
    await ask('POST', `/api/classes/${COASTAL}/students/${ids['Odo']}/leave`);
    const { key } = await ask('POST', `/api/classes/${COASTAL}/page`);
    addresses.set('class', filmsOf(await ask('GET', `/api/page/${key}`))[0]!.token!);
    expect(new Set(addresses.values()).size).toBe(6);
    const film = async () => (await ask('GET', '/api/lessons/lesson-tides/films'))[0].state;
    while ((await film()) !== 'done') await new Promise((resolve) => setTimeout(resolve, 100));
    const { stream } = await ask('GET', `/api/watch/${link}`);
    let cases = 0;
    const failures: string[] = [];
    for (const [grantee, grants, allowed] of GRANTS) {
      await ask('POST', `/api/share-links/${id}/audience`, { grants: grants() });
      for (const [state, change, refused] of STATES) {
        await change(id);
        for (const [name, token] of addresses) {
          const expected =
            refused === 'not-found' ? refused : allowed.includes(name) ? refused : 'not-for-you';
          for (const route of ROUTES(token, stream)) {
            const answer = await fetch(server.url + route);
            const bytes = Buffer.from(await answer.arrayBuffer());
            const told = answer.ok ? null : (JSON.parse(bytes.toString()) as { code: string }).code;
            cases++;
            if (told !== expected)
              failures.push(`${grantee}, ${state}, ${name}, ${route}: ${told}`);
            // What is refused says nothing of what it is about.
            if (!answer.ok && bytes.toString().includes('Tide')) failures.push(`${route} tells`);
          }
        }
      }
    }
    expect(failures).toEqual([]);
    expect(cases).toBe(7 * 5 * 6 * 12);
    await ask('DELETE', `/api/share-links/${id}`);
  });

  it('can be longer for one of them', async () => {
    const { id, token } = await shareLink(
      'lesson-tides',
      toClass(COASTAL),
      toStudent('Ines', inDays(1)),
    );
    const of = async (name: string) => filmsOf(await pageContentOf(name))[0]?.token;
    const [wens, ines] = [await of('Wen'), await of('Ines')];
    await ask('POST', `/api/share-links/${id}/open`, {
      availableFrom: null,
      availableUntil: inDays(-1),
    });
    const status = async (one: string) => (await fetch(`${server.url}/api/watch/${one}`)).status;
    expect([await status(token!), await status(wens!), await status(ines!)]).toEqual([
      403, 410, 200,
    ]);
    await ask('DELETE', `/api/share-links/${id}`);
  });

  it('takes no class or student that isn’t there, and is for anyone where nobody is named', async () => {
    const { id, watchers } = await ask('POST', '/api/lessons/lesson-tides/share-links', {
      size: '720p',
    });
    expect(watchers).toEqual([{ ...TO_ANYONE, name: '', students: 0 }]);
    const put = (...grants: Grant[]) =>
      server.ask('POST', `/api/share-links/${id}/audience`, { grants });
    expect((await put(toClass('class-none'))).status).toBe(404);
    expect(
      (await put({ ...TO_ANYONE, grantee: { is: 'student', studentId: 'nobody' } })).status,
    ).toBe(404);
    expect((await put()).status).toBe(400);
    const kept = (await ask('GET', '/api/lessons/lesson-tides/share-links'))[0] as ShareLink;
    expect(kept.watchers).toHaveLength(1);
    const told: ShareLink = (await put(toClass(COASTAL), toClass(COASTAL), toStudent('Bram'))).json;
    expect(told.watchers.map(({ name, students }) => [name, students])).toEqual([
      ['Coastal navigation', 2],
      ['Bram', 1],
    ]);
    expect(told.opened).toEqual({ of: 3, students: 0 });
    await ask('DELETE', `/api/share-links/${id}`);
  });
});

describe('a student’s page', () => {
  it('has this week on top, last week below, and what opens later with its day', async () => {
    const first = await shareLink('lesson-tides', toClass(COASTAL));
    const alone = (await pageContentOf('Ines')).classes;
    expect(alone.map(({ name, now, units }) => [name, now?.name, units])).toEqual([
      ['Coastal navigation', 'Week 1', []],
    ]);
    const next = await shareLink('lesson-drift', toClass(COASTAL), toStudent('Bram'));
    const opensAt = inDays(2);
    await ask('POST', `/api/share-links/${next.id}/open`, {
      availableFrom: opensAt,
      availableUntil: null,
    });
    const before = (await pageContentOf('Ines')).classes[0]!;
    expect(before.now).toMatchObject({ name: 'Week 1', films: [{ title: 'Tide heights' }] });
    expect(before.units).toEqual([
      {
        name: 'Week 2',
        films: [
          {
            ...{ token: null, title: 'Set and drift', filmUs: 3_000_000, opensAt },
            ...{ availableUntil: null, opened: false, upAt: opensAt, todo: null },
          },
        ],
      },
    ]);
    await ask('POST', `/api/share-links/${next.id}/open`, {
      availableFrom: null,
      availableUntil: inDays(5),
    });
    const after = (await pageContentOf('Ines')).classes[0]!;
    expect([after.now!.name, after.units.map(({ name }) => name)]).toEqual(['Week 2', ['Week 1']]);
    expect(after.now!.films[0]!.availableUntil).not.toBeNull();
    // Of no class of his: by itself. Wen, who is in both classes, has it in one place.
    const [bram, wen, odo] = [
      await pageContentOf('Bram'),
      await pageContentOf('Wen'),
      await pageContentOf('Odo'),
    ];
    expect([bram.classes, bram.own.map(({ title }) => title)]).toEqual([[], ['Set and drift']]);
    expect(filmsOf(wen).map(({ title }) => title)).toEqual(['Set and drift', 'Tide heights']);
    expect(filmsOf(odo)).toEqual([]);
    // No identifier of anything leaves through here.
    const text = JSON.stringify([bram, wen]);
    for (const secret of [first.id, next.id, 'lesson-', COASTAL, ids['Wen'], 'example'])
      expect(text).not.toContain(secret);
  });

  it('leads nowhere when its address is renewed or taken away, nor do those of its films', async () => {
    const old = await pageOf('Wen');
    const [film] = filmsOf(await pageContentOf('Wen'));
    const status = async (path: string) => (await fetch(server.url + path)).status;
    const both = async (page: StudentPage) => [
      await status(`/api/page/${page.key}`),
      await status(`/api/watch/${film!.token}`),
    ];
    expect(await both(old)).toEqual([200, 200]);
    await ask('POST', `/api/students/${ids['Wen']}/page/open`, { open: false });
    expect(await both(old)).toEqual([404, 404]);
    expect((await pageOf('Wen')).away).toBe(true);
    await ask('POST', `/api/students/${ids['Wen']}/page/open`, { open: true });
    expect(await both(old)).toEqual([200, 200]);
    const renewed: StudentPage = await ask('POST', `/api/students/${ids['Wen']}/page/renew`);
    expect(renewed.key).not.toBe(old.key);
    expect(await both(old)).toEqual([404, 404]);
    expect(filmsOf(await pageContentOf('Wen'))[0]!.token).not.toBe(film!.token);
    for (const guess of ['AbCdEfGhIjKlMnOpQrStUv', '', '..%2F..%2Fapi'])
      expect(await status(`/api/page/${guess}`)).toBe(404);
    // The database alone opens nothing.
    const rows = await server.inDatabase((db) => db('student_pages').select('*'));
    expect(JSON.stringify(rows)).not.toContain(renewed.key);
  });

  it('can ask for a PIN besides, which lets one browser in, and is guessed slowly', async () => {
    const { key, pin } = (await ask('POST', `/api/students/${ids['Ines']}/page/pin`, {
      asked: true,
    })) as StudentPage;
    expect(pin).toMatch(/^\d{6}$/);
    const film = filmsOf(
      await (async () => {
        const answer = await server.ask('POST', `/api/page/${key}/pin`, { pin });
        return answer.json as PageContent;
      })(),
    )[0]!;
    const asked = async (path: string, cookie = '') => {
      const answer = await fetch(server.url + path, { headers: { Cookie: cookie } });
      return [answer.status, ((await answer.json()) as { code?: string }).code];
    };
    // The address of the page, or of a film on it, isn't enough.
    expect(await asked(`/api/page/${key}`)).toEqual([403, 'pin-needed']);
    expect(await asked(`/api/watch/${film.token}`)).toEqual([403, 'pin-needed']);
    const give = (told: string) =>
      fetch(`${server.url}/api/page/${key}/pin`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ pin: told }),
      });
    const wrong = pin === '000000' ? '000001' : '000000';
    expect((await give(wrong)).status).toBe(403);
    expect((await give('12ab56')).status).toBe(400);
    const right = await give(pin!);
    const cookie = right.headers.get('Set-Cookie')!;
    expect(cookie).toMatch(/httponly/i);
    expect(cookie).not.toContain(pin);
    const sent = cookie.split(';')[0]!;
    expect((await asked(`/api/page/${key}`, sent))[0]).toBe(200);
    expect((await asked(`/api/watch/${film.token}`, sent))[0]).toBe(200);
    // Another number, and the browser is asked again.
    await ask('POST', `/api/students/${ids['Ines']}/page/pin`, { asked: true });
    expect((await asked(`/api/page/${key}`, sent))[0]).toBe(403);
    // Five wrong ones are answered at once; the next ones wait, and wait longer.
    for (let tries = 0; tries < 5; tries++) expect((await give('999999')).status).toBe(403);
    const began = Date.now();
    expect((await give('999998')).status).toBe(403);
    // It counts from the guess before.
    expect(Date.now() - began).toBeGreaterThan(600);
    await ask('POST', `/api/students/${ids['Ines']}/page/pin`, { asked: false });
    expect((await asked(`/api/page/${key}`))[0]).toBe(200);
  });

  it('has what was opened marked, and its teacher knows who has and who hasn’t', async () => {
    const [film] = filmsOf(await pageContentOf('Ines'));
    const { stream } = await ask('GET', `/api/watch/${film!.token}`);
    const shareLinks: ShareLink[] = await ask('GET', '/api/lessons/lesson-drift/share-links');
    const { id, token } = shareLinks[0]!;
    // The page alone, as what makes previews of addresses asks for it, isn't an opening.
    const viewers = (): Promise<Viewer[]> => ask('GET', `/api/share-links/${id}/viewers`);
    expect((await viewers()).map(({ name, times }) => [name, times])).toEqual([
      ['Bram', 0],
      ['Ines', 0],
      ['Wen', 0],
    ]);
    const play = (one: string) =>
      fetch(`${server.url}/api/watch/${one}/stream/${stream}/film.m3u8`);
    for (const one of [film!.token!, film!.token!]) expect((await play(one)).status).toBe(200);
    expect((await play(token!)).status).toBe(403);
    expect((await viewers()).map(({ name, times }) => [name, times])).toEqual([
      ['Bram', 0],
      ['Ines', 1],
      ['Wen', 0],
    ]);
    expect(filmsOf(await pageContentOf('Ines'))[0]!.opened).toBe(true);
    expect(filmsOf(await pageContentOf('Wen'))[0]!.opened).toBe(false);
    const [told]: ShareLink[] = await ask('GET', '/api/lessons/lesson-drift/share-links');
    expect(told!.opened).toEqual({ of: 3, students: 1 });
    // An hour later it is opened again.
    await server.inDatabase((db) =>
      new GrantStore(db).open(id, ids['Ines']!, Date.now() + 3_600_000),
    );
    expect((await viewers())[1]).toMatchObject({ name: 'Ines', times: 2 });
  });

  it('tells what is watched, once however often it is sent, and with nobody’s address anybody else', async () => {
    const [film] = filmsOf(await pageContentOf('Ines'));
    const { stream: version, filmUs } = await ask('GET', `/api/watch/${film!.token}`);
    const seconds = Math.ceil(filmUs / 1e6);
    const shareLinks: ShareLink[] = await ask('GET', '/api/lessons/lesson-drift/share-links');
    const { id, token } = shareLinks[0]!;
    const note = (one: string, change: object) =>
      server.ask('POST', `/api/watch/${one}/played`, {
        ...{ version, visit: 'visit-of-a-page-1', part: 1, played: [[0, 1]], ...change },
      });
    const watched = (): Promise<Watched> => ask('GET', `/api/share-links/${id}/watched`);
    // The link itself is for the class, and says nothing without a page of one's own.
    expect((await note(token!, {})).status).toBe(403);
    expect((await note('A'.repeat(22), {})).status).toBe(404);
    // A lost answer: the same part comes again, side by side with the next one.
    const told = await Promise.all([
      ...[1, 1, 1].map((part) => note(film!.token!, { part })),
      note(film!.token!, { part: 2, played: [[0, 2]] }),
    ]);
    expect(told.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
    const { students, curve, others } = await watched();
    expect(students.map(({ name, share }) => [name, share > 0])).toEqual([
      ['Bram', false],
      ['Ines', true],
      ['Wen', false],
    ]);
    expect(students[1]!.share).toBeCloseTo(2 / seconds, 5);
    expect([curve.watched.slice(0, 3), curve.again.slice(0, 3)]).toEqual([
      [1, 1, 0],
      [1, 0, 0],
    ]);
    expect([curve.watched.length, others]).toEqual([seconds, 0]);
    // What no page tells is refused: another film, times that run backwards, far beyond, a hundred thousand of them.
    for (const change of [
      { version: '0'.repeat(40) },
      { played: [[4, 2]] },
      { played: [[0, 99_999_999]] },
      { played: Array.from({ length: 101 }, () => [0, 1]) },
      { played: [] },
      { part: 0 },
      { visit: '../../etc' },
    ]) {
      expect([400, 404]).toContain((await note(film!.token!, change)).status);
    }
    expect((await watched()).curve).toEqual(curve);
    const table = await fetch(`${server.url}/api/share-links/${id}/watched.csv`);
    expect(await table.text()).toMatch(/Ines,\d{4}-[^,]*,\d+,2,/);

    // Kept for a month, it is forgotten after that.
    await ask('POST', '/api/watched/retention', { days: 30 });
    expect((await server.ask('POST', '/api/watched/retention', { days: 31 })).status).toBe(400);
    const { watched: store } = server.parts;
    await store.forget(Date.now() + 29 * 86_400_000);
    expect((await watched()).students[1]!.share).toBeGreaterThan(0);
    await store.forget(Date.now() + 31 * 86_400_000);
    expect((await watched()).students[1]!.share).toBe(0);
    await ask('POST', '/api/watched/retention', { days: null });
    await note(film!.token!, { part: 3 });
    await store.forget(Date.now() + 4_000 * 86_400_000);
    expect(await watched()).toMatchObject({ keptDays: null, curve: { again: expect.anything() } });
    expect((await watched()).students[1]!.share).toBeGreaterThan(0);
  });

  it('asks at interactions of a film, keeps what is answered, and says nothing of what is right before', async () => {
    const asked = {
      by: 'one',
      options: [
        { text: 'the flood', right: true },
        { text: 'the ebb', right: false },
      ],
    };
    const told = { right: 'It rises.', wrong: 'That is the other way.' };
    const interaction = (id: string, atUs: number, text: string, does: object) =>
      server.edit('lesson-drift', {
        ...{ do: 'set-interaction', id },
        interaction: { id, takeId: 'lesson-drift-take', atUs, text, does },
      } as never);
    await interaction('interaction-rise', 500_000, 'What is the rising water called?', {
      ...{ is: 'question', asked, waits: true, told },
    });
    await interaction('interaction-height', 1_500_000, 'How high?', {
      ...{ is: 'question', waits: false, told: null },
      asked: { by: 'number', right: 5.4, within: 0.1, unit: 'm' },
    });
    await interaction('interaction-note', 2_000_000, 'Keep your pencil.', { is: 'note' });
    const [{ id }]: [ShareLink] = await ask('GET', '/api/lessons/lesson-drift/share-links');
    await ask('POST', `/api/share-links/${id}/versions`, { size: '720p' });
    const tokenOf = async (name: string) => filmsOf(await pageContentOf(name))[0]!.token!;
    const [ines, wen] = [await tokenOf('Ines'), await tokenOf('Wen')];
    const page = await (await fetch(`${server.url}/api/watch/${ines}`)).text();
    expect(page).toContain('the flood');
    expect(page).not.toMatch(/"right"|"wrong"|It rises|5\.4/);
    const { stream: version, interactions } = JSON.parse(page);
    expect(interactions.map((one: { id: string; filmUs: number }) => [one.id, one.filmUs])).toEqual(
      [
        ['interaction-rise', 500_000],
        ['interaction-height', 1_500_000],
        ['interaction-note', 2_000_000],
      ],
    );
    const answer = async (
      token: string,
      interactionId: string,
      what: object,
      change: object = {},
    ) => {
      const body = {
        version,
        interactionId,
        visitor: 'visitor-of-device',
        answer: what,
        ...change,
      };
      const { status, json } = await server.ask('POST', `/api/watch/${token}/answers`, body);
      return [status, json] as const;
    };
    const rise = (option: number) => ({ by: 'one', option });
    expect(await answer(ines, 'interaction-rise', rise(1))).toEqual([
      200,
      { right: false, says: told.wrong },
    ]);
    expect(await answer(ines, 'interaction-rise', rise(0))).toEqual([
      200,
      { right: true, says: told.right },
    ]);
    // Where it isn't said, it isn't said; it is counted all the same.
    expect(await answer(ines, 'interaction-height', { by: 'number', value: 5.3 })).toEqual([
      200,
      { right: null, says: '' },
    ]);
    expect((await answer(wen, 'interaction-rise', rise(1)))[0]).toBe(200);
    // Those without a name take no more than their share, and nobody's answer is thrown out for theirs.
    const put = (visitor: number) =>
      server.parts.answers.put(
        { shareLinkId: id, studentId: null, visitor: `${visitor}` },
        'interaction-full',
        { text: '', asked: { by: 'words' }, answer: { by: 'words', text: 'flood' }, right: null },
      );
    for (let visitor = 0; visitor < 1_000; visitor++) await put(visitor);
    await expect(put(1_000)).rejects.toMatchObject({ code: 'too-many-answers' });
    await put(0);
    await server.inDatabase((db) =>
      db('answers').where({ interaction_id: 'interaction-full' }).delete(),
    );
    for (const [interactionId, what, change, status] of [
      ['interaction-rise', rise(2), {}, 400],
      ['interaction-rise', { by: 'words', text: 'flood' }, {}, 400],
      ['interaction-note', rise(0), {}, 404],
      ['interaction-of-nobody', rise(0), {}, 404],
      ['interaction-rise', rise(0), { version: '0'.repeat(40) }, 404],
      ['interaction-rise', rise(0), { visitor: '<b>' }, 400],
    ] as const) {
      expect([interactionId, (await answer(ines, interactionId, what, change))[0]]).toEqual([
        interactionId,
        status,
      ]);
    }
    // Each has their own, on any device of theirs, and nobody else's.
    const own = (token: string) => ask('GET', `/api/watch/${token}/answers`);
    expect(await own(ines)).toEqual([
      {
        interactionId: 'interaction-height',
        answer: { by: 'number', value: 5.3 },
        right: null,
        says: '',
      },
      { interactionId: 'interaction-rise', answer: rise(0), right: true, says: told.right },
    ]);
    expect((await own(wen)).map(({ right }: { right: boolean }) => right)).toEqual([false]);

    const answers = (): Promise<Answered[]> => ask('GET', `/api/share-links/${id}/answers`);
    const inShort = (all: Answered[]) =>
      all.map(({ interactionId, filmUs, answers: given }) => [
        interactionId,
        filmUs,
        given.map(({ name, right }) => [name, right]).sort(),
      ]);
    expect(inShort(await answers())).toEqual([
      [
        'interaction-rise',
        500_000,
        [
          ['Ines', true],
          ['Wen', false],
        ],
      ],
      ['interaction-height', 1_500_000, [['Ines', true]]],
    ]);
    const table = await (await fetch(`${server.url}/api/share-links/${id}/answers.csv`)).text();
    expect(table).toContain('What is the rising water called?,Ines,the flood,yes,');
    // Asked otherwise afterwards, what was answered before stays what it was.
    await interaction('interaction-rise', 500_000, 'Which is it?', {
      ...{ is: 'question', waits: false, told: null, asked: { by: 'words' } },
    });
    await ask('POST', `/api/share-links/${id}/versions`, { size: '720p' });
    expect(inShort(await answers())).toEqual([
      ['interaction-rise', 500_000, []],
      ['interaction-height', 1_500_000, [['Ines', true]]],
      [
        'interaction-rise',
        null,
        [
          ['Ines', true],
          ['Wen', false],
        ],
      ],
    ]);
    expect(
      (await own(ines)).map(({ interactionId }: { interactionId: string }) => interactionId),
    ).toEqual(['interaction-height']);
  });

  it('is gone with all that is known of a student who is erased', async () => {
    const { key } = await pageOf('Ines');
    const [film] = filmsOf(await pageContentOf('Ines'));
    await ask('POST', `/api/students/${ids['Ines']}/erase`);
    for (const path of [`/api/page/${key}`, `/api/watch/${film!.token}`])
      expect((await fetch(server.url + path)).status).toBe(404);
    const left = await server.inDatabase(async (db) => {
      const tables = [
        'student_pages',
        'passes',
        'views',
        'viewings',
        'answers',
        ...['submissions', 'submission_files'],
        'class_students',
      ];
      const rows = await Promise.all(
        tables.map((name) => db(name).where({ student_id: ids['Ines'] })),
      );
      return [...rows.flat(), ...(await db('grants').where({ grantee_id: ids['Ines'] }))];
    });
    expect(left).toEqual([]);
  });
});

describe('a class’s page', () => {
  const page = (): Promise<ClassPage> => ask('POST', `/api/classes/${COASTAL}/page`);
  const get = (path: string) => fetch(server.url + path, { redirect: 'manual' });
  const drift = async () =>
    (await ask('GET', '/api/lessons/lesson-drift/share-links'))[0] as ShareLink;

  it('has what is for the class, and nothing that is for some of it alone', async () => {
    const alone = await shareLink('lesson-tides', toStudent('Wen'));
    const { key } = await page();
    expect(await page()).toEqual({ classId: COASTAL, key, away: false });
    const pageContent: PageContent = await ask('GET', `/api/page/${key}`);
    expect([pageContent.of, pageContent.name]).toEqual(['class', 'Coastal navigation']);
    expect(filmsOf(pageContent).map(({ title, opened }) => [title, opened])).toEqual([
      ['Set and drift', null],
      ['Tide heights', null],
    ]);
    const [film] = filmsOf(pageContent);
    expect((await get(`/api/watch/${film!.token}`)).status).toBe(200);
    // Nobody is known by it: nothing is written down.
    const { stream } = await ask('GET', `/api/watch/${film!.token}`);
    const before = (await drift()).opened;
    await get(`/api/watch/${film!.token}/stream/${stream}/film.m3u8`);
    expect((await drift()).opened).toEqual(before);
    // What is taken from the class is gone from its page, and by the address that it had there.
    const { id } = await drift();
    await ask('POST', `/api/share-links/${id}/audience`, { grants: [toStudent('Wen')] });
    expect((await get(`/api/watch/${film!.token}`)).status).toBe(403);
    await ask('POST', `/api/share-links/${id}/audience`, { grants: [toClass(COASTAL)] });
    await ask('DELETE', `/api/share-links/${alone.id}`);
  });

  it('has the films of a unit in the order that their teacher gave them', async () => {
    await server.edit('lesson-drift', { do: 'plan', set: { unit: 'Week 1' } });
    const path = `/api/classes/${COASTAL}/units/unit-0/order`;
    const { key } = await page();
    const onPage = async () => {
      const { classes } = (await ask('GET', `/api/page/${key}`)) as PageContent;
      return classes[0]!.now!.films.map(({ title }) => title);
    };
    const [tides, drift] = await ask('GET', path);
    expect([tides, drift]).toEqual([
      { lessonId: 'lesson-tides', title: 'Tide heights' },
      { lessonId: 'lesson-drift', title: 'Set and drift' },
    ]);
    expect(await onPage()).toEqual(['Tide heights', 'Set and drift']);
    const view = await ask('POST', path, { lessons: ['lesson-drift', 'lesson-tides'] });
    expect(await ask('GET', path)).toEqual([drift, tides]);
    expect(await onPage()).toEqual(['Set and drift', 'Tide heights']);
    // What else is changed of the class leaves it, and another name for the unit too.
    const units = view.units.map((unit: Unit) =>
      unit.id === 'unit-0' ? { ...unit, name: 'Week one' } : unit,
    );
    await ask('POST', '/api/classes', { id: COASTAL, name: view.name, units });
    expect((await ask('GET', `/api/classes/${COASTAL}`)).units[0].lessons).toHaveLength(2);
    await ask('POST', '/api/classes', { id: COASTAL, name: view.name, units: view.units });
    const missing = await server.ask('POST', path.replace('unit-0', 'unit-9'), { lessons: [] });
    expect(missing.status).toBe(404);
    await ask('POST', path, { lessons: [] });
    await server.edit('lesson-drift', { do: 'plan', set: { unit: 'Week 2' } });
  });

  it('is told to programs, newest first: Atom and JSON Feed', async () => {
    const { key } = await page();
    const atom = await get(`/api/page/${key}/feed.atom`);
    expect(atom.headers.get('Content-Type')).toMatch(/^application\/atom\+xml/);
    const titles = [...(await atom.text()).matchAll(/<title>(.*)<\/title>/g)].map(([, one]) => one);
    expect(titles).toEqual(['Coastal navigation', 'Set and drift', 'Tide heights']);
    const json = await get(`/api/page/${key}/feed.json`);
    const { items } = (await json.json()) as { items: { url: string; image: string }[] };
    expect(items).toHaveLength(2);
    for (const address of [items[0]!.url, items[0]!.image])
      expect(address.startsWith(`${server.url}/`)).toBe(true);
    expect((await fetch(items[0]!.image)).headers.get('Content-Type')).toBe('image/jpeg');
    expect((await get(`/api/page/${key}/feed.xml`)).status).toBe(404);
  });

  it('leads nowhere when it is renewed, taken away, or its class is', async () => {
    const { key } = await page();
    const token = filmsOf(await ask('GET', `/api/page/${key}`))[0]!.token!;
    const both = async () => [
      (await get(`/api/page/${key}`)).status,
      (await get(`/api/watch/${token}`)).status,
    ];
    expect(await both()).toEqual([200, 200]);
    await ask('POST', `/api/classes/${COASTAL}/page/open`, { open: false });
    expect(await both()).toEqual([404, 404]);
    await ask('POST', `/api/classes/${COASTAL}/page/open`, { open: true });
    expect(await both()).toEqual([200, 200]);
    await ask('POST', `/api/classes/${COASTAL}/delete`);
    expect(await both()).toEqual([404, 404]);
    expect((await server.ask('POST', `/api/classes/${COASTAL}/page`)).status).toBe(404);
    await ask('POST', `/api/classes/${COASTAL}/restore`);
    expect(await both()).toEqual([200, 200]);
    const renewed: ClassPage = await ask('POST', `/api/classes/${COASTAL}/page/renew`);
    expect(renewed.key).not.toBe(key);
    expect(await both()).toEqual([404, 404]);
    // It asks for no PIN, and takes none.
    const given = await server.ask('POST', `/api/page/${renewed.key}/pin`, {
      pin: '123456',
    });
    expect(given.status).toBe(404);
  });
});

it('pages of a class are given to all who have none, by name', async () => {
  const pages: StudentPage[] = await ask('POST', `/api/classes/${KNOTS}/pages`);
  expect(pages.map(({ name, away, pin }) => [name, away, pin])).toEqual([
    ['Bram', false, null],
    ['Wen', false, null],
  ]);
  const again: StudentPage[] = await ask('POST', `/api/classes/${KNOTS}/pages`);
  expect(again).toEqual(pages);
  expect((await server.ask('POST', '/api/classes/class-none/pages')).status).toBe(404);
});

it('counts visits without a name, three hundred of one address and a thousand in all', async () => {
  const { token, id } = await shareLink('lesson-drift', TO_ANYONE);
  const { stream: version } = await ask('GET', `/api/watch/${token}`);
  const others = async () =>
    ((await ask('GET', `/api/share-links/${id}/watched`)) as Watched).others;
  const noted = { version, part: 1, played: [[0, 1]] as [number, number][] };
  const all: { status: number }[] = [];
  // As many at once as browsers open; a machine has only so many connections.
  for (let at = 0; at < 310; at += 62) {
    const some = Array.from({ length: 62 }, (_, index) =>
      server.ask('POST', `/api/watch/${token}/played`, {
        ...{ ...noted, visit: `somebody-without-name-${at + index}` },
      }),
    );
    all.push(...(await Promise.all(some)));
  }
  expect(all.every(({ status }) => status === 200)).toBe(true);
  expect(await others()).toBe(300);
  // Of many addresses: those who came first stay.
  await Promise.all(
    Array.from({ length: 710 }, (_, index) =>
      server.parts.watched.note({
        ...{
          ...noted,
          shareLinkId: id,
          studentId: null,
          seconds: 3,
          visit: `visit-elsewhere-${index}`,
        },
      }),
    ),
  );
  expect(await others()).toBe(1_000);
  const rows = await server.parts.watched.ofShareLink(id);
  expect(rows.some(({ viewer }) => viewer === 'visit somebody-without-name-0')).toBe(true);
  await ask('DELETE', `/api/share-links/${id}`);
});
