/**
 * The ways a recording can fail, each done for real, and what is left of the take afterwards. The browser
 * tests do a few, `npm run bench recorder` does ten of each.
 */
import { expect, type Page } from '@playwright/test';
import type { Take } from '@under-chalk/core/lesson/take';
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openBrowser, newLesson, startRecording, type Opened } from './browser';
import { failEncoders, holdEncoders } from './encoders';
import { Line } from './line';
import { packetsIn } from './media';
import { NO_READINGS, startEmpty } from './prepared-homes';
import { RealServer } from './server';

export const FAILURES = [
  'kill the renderer',
  'kill the browser',
  'kill the server',
  'cut the connection',
  'fill the browser store',
  'fill the server disk',
  'fail the encoder',
] as const;
export type Failure = (typeof FAILURES)[number];

/** What one failure cost. */
export interface Cost {
  readonly kind: Failure;
  /** The most that is missing of any track, ms. By the clock, what is under a tenth of a second is the last frame, and counts as nothing. */
  readonly lostMs: number;
  /** The take can't be played, or a track of it can't be decoded to its end. */
  readonly corrupt: boolean;
  readonly tracks: Readonly<Record<string, number>>;
}

/** Less than this is not a loss: a track ends with its last whole frame or packet, ms. */
const LAST_FRAME_MS = 100;

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Gaps inside a track longer than it can have by itself, ms in all: a still picture is repeated each half second. */
const gapsIn = (file: string, picture: boolean): number => {
  const text = execFileSync(
    'ffprobe',
    ['-v', 'error', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', file],
    { maxBuffer: 1 << 28 },
  ).toString();
  const times = text
    .split('\n')
    .map(Number.parseFloat)
    .filter((time) => !Number.isNaN(time))
    .sort((a, b) => a - b);
  const most = picture ? 0.85 : 0.12;
  return times.reduce((sum, time, index) => {
    const gap = index > 0 ? time - times[index - 1]! : 0;
    return sum + (gap > most ? gap * 1000 : 0);
  }, 0);
};

export const isDecodable = (file: string): boolean => {
  const decoded = spawnSync('ffmpeg', ['-v', 'error', '-xerror', '-i', file, '-f', 'null', '-']);
  return decoded.status === 0;
};

/** What had been recorded: for how long, and what was encoded of it, where the recorder lived to tell. */
interface Recorded {
  readonly ms: number;
  readonly packets: Readonly<Record<string, number>> | null;
}

/** What a picture or a block of sound stands for, ms. */
export const packetMs = (track: { widthPx: number }) => (track.widthPx > 0 ? 1000 / 30 : 20);

/**
 * What is missing of a take. Where the recorder could tell what it had encoded, each picture and block of
 * sound is counted; else by the clock: the time without any at the end, and in gaps.
 */
const costOf = (kind: Failure, server: RealServer, take: Take, recorded: Recorded): Cost => {
  const tracks: Record<string, number> = {};
  let lostMs = 0;
  let corrupt = take.state !== 'ready' || take.tracks.length < 3;
  for (const track of take.tracks) {
    const file = server.trackFile(take, track.kind);
    const encoded = recorded.packets?.[track.kind];
    const missing =
      encoded === undefined
        ? recorded.ms - track.durationUs / 1000 + gapsIn(file, track.widthPx > 0)
        : (encoded - packetsIn(file)) * packetMs(track);
    tracks[track.kind] = Math.round(missing);
    lostMs = Math.max(lostMs, missing);
    corrupt ||= !isDecodable(file);
  }
  const counted = recorded.packets !== null;
  const least = counted ? 0 : LAST_FRAME_MS;
  return { kind, lostMs: lostMs <= least ? 0 : Math.round(lostMs), corrupt, tracks };
};

/** Screen, camera and microphone, all from the browser's fake devices. */
const record = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: 'Choose what to show', exact: true }).click();
  await startRecording(page);
};

