import type { GivenIn } from '@under-chalk/core/contract/submissions';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import type { Assignment } from '@under-chalk/core/submission/assignment';
import { run } from '@under-chalk/render';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../testing/built-scripts';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const CLASS = 'class-coastal';
const VISITOR = 'visitor-0123456789abcdef';
const ACTIVITY: Assignment = {
  ...{ text: 'Plot a course to steer across the estuary.', next: 'Then read page 12.' },
  ...{ dueAt: null, by: ['words', 'file', 'voice', 'camera'] },
};
let reader: string;
let server: TestServer;
let folder: string;
let ids: Record<string, string>;
let shareLink: ShareLink;
/** The film's address of a student's own. */
const tokens: Record<string, string> = {};
let count = 0;

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const refused = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  return [status, json.code];
};
const submission = (token: string, what: object) =>
  ask('POST', `/api/watch/${token}/submission`, {
    ...{ visitor: VISITOR, name: '', text: '', files: [] },
    ...what,
  });
const given = (): Promise<GivenIn> => ask('GET', `/api/share-links/${shareLink.id}/submissions`);
const setActivity = async (change: Partial<Assignment> | null) => {
  shareLink = await ask('POST', `/api/share-links/${shareLink.id}/assignment`, {
    assignment: change && { ...ACTIVITY, ...change },
  });
};
const path = (token: string, more = '') => `/api/watch/${token}/submission${more}`;

/** Sends bytes to the uploads, as a browser does. */
const tus = async (id: string, bytes: Uint8Array, size = bytes.length) => {
  const begun = await fetch(`${server.url}/api/submission-uploads`, {
    method: 'POST',
    headers: {
      ...{ 'Tus-Resumable': '1.0.0', 'Upload-Length': String(size) },
      'Upload-Metadata': `trackId ${Buffer.from(id).toString('base64')}`,
    },
  });
  if (begun.status !== 201) return begun.status;
  const { status } = await fetch(`${server.url}/api/submission-uploads/${id}`, {
    method: 'PATCH',
    headers: {
      ...{ 'Tus-Resumable': '1.0.0', 'Upload-Offset': '0' },
      'Content-Type': 'application/offset+octet-stream',
    },
    body: bytes as Uint8Array<ArrayBuffer>,
  });
  return status;
};
const send = async (token: string, name: string, by: string, bytes: Uint8Array) => {
  const id = `file-${count++}-of-the-test`;
  await ask('POST', path(token, '/files'), {
    ...{ visitor: VISITOR, id, name, by, bytes: bytes.length },
  });
  expect(await tus(id, bytes)).toBe(204);
  return { id, came: await server.ask('POST', path(token, `/files/${id}`), { visitor: VISITOR }) };
};
const made = async (name: string, ...args: string[]) => {
  const out = join(folder, name);
  await run('ffmpeg', [...args, out]);
  return readFile(out);
};
const kept = async () => (await readdir(server.config.folders.submissions).catch(() => [])).sort();

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-submissions-'));
  reader = builtScript('reader/reader-process.mjs');
  server = await startTestServer({ readerScript: reader });
  const film = await made(
    'surface.mp4',
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '2', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p'],
  );
  await ask('POST', '/api/lessons', { id: 'lesson-course', title: 'A course to steer' });
  await ask('POST', '/api/lessons/lesson-course/takes', {
    ...{ id: 'take-course', source: 'screen', practice: false },
    tracks: [{ id: 'take-course-surface', kind: 'surface' }],
  });
  await server.upload('take-course-surface', film);
  await ask('POST', '/api/takes/take-course/stop', {});
  expect(await server.ingested('take-course')).toBe('ready');
  await ask('POST', '/api/classes', { id: CLASS, name: 'Coastal navigation', units: [] });
  await ask('POST', `/api/classes/${CLASS}/students`, {
    students: ['Ines Carrow', 'Bram Okafor', 'Pia Sorrell'].map((name) => ({ name, address: '' })),
  });
  const view: ClassView = await ask('GET', `/api/classes/${CLASS}`);
  ids = Object.fromEntries(view.students.map(({ id, name }) => [name.split(' ')[0]!, id]));
  shareLink = await ask('POST', '/api/lessons/lesson-course/share-links', {
    size: '720p',
    grants: [
      { grantee: { is: 'class', classId: CLASS }, availableFrom: null, availableUntil: null },
      { grantee: { is: 'anyone' }, availableFrom: null, availableUntil: null },
    ],
  });
  for (const name of Object.keys(ids)) {
    const page: StudentPage = await ask('POST', `/api/students/${ids[name]}/page`);
    const pageContent = await ask('GET', `/api/page/${page.key}`);
    tokens[name] = pageContent.classes[0]?.now?.films[0]?.token ?? pageContent.own[0].token;
  }
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

