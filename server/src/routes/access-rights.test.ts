import { ENDPOINTS } from '@under-chalk/core/contract/api';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { Endpoint } from '@under-chalk/core/contract/endpoint';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

/**
 * What a student's own addresses open, tried with the ids of everything else. Who may watch which film, at which time, is tried in
 * `student-pages.test`.
 */

jest.setTimeout(180_000);

const VISITOR = 'visitor-0123456789abcdef';
let server: TestServer;
let folder: string;
/** The teacher's session. */
let teacher: { Cookie: string };
/** Ids and keys that exist, by the name of a path's parameter. */
let real: Record<string, string>;
let films: Record<'own' | 'other', { token: string; version: string; ticket: string }>;
let keys: Record<'own' | 'other', string>;

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body, teacher);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const student = (method: string, path: string, body?: unknown) => server.ask(method, path, body);
const tus = async (path: string, id: string, bytes: Buffer) => {
  const headers = { 'Tus-Resumable': '1.0.0', ...teacher };
  await fetch(server.url + path, {
    method: 'POST',
    headers: {
      ...{ ...headers, 'Upload-Length': String(bytes.length) },
      'Upload-Metadata': `trackId ${Buffer.from(id).toString('base64')}`,
    },
  });
  const { status } = await fetch(`${server.url}${path}/${id}`, {
    method: 'PATCH',
    headers: {
      ...{ ...headers, 'Upload-Offset': '0' },
      'Content-Type': 'application/offset+octet-stream',
    },
    body: new Uint8Array(bytes),
  });
  expect(status).toBe(204);
};
/** A lesson of two seconds in another colour, handed out to one student, with an assignment. */
const lessonFor = async (name: string, colour: string, studentId: string) => {
  const lessonId = `lesson-${name}`;
  const file = join(folder, `${name}.mp4`);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', `color=${colour}:size=160x120:rate=30`, '-t', '2'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p'],
    ...['-movflags', '+frag_keyframe+empty_moov+default_base_moof', file],
  ]);
  await ask('POST', '/api/lessons', { id: lessonId, title: `Lesson ${name}` });
  await ask('POST', `/api/lessons/${lessonId}/takes`, {
    ...{ id: `take-${name}`, source: 'screen', practice: false },
    tracks: [{ id: `track-${name}`, kind: 'surface' }],
  });
  await tus('/api/uploads', `track-${name}`, await readFile(file));
  await ask('POST', `/api/takes/take-${name}/stop`, {});
  expect(await server.ingested(`take-${name}`)).toBe('ready');
  const grants = [
    { grantee: { is: 'student', studentId }, availableFrom: null, availableUntil: null },
  ];
  const shareLink: ShareLink = await ask('POST', `/api/lessons/${lessonId}/share-links`, {
    ...{ size: 'as-recorded', grants },
  });
  await ask('POST', `/api/share-links/${shareLink.id}/assignment`, {
    assignment: { text: 'Plot a course.', next: '', dueAt: null, by: ['words', 'file'] },
  });
  const { key } = await ask('POST', `/api/students/${studentId}/page`);
  const { token } = (await ask('GET', `/api/page/${key}`)).own[0];
  while ((await ask('GET', `/api/watch/${token}`)).state !== 'done')
    await new Promise((resolve) => setTimeout(resolve, 100));
  const { stream: version } = await ask('GET', `/api/watch/${token}`);
  const ticket = server.parts.tickets.make({ token, version });
  const page = { token, version, ticket };
  return { shareLink, page, key: key as string };
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-rights-'));
  server = await startTestServer({ demo: false });
  const passphrase = 'low water at half past nine';
  await server.parts.accounts.setUp('Ottilie Marsh', passphrase);
  const { headers } = await server.ask('POST', '/api/session', { passphrase });
  teacher = { Cookie: headers.get('set-cookie')!.split(';')[0]! };
  const units = [{ id: 'unit-week-one', name: 'Week 1' }];
  await ask('POST', '/api/classes', { id: 'class-coastal', name: 'Coastal', units });
  const students = ['Ines', 'Bram'].map((name) => ({ name, address: '' }));
  await ask('POST', '/api/classes/class-coastal/students', { students });
  const view: ClassView = await ask('GET', '/api/classes/class-coastal');
  const idOf = (name: string) => view.students.find((one) => one.name === name)!.id;
  const own = await lessonFor('ines', 'red', idOf('Ines'));
  const other = await lessonFor('bram', 'blue', idOf('Bram'));
  films = { own: own.page, other: other.page };
  keys = { own: own.key, other: other.key };
  const file = { visitor: VISITOR, id: 'file-of-bram', name: 'course.txt', by: 'file', bytes: 5 };
  await student('POST', `/api/watch/${films.other.token}/submission/files`, file);
  await tus('/api/submission-uploads', 'file-of-bram', Buffer.from('north'));
  const came = `/api/watch/${films.other.token}/submission/files/file-of-bram`;
  expect((await student('POST', came, { visitor: VISITOR })).status).toBe(200);
  real = {
    ...{ lessonId: 'lesson-bram', takeId: 'take-bram', trackId: 'track-bram' },
    ...{ filmId: other.shareLink.film.id, shareLinkId: other.shareLink.id, fileId: 'file-of-bram' },
    ...{ classId: 'class-coastal', unitId: 'unit-week-one', studentId: idOf('Bram') },
    ...{ className: 'Coastal', size: 'as-recorded', mostBytes: '5000000', kind: 'lesson' },
    ...{ id: 'lesson-bram', page: '0', language: 'en', form: 'vtt' },
  };
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

