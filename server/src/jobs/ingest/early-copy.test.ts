import { headerAt } from '@under-chalk/core/mp4/box';
import { trackOf, type Take, type TrackKind } from '@under-chalk/core/lesson/take';
import { run } from '@under-chalk/render';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asRecorded } from '../../testing/recorded';
import { loudnessOfTakes } from '../readings/loudness';
import { startTestServer, type TestServer } from '../../testing/test-server';

jest.setTimeout(120_000);

let server: TestServer;
let folder: string;
let picture: Buffer;
let voice: Buffer;

beforeAll(async () => {
  server = await startTestServer();
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-early-'));
  await server.ask('POST', '/api/lessons', { id: 'lesson-one', title: 'Early' });
  const [pictures, sound] = [join(folder, 'picture.mp4'), join(folder, 'voice.mp4')];
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=30', '-t', '9', '-c:v', 'libx264'],
    ...['-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-bf', '0', '-g', '30', pictures],
  ]);
  await run('ffmpeg', [
    ...['-f', 'lavfi', '-i', "aevalsrc='0.4*sin(700*t)*gt(sin(2*t),0)':s=48000", '-t', '9'],
    ...['-c:a', 'libopus', '-f', 'mp4', sound],
  ]);
  picture = await asRecorded(pictures);
  voice = await asRecorded(sound);
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

const begin = async (id: string) => {
  await server.ask('POST', '/api/lessons/lesson-one/takes', {
    ...{ id, source: 'screen', practice: true },
    tracks: [
      { id: `${id}-surface`, kind: 'surface' },
      { id: `${id}-voice`, kind: 'voice' },
    ],
  });
};

/** Sends what there is of the tracks from one share of each up to another. */
const come = async (id: string, from: number, share: number) => {
  for (const [kind, bytes] of [
    ['surface', picture],
    ['voice', voice],
  ] as const) {
    const [start, end] = [Math.floor(bytes.length * from), Math.floor(bytes.length * share)];
    await server.more(`${id}-${kind}`, bytes.subarray(start, end), start, bytes.length);
  }
};
/** What happens every few seconds. */
const sweep = () => server.parts.takeService.sweep();

const stopped = async (id: string): Promise<Take> => {
  await server.ask('POST', `/api/takes/${id}/stop`, {});
  expect(await server.ingested(id)).toBe('ready');
  return server.parts.takes.get(id);
};

/** Each packet of a processed track: when, how long, key or not, and a digest of what is in it. */
const packets = async (trackId: string) =>
  (
    await run('ffprobe', [
      ...['-v', 'error', '-show_packets', '-show_data_hash', 'md5'],
      ...['-show_entries', 'packet=pts_time,duration_time,size,flags,data_hash'],
      ...['-of', 'csv=p=0', server.parts.media.media(trackId).path],
    ])
  )
    .toString()
    .split('\n');

/** Whether a processed track was copied while it came in: its index stands at the end then. */
const wasEarly = async (take: Take, kind: TrackKind) => {
  const bytes = await readFile(server.parts.media.media(trackOf(take, kind)!.id).path);
  const names: string[] = [];
  for (let at = 0, box = headerAt(bytes, 0); box; at += box.length, box = headerAt(bytes, at)) {
    names.push(box.name);
  }
  return names.indexOf('moov') > names.indexOf('mdat');
};

const drafts = async () =>
  (await readdir(server.config.folders.media)).filter((name) => name.endsWith('.draft'));

it('comes to the same as what is made at the end, sound and levels included', async () => {
  await begin('take-end');
  await come('take-end', 0, 1);
  const atEnd = await stopped('take-end');
  await begin('take-early');
  await come('take-early', 0, 0.3);
  await sweep();
  await come('take-early', 0.3, 0.65);
  await sweep();
  await come('take-early', 0.65, 1);
  const early = await stopped('take-early');
  for (const kind of ['surface', 'voice'] as const) {
    expect([kind, await wasEarly(atEnd, kind)]).toEqual([kind, false]);
    expect([kind, await wasEarly(early, kind)]).toEqual([kind, true]);
    const [one, other] = [atEnd, early].map((take) => trackOf(take, kind)!);
    expect({ ...other, id: '', digest: '' }).toEqual({ ...one, id: '', digest: '' });
    expect(await packets(other!.id)).toEqual(await packets(one!.id));
  }
  const levels = await Promise.all(
    ['take-end', 'take-early'].map((id) => readFile(server.parts.media.levels(id))),
  );
  expect(levels[1]).toEqual(levels[0]);
  // How loud it is was measured while it came in, and is what its file says.
  const { media } = server.parts;
  const kept = async () => JSON.parse(await readFile(media.loudness('take-early-voice'), 'utf8'));
  const { of, lufs } = await kept();
  expect(of).toBe(trackOf(early, 'voice')!.digest);
  await rm(media.loudness('take-early-voice'));
  await loudnessOfTakes([early], media);
  expect(await kept()).toMatchObject({ of, lufs });
  expect(server.parts.media.hasIncoming('take-early-surface')).toBe(false);
  expect(await drafts()).toEqual([]);
});

it('leaves out what was torn off, and keeps what came in for the rest of it', async () => {
  await begin('take-torn');
  await come('take-torn', 0, 0.5);
  await sweep();
  const torn = await stopped('take-torn');
  expect(await wasEarly(torn, 'surface')).toBe(true);
  expect(torn.durationUs).toBeGreaterThan(2_000_000);
  expect(torn.durationUs).toBeLessThan(6_000_000);
  expect(server.parts.media.hasIncoming('take-torn-surface')).toBe(true);
  // The rest comes after all.
  await come('take-torn', 0.5, 1);
  const whole = await stopped('take-torn');
  expect(Math.abs(whole.durationUs - 9_000_000)).toBeLessThan(50_000);
});

it('makes at the end what an encoder that was opened anew has written', async () => {
  await begin('take-anew');
  const twice = Buffer.concat([picture, picture]);
  await server.more('take-anew-surface', picture, 0, twice.length);
  await sweep();
  await server.more('take-anew-surface', picture, picture.length, twice.length);
  await sweep();
  const take = await stopped('take-anew');
  expect(await wasEarly(take, 'surface')).toBe(false);
  expect(await drafts()).toEqual([]);
});

it('begins again after the server was restarted, and leaves nothing behind of a take that is gone', async () => {
  await begin('take-again');
  await come('take-again', 0, 0.6);
  await sweep();
  expect(await drafts()).not.toEqual([]);
  await server.stop();
  expect(await drafts()).toEqual([]);
  const second = await startTestServer({ home: server.config.folders.home });
  server = second;
  await sweep();
  expect(await drafts()).not.toEqual([]);
  await come('take-again', 0.6, 1);
  expect(await wasEarly(await stopped('take-again'), 'voice')).toBe(true);
  await begin('take-gone');
  await come('take-gone', 0, 0.6);
  await sweep();
  await server.parts.takes.unusable('take-gone', 'take-empty');
  await sweep();
  expect(await drafts()).toEqual([]);
});
