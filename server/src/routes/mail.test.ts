import type { Reminder, Mailing, TestMail } from '@under-chalk/core/contract/mail';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import type { ClassView } from '@under-chalk/core/contract/classes';
import { run } from '@under-chalk/render';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(120_000);

const CLASS = 'class-coastal';
let server: TestServer;
let folder: string;
let shareLink: ShareLink;
let ids: Record<string, string>;

const ask = async (method: string, path: string, body?: unknown) => {
  const { status, json } = await server.ask(method, path, body);
  if (status !== 200) throw new Error(`${method} ${path}: ${status} ${JSON.stringify(json)}`);
  return json;
};
const mailsPath = () => `/api/share-links/${shareLink.id}/mail`;
const write = (note: string, to: Reminder = 'all'): Promise<Mailing> =>
  ask('POST', mailsPath(), { to, note, timeZone: 'Pacific/Auckland' });
const mailing = (): Promise<Mailing> => ask('GET', mailsPath());
const practice = (): Promise<TestMail[]> => ask('GET', '/api/test-inbox');
const until = async <T>(look: () => Promise<T>, met: (value: T) => boolean): Promise<T> => {
  for (let tries = 0; tries < 1_200; tries++) {
    const value = await look();
    if (met(value)) return value;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error('it does not come to that');
};
const ingested = () =>
  until(mailing, ({ students }) =>
    students.every(({ lastMail: mail }) => mail?.state !== 'waiting'),
  );
const stateOf = ({ students }: Mailing, name: string) =>
  students.find((one) => one.name === name)!.lastMail;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-mail-'));
  server = await startTestServer();
  const path = join(folder, 'surface.mp4');
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=320x240:rate=30', '-t', '2'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0', '-g', '30', '-pix_fmt', 'yuv420p'],
    ...['-movflags', '+frag_keyframe+empty_moov+default_base_moof', '-f', 'mp4', path],
  ]);
  await ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Tide heights – ß & ü' });
  await ask('POST', '/api/lessons/lesson-one/takes', {
    ...{ id: 'take-one', source: 'screen', practice: false },
    tracks: [{ id: 'take-one-surface', kind: 'surface' }],
  });
  await server.upload('take-one-surface', await readFile(path));
  await ask('POST', '/api/takes/take-one/stop', {});
  await server.ingested('take-one');
  await ask('POST', '/api/classes', { id: CLASS, name: 'Coastal navigation', units: [] });
  await ask('POST', `/api/classes/${CLASS}/students`, {
    students: [
      { name: 'Wen Castellan', address: 'wen@lantern-quay.example' },
      { name: 'Ines Carrow', address: 'ines@lantern-quay.example' },
      { name: 'Bram Okafor', address: '' },
    ],
  });
  const { students }: ClassView = await ask('GET', `/api/classes/${CLASS}`);
  ids = Object.fromEntries(students.map(({ id, name }) => [name, id]));
  shareLink = await ask('POST', '/api/lessons/lesson-one/share-links', {
    size: '720p',
    grants: [{ grantee: { is: 'class', classId: CLASS } }],
  });
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

test('each student has an e-mail of their own, in the test inbox until there is a server', async () => {
  const before = await mailing();
  expect(before.practice).toBe(true);
  expect(before.students.map(({ name, reachable }) => [name, reachable])).toEqual([
    ['Bram Okafor', false],
    ['Ines Carrow', true],
    ['Wen Castellan', true],
  ]);
  await write('Before Thursday, please.\nBcc: everybody@else.example');
  const after = await ingested();
  expect(after.students.map(({ lastMail: mail }) => mail?.state)).toEqual([
    undefined,
    'sent',
    'sent',
  ]);
  const mails = await practice();
  expect(mails.map(({ to }) => to).sort()).toEqual([
    'Ines Carrow <ines@lantern-quay.example>',
    'Wen Castellan <wen@lantern-quay.example>',
  ]);
  const wens = mails.find(({ to }) => to.startsWith('Wen'))!;
  expect(wens.subject).toBe('Tide heights – ß & ü');
  expect(wens.text).toContain('Before Thursday, please.\nBcc: everybody@else.example');
  // Nothing of anybody else; and what is in it leads there.
  expect(wens.text).not.toContain('Ines');
  const [film, page] = [...wens.text.matchAll(/http\S+\/([ws])\/(\S+)/g)].map((match) => match[2]!);
  expect(wens.text).toContain(`${server.url}/w/${film}`);
  expect((await ask('GET', `/api/watch/${film}`)).title).toBe('Tide heights – ß & ü');
  expect((await ask('GET', `/api/page/${page}`)).name).toBe('Wen Castellan');
  // No address of a page lies in the database.
  const rows = await server.inDatabase(async (db) => [
    ...(await db('mail_batches')),
    ...(await db('mail')),
  ]);
  for (const secret of [film!, page!]) expect(JSON.stringify(rows)).not.toContain(secret);
});