it('is nothing where nothing is to be done', async () => {
  expect((await ask('GET', `/api/watch/${tokens['Ines']}`)).assignment).toBeNull();
  const what = { visitor: VISITOR, name: '', text: 'Done.', files: [] };
  expect(await refused('POST', path(tokens['Ines']!), what)).toEqual([404, 'not-found']);
});

it('is told beside the film and on the student’s page', async () => {
  await setActivity({});
  expect(shareLink.assignment).toEqual(ACTIVITY);
  expect((await ask('GET', `/api/watch/${tokens['Ines']}`)).assignment).toEqual(ACTIVITY);
  const page: StudentPage = await ask('POST', `/api/students/${ids['Ines']}/page`);
  const pageContent = await ask('GET', `/api/page/${page.key}`);
  expect(pageContent.own[0]?.todo ?? pageContent.classes[0].now.films[0].todo).toEqual({
    ...{ dueAt: null, handsIn: true, done: false },
  });
});

it('takes what is typed, in place of what was, and says who hasn’t handed anything in', async () => {
  await submission(tokens['Ines']!, { text: 'Steer 084 degrees.' });
  expect(await submission(tokens['Ines']!, { text: 'Steer 087 degrees.' })).toMatchObject({
    ...{ text: 'Steer 087 degrees.', files: [], late: false },
  });
  const { submissions, missing } = await given();
  expect(submissions).toMatchObject([
    { name: 'Ines Carrow', known: true, text: 'Steer 087 degrees.', late: false },
  ]);
  expect(missing).toEqual(['Bram Okafor', 'Pia Sorrell']);
  // Whoever has handed in has opened it, though they fetched nothing of the film.
  const [{ opened }] = await ask('GET', `/api/lessons/${shareLink.lessonId}/share-links`);
  expect(opened).toEqual({ students: 1, of: 3 });
  const own = await ask('GET', `${path(tokens['Ines']!)}?visitor=${VISITOR}`);
  expect(own.submission.text).toBe('Steer 087 degrees.');
  // The device is the same, the student isn’t.
  const other = await ask('GET', `${path(tokens['Bram']!)}?visitor=${VISITOR}`);
  expect(other.submission).toBeNull();
});

it('takes a page of typing, and no more', async () => {
  const long = 'ö'.repeat(4_000);
  expect((await submission(tokens['Bram']!, { text: long })).text).toBe(long);
  const more = { visitor: VISITOR, name: '', text: `${long}ö`, files: [] };
  expect(await refused('POST', path(tokens['Bram']!), more)).toEqual([400, 'bad-request']);
});

it('says that something was late, and takes it', async () => {
  await setActivity({ dueAt: new Date(Date.now() - 60_000).toISOString() });
  expect((await submission(tokens['Pia']!, { text: 'Late.' })).late).toBe(true);
  const table = await (
    await fetch(`${server.url}/api/share-links/${shareLink.id}/submissions.csv`)
  ).text();
  expect(table).toContain('Pia Sorrell');
  expect(table).toMatch(/Student,Handed in,Late,Text,Files/);
  await setActivity({});
});