it('opens nothing of the teacher’s to what students have', async () => {
  const own = films.own;
  const credentials: Record<string, Record<string, string>> = {
    nothing: {},
    'a student’s key as session': { Cookie: `under-chalk-session=${keys.own}` },
    'a link as session': { Cookie: `under-chalk-session=${own.token}` },
    'a ticket as session': { Cookie: `under-chalk-session=${own.ticket}` },
    'a link as bearer': { Authorization: `Bearer ${own.token}` },
  };
  const failures: string[] = [];
  let cases = 0;
  for (const [name, endpoint] of Object.entries<Endpoint>(ENDPOINTS)) {
    if (endpoint.from) continue;
    const path = endpoint.path.replace(/:(\w+)/g, (_, param: string) => real[param] ?? 'abcdef12');
    for (const [what, headers] of Object.entries(credentials)) {
      const body = endpoint.method === 'post' ? {} : undefined;
      const { status, json } = await server.ask(endpoint.method.toUpperCase(), path, body, headers);
      cases++;
      if (status !== 401 || json.code !== 'signed-out')
        failures.push(`${name}, ${what}: ${status}`);
    }
  }
  expect(failures).toEqual([]);
  expect(cases).toBeGreaterThan(600);
  // With the session, the same paths are there.
  expect((await ask('GET', '/api/lessons/lesson-bram')).lesson.id).toBe('lesson-bram');
});

it('opens with one student’s link nothing that belongs to another’s', async () => {
  const { own, other } = films;
  const mine = `/api/watch/${own.token}`;
  const theirs = `/api/watch/${other.token}`;
  const foreign: readonly (readonly [string, string, object?])[] = [
    ...['film.m3u8', 'previews.jpg', 'ticket'].map(
      (name) => ['GET', `${mine}/stream/${other.version}/${name}`] as const,
    ),
    ['GET', `${mine}/film.mp4?version=${other.version}`],
    ['POST', `${mine}/submission/files/file-of-bram`, { visitor: VISITOR }],
    [
      ...(['POST', `${mine}/submission`] as const),
      { visitor: VISITOR, name: '', text: 'Mine.', files: ['file-of-bram'] },
    ],
    ['GET', `/api/watch/${keys.own}`],
    ['GET', `/api/page/${own.token}`],
    ['GET', `/api/page/${own.token}/feed.json`],
    ['GET', `/api/media/${own.token}/picture.m3u8`],
    // A ticket that was tampered with.
    ['GET', `/api/media/${own.ticket.slice(0, -4)}AAAA/picture.m3u8`],
  ];
  const answers: string[] = [];
  for (const [method, path, body] of foreign) {
    const { status, json } = await student(method, path, body);
    if (status < 400 || JSON.stringify(json).includes('bram')) answers.push(`${path}: ${status}`);
  }
  expect(answers).toEqual([]);
  // A link of one student with a ticket's version of another's film, as only the server could make it.
  const crossed = server.parts.tickets.make({ token: own.token, version: other.version });
  for (const name of ['picture.m3u8', 'picture/head.mp4', 'picture/0.m4s'])
    expect([name, (await student('GET', `/api/media/${crossed}/${name}`)).status]).toEqual([
      name,
      404,
    ]);
  // Its own student gets each of these.
  for (const path of [
    ...['film.m3u8', 'previews.jpg', 'ticket'].map((name) => `/stream/${other.version}/${name}`),
    `/film.mp4?version=${other.version}`,
  ])
    expect([path, (await student('GET', theirs + path)).status]).toEqual([path, 200]);
  const visit = `submission?visitor=${VISITOR}`;
  expect((await student('GET', `${theirs}/${visit}`)).json).toMatchObject({});
  expect(JSON.stringify((await student('GET', `${mine}/${visit}`)).json)).not.toContain('course');
});

it('shows a student no name, title or id of another', async () => {
  const answers = await Promise.all(
    [
      ...['', '/oembed', '/answers?visitor=' + VISITOR, `/submission?visitor=${VISITOR}`].map(
        (path) => `/api/watch/${films.own.token}${path}`,
      ),
      ...['', '/feed.json', '/feed.atom'].map((path) => `/api/page/${keys.own}${path}`),
      ...[`/s/${keys.own}`, `/w/${films.own.token}`],
    ].map(async (path) => JSON.stringify((await student('GET', path)).json)),
  );
  expect(answers.join()).toContain('Lesson ines');
  for (const secret of ['Bram', 'bram', films.other.token, keys.other, real['studentId']!])
    expect(answers.join()).not.toContain(secret);
});