test('those who haven’t opened it can be reminded, and nobody else is', async () => {
  const passes = await practice();
  const film = /\/w\/(\S+)/.exec(passes.find(({ to }) => to.startsWith('Wen'))!.text)![1]!;
  const { stream } = await ask('GET', `/api/watch/${film}`);
  await fetch(`${server.url}/api/watch/${film}/stream/${stream}/film.m3u8`);
  await write('Have you seen it?', 'unopened');
  await ingested();
  const fresh = (await practice()).filter(({ text }) => text.includes('Have you seen it?'));
  expect(fresh.map(({ to }) => to)).toEqual(['Ines Carrow <ines@lantern-quay.example>']);
});

test('those who haven’t handed anything in can be reminded, and are told what is to be done', async () => {
  const wens = (await practice()).find(({ to }) => to.startsWith('Wen'))!;
  const token = /\/w\/(\S+)/.exec(wens.text)![1]!;
  const nothing = await ask('GET', `/api/share-links/${shareLink.id}/mail`);
  expect(nothing.students.map(({ handedIn }: { handedIn: unknown }) => handedIn)).toContain(null);
  await ask('POST', `/api/share-links/${shareLink.id}/assignment`, {
    assignment: {
      text: 'Plot a course.',
      next: '',
      dueAt: '2099-12-04T17:00:00.000Z',
      by: ['words'],
    },
  });
  await ask('POST', `/api/watch/${token}/submission`, {
    ...{ visitor: 'visitor-0123456789abcdef', name: '', text: '087 degrees', files: [] },
  });
  await write('And the plot?', 'nothing-in');
  await ingested();
  const fresh = (await practice()).filter(({ text }) => text.includes('And the plot?'));
  expect(fresh.map(({ to }) => to)).toEqual(['Ines Carrow <ines@lantern-quay.example>']);
  // In the teacher's time zone, not the server's.
  expect(fresh[0]!.text).toMatch(
    /To do afterwards, by Saturday 5 December at 06:00 (GMT\+13|NZDT):\nPlot a course\./,
  );
  const wrong = { to: 'all', note: '', timeZone: 'Lantern/Quay' };
  expect((await server.ask('POST', `/api/share-links/${shareLink.id}/mail`, wrong)).status).toBe(
    400,
  );
});

test('e-mails are in the language and time zone of the class', async () => {
  const [{ id, name, units }] = await ask('GET', '/api/classes');
  const mail = { language: 'de', timeZone: 'Europe/Berlin' };
  expect((await ask('POST', '/api/classes', { id, name, units, mail })).mail).toEqual(mail);
  // Whoever changes something else keeps it.
  expect((await ask('POST', '/api/classes', { id, name, units })).mail).toEqual(mail);
  const odd = { id, name, units, mail: { language: 'xx', timeZone: 'Lantern/Quay' } };
  expect((await server.ask('POST', '/api/classes', odd)).status).toBe(400);
  await write('Und der Kurs?', 'nothing-in');
  await ingested();
  const fresh = (await practice()).filter(({ text }) => text.includes('Und der Kurs?'));
  expect(fresh[0]!.text).toMatch(/^Hallo Ines Carrow,/);
  expect(fresh[0]!.text).toContain('Danach zu tun, bis Freitag, 4. Dezember um 18:00 MEZ:');
});

