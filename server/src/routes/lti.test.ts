import type { JoinedSite } from '@under-chalk/core/contract/course-sites';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { CLAIMS } from '@under-chalk/core/course-site/launch';
import { TOOL_PATHS } from '@under-chalk/core/course-site/site';
import { startPracticeSite, type Change, type PracticeSite } from '@under-chalk/practice/site';
import {
  cookieOf,
  dataIn,
  formIn,
  plainText,
  visitsFrom,
  whyNot,
} from '@under-chalk/practice/visits';
import { run } from '@under-chalk/render';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const CLASS = 'class-coastal';
let server: TestServer;
let site: PracticeSite;
let folder: string;
let shareLink: ShareLink;

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const sites = (): Promise<JoinedSite[]> => ask('GET', '/api/course-sites');
const students = async () =>
  ((await ask('GET', `/api/classes/${CLASS}`)) as ClassView).students.map(({ name }) => name);

const { post, comes, arrives } = visitsFrom(() => site.url);
const watched = async (to: string | null) => ask('GET', `/api/watch/${/\/w\/(.+)$/.exec(to!)![1]}`);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-lti-'));
  server = await startTestServer();
  site = await startPracticeSite({ toolOrigin: server.url });
  const path = join(folder, 'surface.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '2', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p', path],
  ]);
  await ask('POST', '/api/lessons', { id: 'lesson-tides', title: 'Tides & streams' });
  await ask('POST', '/api/lessons/lesson-tides/takes', {
    ...{ id: 'take-tides', source: 'screen', practice: false },
    tracks: [{ id: 'take-tides-surface', kind: 'surface' }],
  });
  await server.upload('take-tides-surface', await readFile(path));
  await ask('POST', '/api/takes/take-tides/stop', {});
  expect(await server.ingested('take-tides')).toBe('ready');
  await ask('POST', '/api/classes', { id: CLASS, name: 'Coastal navigation', units: [] });
  await ask('POST', `/api/classes/${CLASS}/students`, {
    students: [
      { name: 'Bram Okafor', address: 'bram@lantern-quay.example' },
      { name: 'Ines Carrow', address: '' },
    ],
  });
  shareLink = await ask('POST', '/api/lessons/lesson-tides/share-links', {
    size: '720p',
    grants: [
      { grantee: { is: 'class', classId: CLASS }, availableFrom: null, availableUntil: null },
    ],
  });
});
afterAll(async () => {
  await site.stop();
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

it('lets nobody in from a site that isn’t joined', async () => {
  expect((await comes('bram', 'choose')).fields['status']).toBe('403');
  const [joined] = (await ask('POST', '/api/course-sites', site.joined)) as JoinedSite[];
  const scores = { given: 0, waiting: 0, refused: 0 };
  expect(joined).toEqual({ ...site.joined, damaged: false, courses: [], newcomers: [], scores });
  const again = { ...site.joined, id: 'another-practice-site' };
  expect((await server.ask('POST', '/api/course-sites', again)).status).toBe(409);
  const unsafe = { ...site.joined, keysAddress: 'file:///etc/passwd' };
  expect((await server.ask('POST', '/api/course-sites', unsafe)).status).toBe(400);
});

it('has its teacher choose a class for a course before anybody comes from it', async () => {
  const { status, html } = await arrives('ottilie', 'choose');
  expect([status, whyNot(html)]).toEqual([409, 'This course has no class in Under Chalk yet.']);
  const [{ courses }] = (await sites()) as [JoinedSite];
  expect(courses).toEqual([
    {
      ...{ courseId: 'coastal-4', title: 'Coastal navigation for beginners' },
      ...{ classId: null, hasRoster: true },
    },
  ]);
  const path = `/api/course-sites/${site.joined.id}/courses`;
  await ask('POST', path, { courseId: 'coastal-4', classId: CLASS });
  const nowhere = await server.ask('POST', path, { courseId: 'coastal-4', classId: 'class-none' });
  expect(nowhere.status).toBe(404);
});

it('has a film chosen in the site’s editor, and put into the course', async () => {
  const { html, answer } = await arrives('ottilie', 'choose');
  expect(whyNot(html)).toBe('Choose a film for the course');
  expect(html).toContain('Tides &amp; streams');
  // It stands in the site’s frame.
  expect(answer.headers.get('Content-Security-Policy')).toContain('frame-ancestors *');
  const { fields } = formIn(html);
  const choose = (change: Record<string, string>) =>
    post({ to: `${server.url}/lti/choose`, fields: { ...fields, ...change } });
  expect((await choose({ share_link: 'share-link-of-others' })).status).toBe(404);
  expect((await choose({ share_link: shareLink.id, ticket: 'made-up' })).status).toBe(403);
  const chosen = await choose({ share_link: shareLink.id });
  const back = formIn(await chosen.text());
  expect(back.to).toBe(`${site.url}/chosen`);
  // Its form goes to the site, and nowhere else.
  expect(chosen.headers.get('Content-Security-Policy')).toContain(`form-action ${site.url};`);
  expect((await post(back)).status).toBe(200);
  expect(site.items).toMatchObject([
    { title: 'Tides & streams', shows: { is: 'tool', custom: { share_link: shareLink.id } } },
  ]);
  // A student can’t.
  const theirs = await arrives('bram', 'choose');
  expect([theirs.status, whyNot(theirs.html)]).toEqual([403, 'This film is for certain students.']);
});

it('opens the film for the student that comes, who is known by the address', async () => {
  const item = site.items[0]!.id;
  const { status, to } = await arrives('bram', item);
  expect(status).toBe(302);
  expect(await watched(to)).toMatchObject({ title: 'Tides & streams', named: true });
  expect(await students()).toEqual(['Bram Okafor', 'Ines Carrow']);
  // The same each time.
  expect((await arrives('bram', item)).to).toBe(to);
  // Somebody new is in the class from now on.
  expect((await arrives('wen', item)).status).toBe(302);
  expect(await students()).toEqual(['Bram Okafor', 'Ines Carrow', 'Wen Castellan']);
  // Nobody becomes another by their name alone.
  expect((await arrives('ines', item)).status).toBe(302);
  expect((await students()).filter((name) => name === 'Ines Carrow')).toHaveLength(2);
  // Who teaches sees it as the class does.
  expect(await watched((await arrives('ottilie', item)).to)).toMatchObject({ named: false });
});

it('takes a film that is still being made, and opens it', async () => {
  const second: ShareLink = await ask('POST', '/api/lessons/lesson-tides/share-links', {
    size: 'as-recorded',
    grants: [
      { grantee: { is: 'class', classId: CLASS }, availableFrom: null, availableUntil: null },
    ],
  });
  for (const state of ['waiting', 'making', 'failed']) {
    await server.inDatabase((db) => db('films').where({ id: second.film.id }).update({ state }));
    const { html } = await arrives('ottilie', 'choose');
    const { fields } = formIn(html);
    const to = `${server.url}/lti/choose`;
    const chosen = await post({
      to,
      fields: { ...fields, share_link: second.id, gives: 'watched' },
    });
    expect(chosen.status).toBe(200);
    expect((await post(formIn(await chosen.text()))).status).toBe(200);
    const opened = await arrives('bram', site.items.at(-1)!.id);
    expect(opened.status).toBe(302);
    expect(await watched(opened.to)).toMatchObject({ title: 'Tides & streams' });
  }
  await ask('DELETE', `/api/share-links/${second.id}`);
});

it('isn’t let in with a token for several parties that doesn’t say for which', async () => {
  site.change(({ azp: _, ...claims }) => ({ ...claims, aud: [String(claims.aud), 'another'] }));
  const { status, html } = await arrives('bram', 'anything');
  site.change(null);
  expect([status, whyNot(html)]).toEqual([
    ...[403, 'The sign-in from the course site was meant for another service.'],
  ]);
});

it('opens all that is there for who comes by a link that names no film', async () => {
  expect((await arrives('bram', 'anything')).to).toMatch(/^\/s\/[\w-]{22}$/);
  expect((await arrives('ottilie', 'anything')).to).toMatch(/^\/s\/[\w-]{22}$/);
});

it('brings the course’s students in by the site’s roster, page by page, each once', async () => {
  const path = `/api/course-sites/${site.joined.id}/roster`;
  const told = await ask('POST', path, { courseId: 'coastal-4' });
  expect(told).toEqual({ ok: true, people: 5, added: 2 });
  expect(await students()).toEqual([
    ...['Bram Okafor', 'Ines Carrow', 'Ines Carrow'],
    ...['Sunniva Petel', 'Tomas Wray', 'Wen Castellan'],
  ]);
  expect(await ask('POST', path, { courseId: 'coastal-4' })).toMatchObject({ added: 0 });
});

/** Where somebody is sent whose sign-in says other things of them. */
const pageOf = async (claims: Record<string, unknown>) => {
  site.change((own) => ({ ...own, name: 'Mallory Quill', ...claims }));
  const { status, to } = await arrives('tomas', 'anything');
  site.change(null);
  return [status, to];
};

describe('an address alone', () => {
  const BRAM = 'bram@lantern-quay.example';
  const kept = async () =>
    ((await ask('GET', `/api/classes/${CLASS}`)) as ClassView).students.map(
      ({ name, address }) => [name, address] as const,
    );

  it('makes nobody a student whom a site knows already', async () => {
    const { to: bramsPage } = await arrives('bram', 'anything');
    const [status, page] = await pageOf({ sub: 'mallory-1', email: BRAM });
    expect(status).toBe(302);
    expect(page).not.toBe(bramsPage);
    // Two at the same moment are two, too.
    const [second, third] = [await pageOf({ sub: 'mallory-2', email: BRAM }), page];
    expect(second[1]).not.toBe(third);
    // What goes to that address stays with whom it belongs to.
    expect((await kept()).filter(([, address]) => address === BRAM)).toEqual([
      ['Bram Okafor', BRAM],
    ]);
  });

  it('makes nobody a student of another class', async () => {
    await ask('POST', '/api/classes', { id: 'class-knots', name: 'Knots', units: [] });
    const address = 'odile@lantern-quay.example';
    await ask('POST', '/api/classes/class-knots/students', {
      students: [{ name: 'Odile Marsh', address }],
    });
    const [, page] = await pageOf({ sub: 'mallory-3', email: address });
    expect(page).toMatch(/^\/s\//);
    const [{ key }] = await ask('POST', '/api/classes/class-knots/pages');
    expect(page).not.toBe(`/s/${key}`);
    expect(await students()).not.toContain('Odile Marsh');
  });

  it('makes nobody a student where the site says that nobody tried it', async () => {
    const address = 'perpetua@lantern-quay.example';
    await ask('POST', `/api/classes/${CLASS}/students`, {
      students: [{ name: 'Perpetua Lisle', address }],
    });
    const before = (await students()).length;
    await pageOf({ sub: 'mallory-4', email: address, email_verified: false });
    expect((await students()).length).toBe(before + 1);
    // Whoever it really belongs to is known by it.
    await pageOf({ sub: 'perpetua-1', email: address, email_verified: true });
    expect((await students()).length).toBe(before + 1);
  });
});

describe('somebody who may be here already', () => {
  const NEW = { sub: 'noa-1', name: 'Noa Lind', email: 'noa@lantern-quay.example' };
  const asked = async () => (await sites())[0]!.newcomers;
  const answer = (studentId: string, same: boolean) =>
    server.ask('POST', `/api/course-sites/${site.joined.id}/newcomers/${studentId}`, { same });
  const differ = async () => {
    for (const { studentId } of await asked())
      expect((await answer(studentId, false)).status).toBe(200);
  };
  // Those of the tests before.
  beforeEach(differ);

  /** Somebody of another class with the address; and who comes with it. */
  const twoOf = async (id: string, coming: typeof NEW) => {
    await ask('POST', '/api/classes', { id: `class-${id}`, name: `Evenings ${id}`, units: [] });
    await ask('POST', `/api/classes/class-${id}/students`, {
      students: [{ name: coming.name, address: coming.email }],
    });
    await pageOf(coming);
    const newcomer = (await asked()).find(({ name }) => name === coming.name)!;
    return { id: newcomer.studentId, other: newcomer.other.studentId, newcomer };
  };

  it('is asked about: by address in any class, by name in this one', async () => {
    const { newcomer } = await twoOf('one', NEW);
    expect(newcomer).toMatchObject({
      ...{ by: 'address', name: 'Noa Lind', address: null, classes: ['Coastal navigation'] },
      other: { name: 'Noa Lind', address: NEW.email, classes: ['Evenings one'] },
    });
    await pageOf({ sub: 'wen-9', name: 'wen castellan', email: 'new@lantern-quay.example' });
    expect(await asked()).toMatchObject([{}, { by: 'name', other: { name: 'Wen Castellan' } }]);
    // Different people: nothing changes, and nobody is asked again.
    const before = (await students()).length;
    await differ();
    expect([await asked(), (await students()).length]).toEqual([[], before]);
    expect((await answer(newcomer.studentId, true)).status).toBe(404);
    await pageOf(NEW);
    expect(await asked()).toEqual([]);
  });

  it('becomes one with who was here, and loses nothing', async () => {
    const coming = { ...NEW, sub: 'odd-1', name: 'Odd Berg', email: 'odd@lantern-quay.example' };
    const { id, other } = await twoOf('two', coming);
    const share_link_id = shareLink.id;
    const at = (hour: number) => `2026-11-01T0${hour}:00:00.000Z`;
    const row = { share_link_id, teacher_id: 'teacher' };
    await server.inDatabase(async (db) => {
      const watched = { ...row, version: 'v', visits: '{}', first_at: at(1), last_at: at(2) };
      await db('viewings').insert([
        { ...watched, viewer: id, student_id: id, seconds: '0190' },
        { ...watched, viewer: other, student_id: other, seconds: '0110', last_at: at(3) },
      ]);
      const answers = { ...row, text: '', asked: '{}' };
      await db('answers').insert([
        { ...answers, interaction_id: 'a', viewer: id, student_id: id, answer: 'new', at: at(4) },
        {
          ...answers,
          interaction_id: 'a',
          viewer: other,
          student_id: other,
          answer: 'old',
          at: at(3),
        },
        { ...answers, interaction_id: 'b', viewer: id, student_id: id, answer: 'only', at: at(3) },
      ]);
      const submission = {
        ...row,
        viewer: id,
        student_id: id,
        claimed_name: '',
        text: 'done',
        at: at(5),
      };
      await db('submissions').insert(submission);
      const opening = { ...row, first_at: at(1), last_at: at(2), times: 2 };
      await db('views')
        .insert([
          { ...opening, student_id: id },
          { ...opening, student_id: other, last_at: at(6) },
        ])
        .onConflict(['share_link_id', 'student_id'])
        .merge();
      await db('grants').insert([
        {
          id: 'g1',
          ...row,
          grantee: 'student',
          grantee_id: id,
          available_from: at(2),
          available_until: null,
        },
        {
          id: 'g2',
          ...row,
          grantee: 'student',
          grantee_id: other,
          available_from: at(1),
          available_until: at(9),
        },
      ]);
    });
    expect((await answer(id, true)).status).toBe(200);
    const now = await server.inDatabase(async (db) => ({
      watched: await db('viewings').where({ viewer: other }).select('seconds', 'last_at'),
      answers: await db('answers')
        .where({ viewer: other })
        .orderBy('interaction_id')
        .pluck('answer'),
      submissions: await db('submissions').where({ student_id: other }).pluck('text'),
      viewers: await db('views').where({ student_id: other }).select('times', 'last_at'),
      grants: await db('grants')
        .where({ grantee_id: other })
        .select('available_from', 'available_until'),
      classes: await db('class_students').where({ student_id: other }).pluck('class_id'),
      gone: await db('students').where({ id }),
    }));
    expect(now).toEqual({
      watched: [{ seconds: '0290', last_at: at(3) }],
      answers: ['new', 'only'],
      submissions: ['done'],
      viewers: [{ times: 4, last_at: at(6) }],
      grants: [{ available_from: at(1), available_until: null }],
      classes: ['class-two', CLASS],
      gone: [],
    });
    // Whoever comes again is the student that stays.
    const before = (await students()).length;
    await pageOf(coming);
    expect((await students()).length).toBe(before);
  });

  it('stays two where both have submitted something for a link', async () => {
    const coming = { ...NEW, sub: 'per-1', name: 'Per Holm', email: 'per@lantern-quay.example' };
    const { id, other } = await twoOf('three', coming);
    const row = { share_link_id: shareLink.id, claimed_name: '', text: 'mine', at: '2026-11-01' };
    await server.inDatabase((db) =>
      db('submissions').insert(
        [id, other].map((viewer) => ({
          ...row,
          viewer,
          student_id: viewer,
          teacher_id: 'teacher',
        })),
      ),
    );
    const { status, json } = await answer(id, true);
    expect([status, json.code]).toEqual([409, 'both-submitted']);
    expect(await asked()).toMatchObject([{ studentId: id }]);
  });
});

describe('what a site sends', () => {
  const item = () => site.items[0]!.id;
  const refused = async (how: Change | null, forges = false) => {
    site.change(how);
    site.forge(forges);
    const { status, html } = await arrives('bram', item());
    site.change(null);
    site.forge(false);
    return [status, whyNot(html)];
  };
  const now = () => Math.floor(Date.now() / 1000);

  it('isn’t believed where its signature is another’s', async () => {
    expect(await refused(null, true)).toEqual([
      ...[403, 'The sign-in from the course site could not be verified.'],
    ]);
  });

  it('isn’t taken when it is over, or was meant for another, or comes from another', async () => {
    const change =
      (claims: object): Change =>
      (before) => ({ ...before, ...claims });
    expect(await refused(change({ iat: now() - 900, exp: now() - 600 }))).toEqual([
      ...[410, 'This sign-in has expired.'],
    ]);
    expect(await refused(change({ iat: now() - 3_600, exp: now() + 600 }))).toEqual([
      ...[410, 'This sign-in has expired.'],
    ]);
    for (const claims of [{ aud: 'another-tool' }, { azp: 'another-tool' }])
      expect(await refused(change(claims))).toEqual([
        ...[403, 'The sign-in from the course site was meant for another service.'],
      ]);
    expect(await refused(change({ iss: 'https://elsewhere.example' }))).toEqual([
      ...[403, 'This course site isn’t connected to Under Chalk.'],
    ]);
    expect(await refused(change({ nonce: 'another' }))).toEqual([
      ...[403, 'The sign-in from the course site could not be verified.'],
    ]);
    expect(await refused(change({ [CLAIMS.context]: undefined }))).toEqual([
      ...[400, 'The course site left out something that is needed.'],
    ]);
    expect(await refused(change({ [CLAIMS.version]: '1.1' }))).toEqual([
      ...[400, 'The course site left out something that is needed.'],
    ]);
  });

  it('doesn’t name somebody: who was never here before isn’t let in', async () => {
    site.change((claims) => ({ ...claims, sub: 'nobody-yet', name: undefined, email: undefined }));
    const { status, html } = await arrives('tomas', item());
    site.change(null);
    expect([status, whyNot(html)]).toEqual([409, 'The course site doesn’t say who you are.']);
  });

  it('is taken once', async () => {
    const told = await comes('bram', item());
    expect((await post(told)).status).toBe(302);
    const again = await post(told);
    expect([again.status, whyNot(await again.text())]).toEqual([
      409,
      'This sign-in has already been used.',
    ]);
  });

  it('has to have begun here', async () => {
    const told = await comes('bram', item());
    const without = { ...told, fields: { ...told.fields, state: 'made-up' } };
    expect((await post(without)).status).toBe(403);
    const nothing = { ...told, fields: { state: told.fields['state']! } };
    expect((await post(nothing)).status).toBe(400);
  });

  it('isn’t asked for where the site is away, and says so', async () => {
    await ask('POST', '/api/course-sites', {
      ...{ ...site.joined, keysAddress: 'http://127.0.0.1:9/keys' },
    });
    expect(await refused(null)).toEqual([502, 'The course site doesn’t answer.']);
    await ask('POST', '/api/course-sites', site.joined);
  });
});

describe('the browser that a sign-in began in', () => {
  const item = () => site.items[0]!.id;
  const asWho = { headers: { Cookie: 'practice-who=bram' }, redirect: 'manual' } as const;
  const login = (more: Record<string, string> = {}) => ({
    ...{ iss: site.url, login_hint: 'bram', lti_message_hint: item(), ...more },
  });
  const begins = (query: string) => fetch(`${server.url}/lti/login?${query}`, asWho);
  /** What somebody comes back with, where the site keeps nothing for us. */
  const back = async (query = new URLSearchParams(login()).toString()) => {
    const begun = await begins(query);
    expect(begun.status).toBe(302);
    const to = begun.headers.get('Location')!;
    return { form: formIn(await (await fetch(to, asWho)).text()), cookie: cookieOf(begun) };
  };
  /** What is shown instead of the film. */
  const shown = async (answer: Response) => {
    expect(answer.headers.get('Location')).toBeNull();
    return answer.text();
  };

  it('keeps a cookie that a frame of the course sends too, and only to us', async () => {
    const { headers } = await begins(new URLSearchParams(login()).toString());
    const [cookie] = headers.getSetCookie();
    expect(cookie).toMatch(/^lti-[\w-]{22}=[\w-]{32}; path=\/; /);
    for (const part of [/secure/i, /httponly/i, /samesite=none/i, /partitioned/i, /expires=/i])
      expect(cookie).toMatch(part);
  });

  it('is let in, and no other, with or without a cookie of its own', async () => {
    const { form, cookie } = await back();
    const others = await back();
    for (const another of [undefined, others.cookie, `${cookie}0`])
      expect(
        whyNot(await shown(await post({ ...form, ...(another ? { cookie: another } : {}) }))),
      ).toBe('Open in a new window');
    const answer = await post({ ...form, cookie });
    expect(answer.status).toBe(302);
    // It has served, and goes.
    expect(answer.headers.getSetCookie()[0]).toMatch(/^lti-[\w-]{22}=; .*expires=Thu, 01 Jan 1970/);
  });

  it('begins again in a window of its own where cookies are blocked in frames, and once', async () => {
    const { form } = await back();
    const page = await shown(await post(form));
    const [, link = ''] = /href="\/lti\/login\?([^"]*)"/.exec(page) ?? [];
    const again = await back(plainText(link));
    expect((await post({ ...again.form, cookie: again.cookie })).status).toBe(302);
    const third = await back(plainText(link));
    const answer = await post(third.form);
    expect([answer.status, whyNot(await answer.text())]).toEqual([
      403,
      'This sign-in didn’t begin in this browser, or the browser blocks cookies here.',
    ]);
  });

  it('doesn’t carry along more than an address holds', async () => {
    const long = login({ login_hint: 'b'.repeat(1_600) });
    const begun = await begins(new URLSearchParams(long).toString());
    const state = new URL(begun.headers.get('Location')!).searchParams.get('state')!;
    expect(state.length).toBeLessThan(1_000);
  });

  it('asks the page of the course for what that keeps for it, and takes it from a page of ours alone', async () => {
    const keeping = await begins(
      new URLSearchParams(login({ lti_storage_target: '_parent' })).toString(),
    );
    const toKeep = dataIn(await shown(keeping));
    expect(toKeep).toMatchObject({ frame: '_parent', origin: site.url });
    expect(cookieOf(keeping).endsWith(`=${toKeep['value']}`)).toBe(true);
    const { cookie: kept, ...told } = await comes('bram', item());
    const secret = kept!.split('=')[1]!;
    const asking = await post(told);
    const page = await shown(asking);
    expect(dataIn(page)).toMatchObject({ frame: '_parent', origin: site.url });
    expect(page).not.toContain(secret);
    const fields = { ...formIn(page).fields, secret };
    expect(Object.keys(fields).sort()).toEqual(['id_token', 'secret', 'state']);
    const sent = { to: told.to, fields };
    // Whoever sends somebody here from elsewhere has a secret of their own at most.
    expect(await shown(await post(sent))).toContain('/lti/storage.js');
    const own = { 'Sec-Fetch-Site': 'same-origin', Origin: 'null' };
    const none = await post({ ...sent, fields: { ...fields, secret: '' } }, own);
    expect(whyNot(await shown(none))).toBe('Open in a new window');
    expect((await post(sent, own)).status).toBe(302);
  });
});

it('shows the key that it signs with, and never its own half', async () => {
  const { keys } = await (await fetch(server.url + TOOL_PATHS.keys)).json();
  expect(keys).toHaveLength(1);
  expect(Object.keys(keys[0]).sort()).toEqual(['alg', 'e', 'kid', 'kty', 'n', 'use']);
  const kept = await server.inDatabase((db) =>
    db('settings').where({ name: 'course-site-key' }).first('value'),
  );
  expect(kept.value).not.toContain('PRIVATE');
});

it('is parted from a site, and lets nobody in any more; students stay', async () => {
  const item = site.items[0]!.id;
  expect(await ask('DELETE', `/api/course-sites/${site.joined.id}`)).toEqual([]);
  expect((await comes('bram', item)).fields['status']).toBe('403');
  expect(await students()).toContain('Wen Castellan');
});
