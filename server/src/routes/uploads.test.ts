import { placedIn } from '@under-chalk/core/lesson/lesson';
import { UPLOADS_PATH } from '@under-chalk/core/contract/takes';
import { existsSync, readFileSync, statSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { startTestServer, type TestServer } from '../testing/test-server';

/** The tus 1.0 protocol as the recorder speaks it; names of headers and answers are the protocol's. */

jest.setTimeout(120_000);
let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Tide heights' });
});
afterAll(() => server.remove());

const begin = (id: string) =>
  server.ask('POST', '/api/lessons/lesson-one/takes', {
    id,
    source: 'sound',
    practice: true,
    tracks: [{ id: `${id}-voice`, kind: 'voice' }],
  });
const tus = { 'Tus-Resumable': '1.0.0' };
const create = (trackId: string) =>
  fetch(server.url + UPLOADS_PATH, {
    method: 'POST',
    headers: {
      ...tus,
      'Upload-Defer-Length': '1',
      'Upload-Metadata': `trackId ${Buffer.from(trackId).toString('base64')}`,
    },
  });
const head = (trackId: string) =>
  fetch(`${server.url}${UPLOADS_PATH}/${trackId}`, { method: 'HEAD', headers: tus });
const patch = (trackId: string, offset: number, bytes: string, length?: number) =>
  fetch(`${server.url}${UPLOADS_PATH}/${trackId}`, {
    method: 'PATCH',
    headers: {
      ...tus,
      'Upload-Offset': String(offset),
      'Content-Type': 'application/offset+octet-stream',
      ...(length === undefined ? {} : { 'Upload-Length': String(length) }),
    },
    body: bytes,
  });
const incoming = (trackId: string) => join(server.config.folders.incoming, trackId);

/** What all open files are made of, to let them fail. */
const handlePrototype = async (trackId: string) => {
  const handle = await open(incoming(trackId), 'r');
  await handle.close();
  return Object.getPrototypeOf(handle) as Record<'write' | 'datasync', () => Promise<unknown>>;
};

it('tells any sender where a track stands, over a restart too', async () => {
  await begin('take-one');
  const track = 'take-one-voice';
  expect((await head(track)).status).toBe(404);
  expect((await create(track)).status).toBe(201);
  expect((await patch(track, 0, 'hello ')).headers.get('upload-offset')).toBe('6');
  // Another tab, that knows nothing but the track's name.
  const stands = await head(track);
  expect(stands.headers.get('upload-offset')).toBe('6');
  expect(stands.headers.get('upload-defer-length')).toBe('1');
  expect((await patch(track, 6, 'world', 11)).status).toBe(204);
  const whole = await head(track);
  expect([whole.headers.get('upload-offset'), whole.headers.get('upload-length')]).toEqual([
    '11',
    '11',
  ]);
  expect(readFileSync(incoming(track), 'utf8')).toBe('hello world');
});

it('never begins a track anew, and takes no bytes at a wrong place', async () => {
  await begin('take-two');
  const track = 'take-two-voice';
  await create(track);
  await patch(track, 0, 'kept');
  expect((await create(track)).status).toBe(409);
  expect((await patch(track, 2, 'over')).status).toBe(409);
  expect((await patch(track, 9, 'beyond')).status).toBe(409);
  expect(readFileSync(incoming(track), 'utf8')).toBe('kept');
});

it('keeps what came before a connection was cut, and lets the length be told again', async () => {
  await begin('take-three');
  const track = 'take-three-voice';
  await create(track);
  await patch(track, 0, 'first');
  const control = new AbortController();
  const torn = new ReadableStream({
    start(stream) {
      stream.enqueue(new TextEncoder().encode('half'));
      setTimeout(() => control.abort(), 300);
    },
  });
  await fetch(`${server.url}${UPLOADS_PATH}/${track}`, {
    method: 'PATCH',
    headers: {
      ...tus,
      'Upload-Offset': '5',
      'Upload-Length': '13',
      'Content-Type': 'application/offset+octet-stream',
    },
    body: torn,
    signal: control.signal,
    duplex: 'half',
  } as RequestInit).catch(() => undefined);
  // The server notices that nobody is there any more.
  let offset = 0;
  for (let tries = 0; tries < 50; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
    const stands = await head(track);
    offset = Number(stands.headers.get('upload-offset'));
    if (offset === 9) {
      expect(stands.headers.get('upload-length')).toBeNull();
      break;
    }
  }
  expect(offset).toBe(9);
  expect((await patch(track, 9, 'rest', 13)).status).toBe(204);
  expect(readFileSync(incoming(track), 'utf8')).toBe('firsthalfrest');
});