describe('files', () => {
  it('are what their bytes say, and saved under a name that says so', async () => {
    const picture = await made('x.png', '-f', 'lavfi', '-i', 'testsrc2=s=64x64', '-frames:v', '1');
    const { id, came } = await send(tokens['Ines']!, 'My plot.exe', 'file', picture);
    expect(came.json).toMatchObject({ name: 'My plot.png', kind: 'picture', by: 'file' });
    // Told again, as by one whose answer was lost.
    expect(
      (await server.ask('POST', path(tokens['Ines']!, `/files/${id}`), { visitor: VISITOR })).json,
    ).toEqual(came.json);
    await submission(tokens['Ines']!, { text: 'See the plot.', files: [id] });
    const [first] = (await given()).submissions;
    expect(first).toMatchObject({ name: 'Ines Carrow', files: [{ id, name: 'My plot.png' }] });
    const saved = await fetch(`${server.url}/api/share-links/${shareLink.id}/submissions/${id}`);
    expect(Object.fromEntries(saved.headers)).toMatchObject({
      ...{ 'content-type': 'application/octet-stream', 'x-content-type-options': 'nosniff' },
      'content-disposition': expect.stringContaining('attachment; filename="My plot.png"'),
    });
    expect(Buffer.from(await saved.arrayBuffer()).equals(picture)).toBe(true);
    // Seen at a glance, decoded anew elsewhere; and gone with it.
    const glance = await fetch(
      `${server.url}/api/share-links/${shareLink.id}/submissions/${id}/picture.webp`,
    );
    expect([glance.status, glance.headers.get('content-type')]).toEqual([200, 'image/webp']);
    expect(Buffer.from(await glance.arrayBuffer()).toString('latin1', 8, 12)).toBe('WEBP');
    expect(await kept()).toContain(`${id}.webp`);
  });

  it('that only begin like a picture are shown nowhere, and saved all the same', async () => {
    const torn = Buffer.concat([Buffer.from([0xff, 0xd8, 0xff]), Buffer.alloc(900, 7)]);
    const { id } = await send(tokens['Pia']!, 'torn.jpg', 'file', torn);
    await submission(tokens['Pia']!, { files: [id] });
    const of = `${server.url}/api/share-links/${shareLink.id}/submissions/${id}`;
    expect((await fetch(`${of}/picture.webp`)).status).toBe(404);
    expect((await fetch(of)).status).toBe(200);
  });

  it('are taken neither as programs nor as pages of the web, and not kept then', async () => {
    const before = await kept();
    for (const [name, bytes] of [
      ['notes.pdf', Buffer.from('MZ\u0090\u0000\u0003\u0000\u0000\u0000')],
      ['page.txt', Buffer.from('<!doctype html><script>alert(1)</script>')],
      ['drawing.png', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>')],
      ['archive.zip', Buffer.from('PK\u0003\u0004and more')],
    ] as const) {
      const { came } = await send(tokens['Ines']!, name, 'file', bytes);
      expect([came.status, came.json.code]).toEqual([422, 'file-not-taken']);
    }
    expect(await kept()).toEqual(before);
    expect(await readdir(server.config.folders.submissionsComing)).toEqual([]);
  });

  it('come only where they were announced, as large as they were, and by whoever announced them', async () => {
    expect(await tus('file-nobody-said', Buffer.from('hello'))).toBe(404);
    const [id, bytes] = ['file-as-it-was-said', Buffer.from('hello there')];
    const said = { visitor: VISITOR, id, name: 'a.txt', by: 'file', bytes: bytes.length };
    await ask('POST', path(tokens['Ines']!, '/files'), said);
    expect(await tus(id, bytes, 26_000_000)).toBeGreaterThanOrEqual(400);
    expect(await tus(id, bytes, 7)).toBe(400);
    // Nothing of it is there yet.
    expect(
      await refused('POST', path(tokens['Ines']!, `/files/${id}`), { visitor: VISITOR }),
    ).toEqual([...[409, 'not-ready']]);
    expect(await tus(id, bytes)).toBe(204);
    expect(
      await refused('POST', path(tokens['Bram']!, `/files/${id}`), { visitor: VISITOR }),
    ).toEqual([...[404, 'not-found']]);
    expect(await refused('POST', path(tokens['Bram']!, '/files'), said)).toEqual([
      ...[409, 'exists-already'],
    ]);
    const foreign = { visitor: VISITOR, name: '', text: '', files: [id] };
    expect(await refused('POST', path(tokens['Bram']!), foreign)).toEqual([404, 'not-found']);
    const large = { ...said, id: 'file-too-large', bytes: 25_000_001 };
    expect(await refused('POST', path(tokens['Ines']!, '/files'), large)).toEqual([
      ...[400, 'bad-request'],
    ]);
  });

  it('aren’t given to the next who hands in, nor to strangers', async () => {
    const [file] = (await given()).submissions.flatMap(({ files }) => files);
    const front = await fetch(
      `${server.url}/api/share-links/another-share-link/submissions/${file!.id}`,
    );
    expect(front.status).toBe(404);
  });

  it('go when others are handed in their place', async () => {
    const { id } = await send(tokens['Ines']!, 'second.txt', 'file', Buffer.from('087'));
    await submission(tokens['Ines']!, { files: [id] });
    const one = (await given()).submissions.find(({ name }) => name === 'Ines Carrow')!;
    expect(one).toMatchObject({ text: '', files: [{ id, kind: 'text', name: 'second.txt' }] });
    await server.parts.submissionService.sweep();
    expect(await kept()).toContain(id);
    // What came and was never handed in goes after some days, and nothing else.
    await server.parts.submissionService.sweep(Date.now() + 4 * 86_400_000);
    const handed = (await given()).submissions.flatMap(({ files }) => files.map((file) => file.id));
    expect((await kept()).filter((name) => !name.includes('.'))).toEqual(handed.sort());
    expect(handed).toContain(id);
  });
});

describe('strangers', () => {
  const MB_25 = 25_000_000;
  const stranger = (visitor: number) => ({
    ...{ shareLinkId: shareLink.id, studentId: null, visitor: `visitor-${visitor}` },
  });
  const announce = async (count: number, name: string, received: ReadonlyMap<string, number>) => {
    const file = (id: number) => ({
      ...{ id: `${name}-${id}`, name: 'a.png', by: 'file' as const, bytes: MB_25 },
    });
    for (let id = 0; id < count; id++)
      await server.parts.submissions.announce(stranger(id), file(id), received);
  };
  const student = async () => {
    const row = await server.inDatabase((db) => db('students').first('id'));
    return { shareLinkId: shareLink.id, studentId: row.id as string, visitor: VISITOR };
  };
  const theirs = { id: 'file-of-the-class', name: 'a.png', by: 'file' as const, bytes: MB_25 };

  it('take no room by announcing files, and no more than half by sending them', async () => {
    const none = new Map<string, number>();
    await announce(700, 'announced', none);
    const received = new Map(
      Array.from({ length: 310 }, (_, id): [string, number] => [`announced-${id}`, MB_25]),
    );
    await expect(announce(1, 'one-more', received)).rejects.toMatchObject({
      code: 'too-many-submissions',
    });
    // More bytes of what was announced aren't taken, either.
    await expect(
      server.parts.submissions.mindComing('announced-699', received),
    ).rejects.toMatchObject({
      code: 'too-many-submissions',
    });
    // The class has its half.
    await server.parts.submissions.announce(await student(), theirs, received);
    await server.parts.submissions.mindComing(theirs.id, received);
    await server.inDatabase((db) =>
      db('submission_files').where('id', 'like', 'announced-%').delete(),
    );
  });
});

it('keeps a file that is still coming, however long ago it was announced', async () => {
  const said = {
    visitor: VISITOR,
    id: 'file-that-takes-days',
    name: 'a.txt',
    by: 'file',
    bytes: 9,
  };
  await ask('POST', path(tokens['Ines']!, '/files'), said);
  expect(await tus(said.id, Buffer.from('half'), 9)).toBe(204);
  await server.inDatabase((db) =>
    db('submission_files').where({ id: said.id }).update({ at: '2026-01-01T00:00:00.000Z' }),
  );
  await server.parts.submissionService.sweep();
  expect(await server.parts.submissions.coming(said.id)).toBe(9);
  await server.parts.submissionService.sweep(Date.now() + 4 * 86_400_000);
  expect(await server.parts.submissions.coming(said.id)).toBeNull();
});

describe('half a minute', () => {
  it('of voice plays anywhere, and is no longer than that', async () => {
    const bytes = await made(
      'voice.webm',
      ...['-f', 'lavfi', '-i', 'sine=f=440:r=48000:d=40', '-c:a', 'libopus'],
    );
    const { id, came } = await send(tokens['Bram']!, 'voice', 'voice', bytes);
    expect(came.json).toMatchObject({ by: 'voice', kind: 'sound', name: 'Voice.m4a' });
    expect(came.json.lengthUs).toBeGreaterThan(29_000_000);
    expect(came.json.lengthUs).toBeLessThan(31_500_000);
    await submission(tokens['Bram']!, { files: [id] });
    const played = await fetch(`${server.url}/api/share-links/${shareLink.id}/submissions/${id}`, {
      headers: { Range: 'bytes=4-11' },
    });
    expect([played.status, played.headers.get('content-type')]).toEqual([206, 'audio/mp4']);
    expect((await played.text()).slice(0, 4)).toBe('ftyp');
  });

  it('of camera too; and what is none is refused, without the sender learning why', async () => {
    const bytes = await made(
      'camera.webm',
      ...['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=30:d=2', '-f', 'lavfi', '-i', 'sine=d=2'],
      ...['-c:v', 'libvpx', '-deadline', 'realtime', '-cpu-used', '8', '-c:a', 'libopus'],
    );
    const { id, came } = await send(tokens['Pia']!, 'camera', 'camera', bytes);
    expect(came.json).toMatchObject({ by: 'camera', kind: 'film', name: 'Camera.mp4' });
    const shape = await run('ffprobe', [
      ...['-v', 'error', '-select_streams', 'v', '-show_entries', 'stream=codec_name,width,height'],
      ...['-of', 'csv=p=0', server.parts.submissionService.pathOf(id)],
    ]);
    expect(shape.toString().trim()).toBe('h264,640,360');
    for (const [by, code] of [
      ['camera', 'film-unreadable'],
      ['voice', 'sound-unreadable'],
    ] as const) {
      // A playlist that names a file of this machine, called what a browser records.
      const hostile = Buffer.concat([
        Buffer.from([0x1a, 0x45, 0xdf, 0xa3]),
        Buffer.from('ffconcat version 1.0\nfile /etc/passwd\n'),
      ]);
      const { came: refusal } = await send(tokens['Pia']!, 'x', by, hostile);
      expect([refusal.status, refusal.json.code]).toEqual([422, code]);
      expect(JSON.stringify(refusal.json)).not.toMatch(/ffmpeg|\/tmp/);
    }
  });
});

it('takes from somebody without an address of their own what they say they are called', async () => {
  const anyone = shareLink.token!;
  await submission(anyone, { name: 'Wen', text: 'Steer 090.' });
  const { submissions } = await given();
  expect(submissions[0]).toMatchObject({ name: 'Wen', known: false, text: 'Steer 090.' });
  const own = await ask('GET', `${path(anyone)}?visitor=visitor-of-another-device`);
  expect(own.submission).toBeNull();
});

it('takes only what its teacher asks for', async () => {
  await setActivity({ by: ['voice'] });
  const words = { visitor: VISITOR, name: '', text: 'By words.', files: [] };
  expect(await refused('POST', path(tokens['Ines']!), words)).toEqual([400, 'bad-request']);
  const file = { visitor: VISITOR, id: 'file-not-asked-for', name: 'a.txt', by: 'file', bytes: 3 };
  expect(await refused('POST', path(tokens['Ines']!, '/files'), file)).toEqual([
    ...[400, 'bad-request'],
  ]);
  await setActivity({});
});

it('goes with the student, its files at once', async () => {
  const before = await kept();
  const theirs = (await given()).submissions.find(({ name }) => name === 'Bram Okafor')!.files[0]!
    .id;
  expect(before).toContain(theirs);
  await ask('POST', `/api/students/${ids['Bram']}/erase`);
  expect(await kept()).toEqual(before.filter((id) => id !== theirs));
  expect((await given()).submissions.map(({ name }) => name)).not.toContain('Bram Okafor');
});

it('takes up room that is told, and goes with the lesson', async () => {
  expect((await kept()).length).toBeGreaterThan(0);
  const room = async () => (await ask('GET', '/api/storage/used')).submissionBytes;
  expect(await room()).toBeGreaterThan(1_000);
  await ask('DELETE', `/api/share-links/${shareLink.id}`);
  await ask('POST', '/api/bin/lesson/lesson-course');
  await ask('DELETE', '/api/bin/lesson/lesson-course');
  expect(await kept()).toEqual([]);
  expect(await room()).toBe(0);
});
