/**
 * The link at once: how long after the stop a lesson of one, ten and sixty minutes plays where a student watches it, while it is
 * being made; how long a place takes that isn't made yet; whether it ever stands still, on a slow line too; and whether one server
 * is enough for two hundred at once.
 */
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import { openBrowser, PHONE } from '@under-chalk/e2e/browser';
import { RealServer } from '@under-chalk/e2e/server';
import { run } from '@under-chalk/render/ffmpeg/run';
import { asRecorded } from '@under-chalk/server/testing/recorded';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { recordedLive, type MadeAhead } from './handout/made-ahead';
import { watchedByMany } from './handout/viewers';

const MINUTES = [1, 10, 60];
const MOST = { stopToPlayMs: 5_000, seekMissMs: 4_000, stallsMs: 0 };
const VIEWERS = 200;
const PIECE_BYTES = 4 << 20;
/** What comes just before the stop, s. */
const LAST_S = 3;
/** While a lesson is recorded, what has come is sent this often, s. */
const STEP_S = 2;
/** A lesson that comes at its own pace, s. */
const LIVE_S = 110;
const SLOW_BYTES = 500_000 / 8;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-handout-'));

/** The demo's screen, face and voice, 38 s long, as a recorder sends them; again and again for a lesson's length. */
const PART_S = 38.4;
const DEMO = join(process.env['UNDER_CHALK_ROOT'] ?? process.cwd(), 'demo/media');
const KINDS = ['surface', 'camera', 'voice'];
const makeParts = async (): Promise<{ kind: string; path: string }[]> =>
  Promise.all(
    KINDS.map(async (kind) => {
      const path = join(folder, `${kind}.mp4`);
      const from = ['-i', join(DEMO, `tide-table-${kind}.mp4`), '-t', String(PART_S)];
      const sound = ['-af', 'apad', '-c:a', 'libopus', '-b:a', '96k'];
      // As browsers encode while they record: a key frame every two seconds, none that is shown before another.
      const picture = ['-vf', 'fps=30', '-c:v', 'libx264', '-preset', 'ultrafast', '-bf', '0'];
      const encoder = kind === 'voice' ? sound : [...picture, '-g', '60', '-crf', '20'];
      await run('ffmpeg', [...from, ...encoder, '-f', 'mp4', path]);
      return { kind, path };
    }),
  );