it('takes bytes for known tracks only, and lets nobody delete them', async () => {
  expect((await create('track-of-nobody')).status).toBe(404);
  expect((await create('../../etc/passwd')).status).toBe(404);
  await begin('take-four');
  await create('take-four-voice');
  const removed = await fetch(`${server.url}${UPLOADS_PATH}/take-four-voice`, {
    method: 'DELETE',
    headers: tus,
  });
  expect(removed.status).toBeGreaterThanOrEqual(400);
  expect(existsSync(incoming('take-four-voice'))).toBe(true);
});

it('answers a full disk with what happened, and keeps what had come', async () => {
  await begin('take-five');
  const track = 'take-five-voice';
  await create(track);
  await patch(track, 0, 'before');
  const prototype = await handlePrototype(track);
  const full = jest
    .spyOn(prototype, 'write')
    .mockRejectedValue(Object.assign(new Error('no space left on device'), { code: 'ENOSPC' }));
  const answer = await patch(track, 6, 'after');
  full.mockRestore();
  expect(answer.status).toBe(507);
  expect(await answer.json()).toMatchObject({ code: 'disk-full' });
  expect((await head(track)).headers.get('upload-offset')).toBe('6');
  expect((await patch(track, 6, ' after')).status).toBe(204);
  expect(statSync(incoming(track)).size).toBe(12);
});

it('answers so whatever the size of the piece', async () => {
  await begin('take-large');
  const track = 'take-large-voice';
  await create(track);
  const prototype = await handlePrototype(track);
  for (const size of [10_000, 4_000_000]) {
    const full = jest
      .spyOn(prototype, 'write')
      .mockRejectedValue(Object.assign(new Error('no space left on device'), { code: 'ENOSPC' }));
    const answer = await patch(track, 0, 'x'.repeat(size));
    full.mockRestore();
    expect([size, answer.status]).toEqual([size, 507]);
  }
});

it('does not answer for bytes that could not be forced to the disk', async () => {
  await begin('take-sync');
  const track = 'take-sync-voice';
  await create(track);
  await patch(track, 0, 'before');
  const prototype = await handlePrototype(track);
  const failing = jest
    .spyOn(prototype, 'datasync')
    .mockRejectedValueOnce(Object.assign(new Error(`EIO ${incoming(track)}`), { code: 'EIO' }));
  const answer = await patch(track, 6, ' unsure');
  failing.mockRestore();
  expect(answer.status).toBe(500);
  expect(await answer.text()).not.toContain(server.config.folders.home);
  expect((await head(track)).headers.get('upload-offset')).toBe('6');
  expect((await patch(track, 6, ' sure')).status).toBe(204);
  expect(readFileSync(incoming(track), 'utf8')).toBe('before sure');
});

it('makes a track once when two ask for it at the same time, and tells no path', async () => {
  await begin('take-race');
  const answers = await Promise.all(Array.from({ length: 6 }, () => create('take-race-voice')));
  const told = await Promise.all(
    answers.map(async (one) => [one.status, await one.text()] as const),
  );
  expect(told.map(([status]) => status).sort()).toEqual([201, 409, 409, 409, 409, 409]);
  for (const [, text] of told) expect(text).not.toContain(server.config.folders.home);
});

it('gives a take its place in the lesson once, wherever the recorder has put it', async () => {
  const placement = { id: 'take-early', takeId: 'take-early', rank: 'Zz' };
  await server.edit('lesson-one', { do: 'place', placement, arrives: true });
  await begin('take-early');
  await begin('take-late');
  const { json: after } = await server.ask('GET', '/api/lessons/lesson-one');
  const order = placedIn(after.lesson).map(({ takeId }) => takeId);
  expect([order[0], order.at(-1)]).toEqual(['take-early', 'take-late']);
  expect(order.filter((id) => id === 'take-early')).toHaveLength(1);
  expect((await server.ask('GET', '/api/takes/take-early')).json.state).toBe('recording');
  expect((await server.ask('GET', '/api/takes/take-unknown')).status).toBe(404);
});
