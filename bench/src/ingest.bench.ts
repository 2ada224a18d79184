/**
 * How long after the stop a recording of an hour can be played, when its pieces came in while it was recorded: against
 * copying its bytes to the disk once, in the same run.
 */
import { run } from '@under-chalk/render/ffmpeg/run';
import { asRecorded } from '@under-chalk/server/testing/recorded';
import { makeVoice } from '@under-chalk/e2e/media';
import { RealServer } from '@under-chalk/e2e/server';
import { open, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PART_SECONDS = 300;
const PARTS = 12;
/** What comes in between two looks at what has come. */
const PIECE_BYTES = 4 << 20;
/** What comes just before the stop: five seconds of an hour. */
const LAST_SHARE = 5 / 3600;
const LESSON = 'lesson-of-an-hour';

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-'));
const server = await RealServer.start({ home: join(folder, 'home') });

/** Sends a track's bytes from one place up to another, as a recorder does: in pieces. */
const send = async (trackId: string, bytes: Buffer, from: number, end: number): Promise<void> => {
  for (let at = from; at < end; at += PIECE_BYTES) {
    const piece = bytes.subarray(at, Math.min(end, at + PIECE_BYTES));
    await server.more(trackId, piece, at, bytes.length);
  }
};

const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return Math.round(performance.now() - began);
};

try {
  const [pictures, sound] = [join(folder, 'picture.mp4'), join(folder, 'voice.mp4')];
  await run('ffmpeg', [
    ...[
      '-f',
      'lavfi',
      '-i',
      `testsrc2=s=1280x720:r=30,noise=alls=6:allf=t`,
      '-t',
      `${PART_SECONDS}`,
    ],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-b:v', '1900k', '-maxrate', '1900k'],
    ...['-bufsize', '2M', '-pix_fmt', 'yuv420p', '-bf', '0', '-g', '60', pictures],
  ]);
  await run('ffmpeg', [
    ...['-stream_loop', '-1', '-i', makeVoice(folder), '-t', `${PART_SECONDS}`],
    ...['-c:a', 'libopus', '-b:a', '96k', '-f', 'mp4', sound],
  ]);
  const tracks = [
    { id: 'hour-surface', kind: 'surface', bytes: await asRecorded(pictures, PARTS) },
    { id: 'hour-voice', kind: 'voice', bytes: await asRecorded(sound, PARTS) },
  ];
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'An hour' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: 'take-hour', source: 'screen', practice: false },
    tracks: tracks.map(({ id, kind }) => ({ id, kind })),
  });
  const last = (bytes: Buffer) => Math.floor(bytes.length * (1 - LAST_SHARE));
  for (const { id, bytes } of tracks) await send(id, bytes, 0, last(bytes));
  // What has come is looked at every five seconds; a recorder sends for as long as it records.
  await new Promise((resolve) => setTimeout(resolve, 20_000));
  for (const { id, bytes } of tracks) await send(id, bytes, last(bytes), bytes.length);
  const ingestMs = await timed(async () => {
    await server.ask('POST', '/api/takes/take-hour/stop', {});
    await server.takeWhen(LESSON, 120, 50);
  });
  const { durationUs } = await server.takeWhen(LESSON);
  const copyMs = await timed(async () => {
    const out = await open(join(folder, 'copy'), 'w');
    for (const { bytes } of tracks) await out.writeFile(bytes);
    await out.sync();
    await out.close();
  });
  const megabytes = Math.round(tracks.reduce((sum, { bytes }) => sum + bytes.length, 0) / 1e6);
  const seconds = Math.round(durationUs / 1e6);
  const result = { name: 'ingest', seconds, megabytes, ingestMs, copyMs };
  console.table([result]);
  await mkdir(join(process.cwd(), 'bench', 'results'), { recursive: true });
  await writeFile(join(process.cwd(), 'bench/results/ingest.json'), `${JSON.stringify(result)}\n`);
} finally {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
}