/** Records a lesson by the API, as far as three seconds before its end. @returns ends it */
const record = async (
  server: RealServer,
  parts: Awaited<ReturnType<typeof makeParts>>,
  minutes: number,
) => {
  const id = `lesson-${minutes}`;
  await server.ask('POST', '/api/lessons', { id, title: `A lesson of ${minutes} minutes` });
  const tracks = await Promise.all(
    parts.map(async ({ kind, path }) => ({
      ...{ kind, id: `${id}-${kind}` },
      bytes: await asRecorded(path, Math.ceil((minutes * 60) / PART_S)),
    })),
  );
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${minutes}`, source: 'screen', practice: false },
    tracks: tracks.map(({ id: trackId, kind }) => ({ id: trackId, kind })),
  });
  const send = async (trackId: string, bytes: Buffer, from: number, end: number) => {
    for (let at = from; at < end; at += PIECE_BYTES) {
      await server.more(
        trackId,
        bytes.subarray(at, Math.min(end, at + PIECE_BYTES)),
        at,
        bytes.length,
      );
    }
  };
  const placeOf = (bytes: Buffer, endS: number) =>
    Math.floor(bytes.length * (1 - endS / (minutes * 60)));
  const last = (bytes: Buffer) => placeOf(bytes, LAST_S);
  // It is listened to as it comes in, and an hour that comes within seconds takes a while; meanwhile it goes on coming: one
  // that falls silent is taken for one that was cut short.
  const steps = Math.ceil((10 + minutes * 1.2) / STEP_S);
  const slowlyS = Math.min(minutes * 30, steps * STEP_S);
  const early = (bytes: Buffer) => placeOf(bytes, LAST_S + slowlyS);
  for (const track of tracks) await send(track.id, track.bytes, 0, early(track.bytes));
  for (let step = 1; step <= steps; step++) {
    for (const { id: trackId, bytes } of tracks) {
      const at = (of: number) => placeOf(bytes, LAST_S + slowlyS * (1 - of / steps));
      await send(trackId, bytes, at(step - 1), at(step));
    }
    await sleep(STEP_S * 1_000);
  }
  return async () => {
    for (const track of tracks)
      await send(track.id, track.bytes, last(track.bytes), track.bytes.length);
    const began = performance.now();
    await server.ask('POST', `/api/takes/take-${minutes}/stop`, {});
    await server.takeWhen(id, 120, 50);
    const ingested = performance.now() - began;
    const shareLink = await server.ask<ShareLink>('POST', `/api/lessons/${id}/share-links`, {
      size: '720p',
    });
    return { began, ingested, given: performance.now() - began, token: shareLink.token! };
  };
};

/** Counts how long the page's film stands still although it should play, from now on. */
const countStalls = (page: Page) =>
  page.evaluate(() => {
    const film = document.querySelector('video')!;
    const counted = { ms: 0 };
    let [at, when] = [film.currentTime, performance.now()];
    setInterval(() => {
      const now = performance.now();
      // The clock of a film goes in steps; a quarter of a second without one is no playing.
      if (film.currentTime !== at || film.paused || film.ended)
        [at, when] = [film.currentTime, now];
      else if (now - when > 250) {
        counted.ms += now - when;
        when = now;
      }
    }, 50);
    (window as unknown as { stalls: typeof counted }).stalls = counted;
  });
const stallsOf = (page: Page): Promise<number> =>
  page.evaluate(() => Math.round((window as unknown as { stalls: { ms: number } }).stalls.ms));

/** Waits until pictures and sound have been decoded and the film goes on from a place, s. */
const untilPlays = (page: Page, fromS: number) =>
  page.waitForFunction(
    (from) => {
      const film = document.querySelector('video') as HTMLVideoElement & Record<string, number>;
      return (
        film &&
        !film.seeking &&
        film.currentTime > from &&
        film['webkitDecodedFrameCount']! > 0 &&
        film['webkitAudioDecodedByteCount']! > 0
      );
    },
    fromS,
    { timeout: 60_000, polling: 20 },
  );

const parts = await makeParts();
const stopToPlayMs: Record<string, number> = {};
let seekMissMs = 0;
let stallsMs = 0;
let slow: { server: RealServer; token: string; film: string } | null = null;
const browser = await openBrowser({ viewport: PHONE });

for (const minutes of MINUTES) {
  const server = await RealServer.start({ home: join(folder, `home-${minutes}`) });
  const stop = await record(server, parts, minutes);
  const page = await browser.context.newPage();
  // A browser that has been open for a while.
  await page.goto(`${server.url}/api/health`);
  const { began, ingested, given, token } = await stop();
  await page.goto(`${server.url}/w/${token}`, { waitUntil: 'commit' });
  await page.getByRole('button', { name: 'Play' }).click();
  const opened = performance.now() - began;
  await untilPlays(page, 0.03);
  stopToPlayMs[minutes] = Math.round(performance.now() - began);
  console.log(
    `${minutes} min: processed ${Math.round(ingested)}, given ${Math.round(given)}, opened ${Math.round(opened)}, plays ${stopToPlayMs[minutes]} ms`,
  );
  await countStalls(page);
  await page.waitForTimeout(15_000);
  stallsMs += await stallsOf(page);
  // Places far from what has been made.
  for (const share of minutes === 1 ? [] : [0.75, 0.3, 0.93]) {
    const to = minutes * 60 * share;
    const from = performance.now();
    await page.evaluate((at) => void (document.querySelector('video')!.currentTime = at), to);
    await untilPlays(page, to + 0.02);
    const took = Math.round(performance.now() - from);
    console.log(`${minutes} min, to ${share}: ${took} ms`);
    seekMissMs = Math.max(seekMissMs, took);
  }
  await page.close();
  if (minutes === 1)
    slow = {
      server,
      token,
      film: (await server.ask<ShareLink[]>('GET', '/api/lessons/lesson-1/share-links'))[0]!.film.id,
    };
  else await server.remove();
}

// The same lesson twice, at the pace at which it is spoken: made while it is recorded, and afterwards only.
const live: Record<string, MadeAhead> = {};
{
  const tracks = await Promise.all(
    parts.map(async ({ kind, path }) => ({
      kind,
      bytes: await asRecorded(path, Math.ceil(LIVE_S / PART_S)),
    })),
  );
  const liveServer = await RealServer.start({ home: join(folder, 'home-live') });
  for (const atEase of [true, false]) {
    const name = atEase ? 'ahead' : 'afterwards';
    const seconds = Math.ceil(LIVE_S / PART_S) * PART_S;
    const how = { server: liveServer, tracks, seconds: Math.floor(seconds), atEase };
    live[name] = await recordedLive({ ...how, id: `lesson-${name}` });
    console.log(name, JSON.stringify(live[name]));
  }
  await liveServer.remove();
}

const { server, token, film } = slow!;
// Made for slow lines afterwards: its playlist has two sizes by then.
const version = (await server.ask<{ stream: string }>('GET', `/api/watch/${token}`)).stream;
for (;;) {
  const list = await (
    await fetch(`${server.url}/api/watch/${token}/stream/${version}/film.m3u8`)
  ).text();
  if (list.includes('narrow.m3u8')) break;
  await sleep(500);
}
const page = await browser.context.newPage();
const line = await browser.context.newCDPSession(page);
await line.send('Network.emulateNetworkConditions', {
  ...{ offline: false, latency: 60, downloadThroughput: SLOW_BYTES, uploadThroughput: SLOW_BYTES },
});
await page.goto(`${server.url}/w/${token}`, { timeout: 60_000 });
await page.getByRole('button', { name: 'Play' }).click({ timeout: 60_000 });
await untilPlays(page, 0.03);
await countStalls(page);
await page.waitForTimeout(45_000);
const slowLineStallsMs = await stallsOf(page);
await page.close();
await browser.close();

const many = await watchedByMany({
  url: server.url,
  token,
  version,
  viewers: VIEWERS,
  seconds: 55,
});
await server.remove();
await rm(folder, { recursive: true, force: true });

const result = {
  ...{ name: 'handout', stopToPlayMs, seekMissMs, stallsMs, slowLineStallsMs },
  ...{ madeAhead: live['ahead'], madeAfterwards: live['afterwards'] },
  ...{ viewers: VIEWERS, viewerStallsMs: many.stallsMs, viewerStartMsP95: many.startMsP95 },
};
console.table([
  {
    ...result,
    stopToPlayMs: JSON.stringify(stopToPlayMs),
    madeAhead: JSON.stringify(live['ahead']),
    madeAfterwards: JSON.stringify(live['afterwards']),
    film,
  },
]);
const results = join(process.env['UNDER_CHALK_ROOT'] ?? process.cwd(), 'bench/results');
await mkdir(results, { recursive: true });
await writeFile(join(results, 'handout.json'), `${JSON.stringify(result, null, 2)}\n`);
const missed = [
  ...Object.entries(stopToPlayMs).filter(([, ms]) => ms > MOST.stopToPlayMs),
  ...(seekMissMs > MOST.seekMissMs ? [['seek', seekMissMs]] : []),
  ...Object.entries({ stallsMs, slowLineStallsMs, viewers: many.stallsMs }).filter(
    ([, ms]) => ms > MOST.stallsMs,
  ),
];
if (missed.length > 0) console.log('Not met:', missed);
process.exit(0);