/** A mail server that can be told what to say to whom. */
const strictServer = async (say: (to: string) => number | null, at = '127.0.0.1') => {
  const taken: { to: string[]; user: string }[] = [];
  const smtp = new SMTPServer({
    ...{ allowInsecureAuth: true, disabledCommands: ['STARTTLS'] },
    onAuth: ({ username, password }, _session, callback) =>
      password === 'knots & bends'
        ? callback(null, { user: username ?? '' })
        : callback(Object.assign(new Error('no'), { responseCode: 535 })),
    onRcptTo: ({ address }, _session, callback) => {
      const code = say(address);
      callback(code === null ? null : Object.assign(new Error('not now'), { responseCode: code }));
    },
    onData: (stream, session, callback) => {
      stream.resume();
      stream.on('end', () => {
        taken.push({
          to: session.envelope.rcptTo.map(({ address }) => address),
          user: String(session.user),
        });
        callback(null);
      });
    },
  });
  const listening = smtp.listen(0, at);
  await new Promise((resolve) => listening.once('listening', resolve));
  return {
    taken,
    port: (listening.address() as AddressInfo).port,
    close: () => new Promise<void>((resolve) => smtp.close(() => resolve())),
  };
};
const serverAt = (port: number) => ({
  ...{ host: '127.0.0.1', port, security: 'starttls', user: 'ottilie' },
  from: 'ottilie@lantern-quay.example',
});

test('a server of one’s own is signed in at; its password is kept sealed and never told', async () => {
  const smtp = await strictServer(() => null);
  const set = (more: object) => server.ask('POST', '/api/mail', more);
  const settings = (await set({ server: serverAt(smtp.port), password: 'knots & bends' })).json;
  expect(settings).toEqual({ server: serverAt(smtp.port), hasPassword: true });
  const rows = await server.inDatabase((db) => db('settings').select('value'));
  expect(JSON.stringify(rows)).not.toContain('knots');
  expect((await server.ask('POST', '/api/mail/try')).status).toBe(200);
  expect(smtp.taken).toEqual([{ to: ['ottilie@lantern-quay.example'], user: 'ottilie' }]);
  // Not given again, it stays as it is; for another server it doesn't: nobody else may be sent it.
  expect(
    (await set({ server: { ...serverAt(smtp.port), port: smtp.port } })).json.hasPassword,
  ).toBe(true);
  expect(
    (await set({ server: { ...serverAt(smtp.port), host: 'localhost' } })).json.hasPassword,
  ).toBe(false);
  const refused = await server.ask('POST', '/api/mail/try');
  expect([refused.status, refused.json.code]).toEqual([502, 'mail-not-taken']);
  expect(JSON.stringify(refused.json)).not.toContain('535');
  for (const bad of [
    { host: '../etc' },
    { port: 0 },
    { from: 'nobody' },
    { user: 'a'.repeat(300) },
  ])
    expect((await set({ server: { ...serverAt(smtp.port), ...bad } })).status).toBe(400);
  await set({ server: null });
  await smtp.close();
});

test('what a server refuses for good is told; what it can’t take now is tried again, also after a restart', async () => {
  let busy = true;
  const smtp = await strictServer((to) => (to.startsWith('ines') ? 550 : busy ? 451 : null));
  await ask('POST', '/api/mail', { server: serverAt(smtp.port), password: 'knots & bends' });
  await write('Again');
  const tried = await until(
    mailing,
    (told) =>
      stateOf(told, 'Ines Carrow')?.state === 'failed' &&
      stateOf(told, 'Wen Castellan')?.problem !== null,
  );
  expect(stateOf(tried, 'Ines Carrow')!.problem).toContain('not now');
  expect(stateOf(tried, 'Wen Castellan')).toMatchObject({ state: 'waiting' });
  // Pressed again, who waits gets no second e-mail.
  await write('And again');
  const waits = { state: 'waiting', student_id: ids['Wen Castellan'] };
  expect(await server.inDatabase((db) => db('mail').where(waits))).toHaveLength(1);
  busy = false;
  // A minute later, and the server has been restarted since.
  await server.inDatabase((db) =>
    db('mail')
      .where({ state: 'waiting' })
      .update({ at: new Date(Date.now() - 61_000).toISOString() }),
  );
  const { home } = server.config.folders;
  await server.stop();
  server = await startTestServer({ home });
  await until(mailing, (told) => stateOf(told, 'Wen Castellan')?.state === 'sent');
  expect(smtp.taken).toEqual([{ to: ['wen@lantern-quay.example'], user: 'ottilie' }]);
  expect(server.logged.join()).not.toContain('lantern-quay');
  await smtp.close();
});