/** The clock at the moment it changes, ms: no older than a few. */
const clockNow = (page: Page): Promise<number> =>
  page.getByTestId('recorder-clock').evaluate(
    (clock: HTMLElement) =>
      new Promise<number>((resolve) => {
        const watch = new MutationObserver(() => {
          watch.disconnect();
          resolve(Number(clock.dataset['elapsedUs']) / 1000);
        });
        watch.observe(clock, { attributes: true });
      }),
  );

export const stop = async (page: Page): Promise<Recorded> => {
  await page.getByRole('button', { name: 'Stop', exact: true }).click({ timeout: 120_000 });
  const recorded = page.getByTestId('recorded');
  await recorded.waitFor({ timeout: 120_000 });
  const told = await recorded.getAttribute('data-packets');
  return {
    ms: Number(await recorded.getAttribute('data-duration-us')) / 1000,
    packets: JSON.parse(told ?? '{}') as Record<string, number>,
  };
};

/** Ends the process that draws the page, with no chance to say goodbye. */
const killRenderer = async (opened: Opened): Promise<void> => {
  const session = await opened.context.newCDPSession(opened.page);
  const crashed = opened.page.waitForEvent('crash');
  session.send('Page.crash').catch(() => undefined);
  await crashed;
};

/** Opens the app anew and waits until what was unfinished is on the server. */
const comeBack = async (opened: Opened, url: string): Promise<void> => {
  const page = await opened.context.newPage();
  await page.goto(url);
  await expect(
    page.getByText(/(Unfinished recording|A recording not sent yet|Recording sent).*, \d+ (min|s)/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Keep it' }).click({ timeout: 120_000 });
};

interface Stage {
  readonly server: RealServer;
  readonly line: Line;
  opened: Opened;
  /** Opens the browser again, as it was left. */
  readonly reopen: () => Promise<Opened>;
}

/** Does a failure `seconds` into a recording and tells what was recorded by then. */
type Doing = (stage: Stage, seconds: number) => Promise<Recorded>;

const DOING: Record<Failure, Doing> = {
  async 'kill the renderer'({ opened, line }, seconds) {
    await sleep(seconds * 1000);
    const recordedMs = await clockNow(opened.page);
    await killRenderer(opened);
    await comeBack(opened, line.url);
    return { ms: recordedMs, packets: null };
  },
  async 'kill the browser'(stage, seconds) {
    await sleep(seconds * 1000);
    const recordedMs = await clockNow(stage.opened.page);
    await stage.opened.kill();
    stage.opened = await stage.reopen();
    await comeBack(stage.opened, stage.line.url);
    return { ms: recordedMs, packets: null };
  },
  async 'kill the server'({ opened, server }, seconds) {
    await sleep(seconds * 500);
    await server.kill();
    await sleep(2_000);
    await server.up();
    await sleep(seconds * 500);
    return stop(opened.page);
  },
  async 'cut the connection'({ opened, line }, seconds) {
    await sleep(2_500);
    line.cut();
    await expect(opened.page.getByText(/can’t be reached; .* safe in this browser/)).toBeVisible();
    await sleep(seconds * 1000);
    line.mend();
    await sleep(2_500);
    return stop(opened.page);
  },
  async 'fill the browser store'({ opened, line }, seconds) {
    await sleep(2_000);
    line.cut();
    const session = await opened.context.newCDPSession(opened.page);
    const usage = await opened.page.evaluate(
      async () => (await navigator.storage.estimate()).usage,
    );
    // Room for some seconds more, and no further.
    await session.send('Storage.overrideQuotaForOrigin', {
      origin: line.url,
      quotaSize: (usage ?? 0) + seconds * 250_000,
    });
    await expect(opened.page.getByText(/This browser has no more room/)).toBeVisible({
      timeout: 120_000,
    });
    const clock = opened.page.getByTestId('recorder-clock');
    const recordedMs = Number(await clock.getAttribute('data-elapsed-us')) / 1000;
    // The worst that can come on top: what is in memory goes too.
    await killRenderer(opened);
    line.mend();
    await comeBack(opened, line.url);
    return { ms: recordedMs, packets: null };
  },
  async 'fill the server disk'({ opened, server }, seconds) {
    await sleep(2_000);
    const ballast = join(server.home, 'ballast');
    const disk = statfsSync(server.home);
    writeFileSync(ballast, Buffer.alloc(Math.max(0, disk.bavail * disk.bsize - 300_000)));
    await expect(opened.page.getByText(/disk is full; .* safe in this browser/)).toBeVisible({
      timeout: 120_000,
    });
    await sleep(seconds * 1000);
    rmSync(ballast);
    await sleep(4_000);
    return stop(opened.page);
  },
  async 'fail the encoder'({ opened }, seconds) {
    const { page } = opened;
    await sleep(seconds * 500);
    await failEncoders(page, 'all');
    await expect(
      page.getByText(/camera’s picture and the voice stumbled for a moment/),
    ).toBeVisible();
    await sleep(2_000);
    // Soon after: with other settings then.
    await failEncoders(page, 'pictures');
    await expect(page.getByText(/in a simpler form/).first()).toBeVisible();
    await sleep(seconds * 500);
    // What was being encoded when it failed was never counted: by the clock, and by the gaps.
    return { ...(await stop(page)), packets: null };
  },
};

const SMALL_DISK = '96m';

/** A small disk of its own for a server's data; null where this machine lets nobody make one. */
export const smallDisk = (): { folder: string; remove: () => void } | null => {
  const folder = mkdtempSync(join(tmpdir(), 'under-chalk-disk-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SMALL_DISK}`, 'tmpfs', folder]);
  const remove = () => {
    // Lazily: a process of the server that was killed may hold a file for another moment.
    if (mounted.status === 0) spawnSync('umount', ['--lazy', folder]);
    rmSync(folder, { recursive: true, force: true });
  };
  if (mounted.status === 0) return { folder, remove };
  remove();
  return null;
};

/**
 * Records, lets it fail, and measures what is left.
 *
 * @param seconds how long it is recorded before the failure, or how long the failure lasts
 * @throws when the machine can't do it (no small disk)
 */
export const tryFailure = async (
  kind: Failure,
  seconds: number,
  devices: { voice: string; camera: string },
): Promise<Cost> => {
  const disk = kind === 'fill the server disk' ? smallDisk() : null;
  if (kind === 'fill the server disk' && !disk)
    throw new Error('no small disk can be mounted here');
  const server = disk
    ? await RealServer.start({ home: join(disk.folder, 'home'), env: NO_READINGS })
    : await startEmpty();
  const line = await Line.open(server.port);
  // What is on a disk is only tested with a profile on one.
  const profile =
    kind === 'kill the browser' ? mkdtempSync(join(tmpdir(), 'under-chalk-profile-')) : null;
  const said: string[] = [];
  const open = async () => {
    const opened = await openBrowser({ ...devices, ...(profile ? { profile } : {}) });
    if (kind === 'fail the encoder') await holdEncoders(opened.context);
    opened.page.on('console', (message) => {
      if (message.type() === 'error') said.push(message.text());
    });
    return opened;
  };
  const stage: Stage = { server, line, opened: await open(), reopen: open };
  try {
    const lessonId = await newLesson(stage.opened.page, line.url, kind);
    await record(stage.opened.page);
    const recorded = await DOING[kind](stage, seconds);
    const take = await server.takeWhen(lessonId);
    const cost = costOf(kind, server, take, recorded);
    if (cost.corrupt || cost.lostMs > 2_000) console.log(said.slice(0, 20).join('\n'));
    return cost;
  } catch (error) {
    console.log(said.slice(0, 20).join('\n'));
    throw error;
  } finally {
    await stage.opened.close();
    if (profile) rmSync(profile, { recursive: true, force: true });
    await line.close();
    await server.remove();
    disk?.remove();
  }
};