test('a server that isn’t there, or says nothing, costs no e-mail', async () => {
  const silent = createServer((socket) => socket.on('error', () => undefined)).listen(
    0,
    '127.0.0.1',
  );
  await new Promise((resolve) => silent.once('listening', resolve));
  const { port } = silent.address() as AddressInfo;
  await new Promise((resolve) => silent.close(resolve));
  await ask('POST', '/api/mail', { server: serverAt(port), password: '' });
  await write('Once more');
  const told = await until(mailing, (now) => stateOf(now, 'Wen Castellan')?.problem !== null);
  expect(stateOf(told, 'Wen Castellan')!.state).toBe('waiting');
  await ask('POST', '/api/mail', { server: null });
});

test('another machine’s server is sent nothing in the open', async () => {
  const smtp = await strictServer(() => null, '127.0.0.2');
  for (const security of ['starttls', 'tls']) {
    const there = { ...serverAt(smtp.port), host: '127.0.0.2', security };
    await ask('POST', '/api/mail', { server: there, password: 'knots & bends' });
    expect((await server.ask('POST', '/api/mail/try')).json.code).toBe('mail-not-taken');
  }
  expect(smtp.taken).toEqual([]);
  await ask('POST', '/api/mail', { server: null });
  await smtp.close();
});

test('an e-mail that is about nothing any more isn’t sent', async () => {
  await server.inDatabase((db) =>
    db('mail')
      .where({ state: 'waiting' })
      .update({ at: new Date(Date.now() - 9_000_000).toISOString() }),
  );
  await ask('POST', `/api/share-links/${shareLink.id}/audience`, {
    grants: [{ grantee: { is: 'student', studentId: ids['Bram Okafor'] } }],
  });
  const count = (await practice()).length;
  server.parts.mailService.send();
  const of = () =>
    server.inDatabase((db) =>
      db('mail').where({ student_id: ids['Wen Castellan'] }).orderBy('rowid', 'desc').first(),
    );
  const last = await until(of, ({ state }) => state !== 'waiting');
  expect([last.state, last.problem]).toEqual(['failed', 'It is not for this student any more.']);
  expect(await practice()).toHaveLength(count);
  // A page that is taken away reaches nobody.
  await ask('POST', `/api/share-links/${shareLink.id}/audience`, {
    grants: [{ grantee: { is: 'class', classId: CLASS } }],
  });
  const page: StudentPage = await ask('POST', `/api/students/${ids['Ines Carrow']}/page`);
  await ask('POST', `/api/students/${page.studentId}/page/open`, { open: false });
  const { students } = await mailing();
  expect(students.find(({ name }) => name === 'Ines Carrow')!.reachable).toBe(false);
});

test('nothing that was written to a student is left when they are erased', async () => {
  const noted = async (text: string) =>
    (await server.inDatabase((db) => db('mail_batches').where('note', 'like', `%${text}%`))).length;
  await ask('POST', `/api/classes/${CLASS}/students`, {
    students: [{ name: 'Odile Marsh', address: 'odile@lantern-quay.example' }],
  });
  const { students }: ClassView = await ask('GET', `/api/classes/${CLASS}`);
  const odile = students.find(({ name }) => name === 'Odile Marsh')!.id;
  await server.inDatabase(async (db) => {
    const at = new Date().toISOString();
    await db('mail_batches').insert({
      ...{ id: 'mailing-odile', share_link_id: shareLink.id, note: 'Dear Odile', origin: '', at },
    });
    await db('mail').insert({
      ...{ id: 'mail-odile', share_link_id: shareLink.id, student_id: odile, state: 'sent' },
      ...{ batch_id: 'mailing-odile', at, tries: 1 },
    });
  });
  const folder = server.config.folders.testInbox;
  await mkdir(folder, { recursive: true });
  const mail = 'To: Odile Marsh <Odile@lantern-quay.example>\r\nSubject: Tides\r\n\r\nDear Odile';
  await writeFile(join(folder, '00000000000001-odile.eml'), mail);
  const others = (await practice()).filter(({ to }) => !to.startsWith('Odile')).length;
  await ask('POST', `/api/students/${odile}/erase`);
  expect(await noted('Odile')).toBe(0);
  expect((await practice()).map(({ to }) => to).join()).not.toContain('Odile');
  expect(await practice()).toHaveLength(others);
});
