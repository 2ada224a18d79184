/**
 * A lesson of hours in some minutes: the recorder's worker is given a clock that runs faster, and frames
 * (small ones, ten a second) and samples that come as much faster. All the rest is what it always is: encoders, pieces, the browser's
 * store, the server.
 */
import type { BrowserContext } from '@playwright/test';
import { choosePractice, openBrowser, planLesson, startRecording } from './browser';
import { isDecodable, packetMs, stop } from './failures';
import { Line } from './line';
import { packetsIn } from './media';
import { Memory } from './memory';
import { startEmpty } from './prepared-homes';

export interface Long {
  /** What was recorded, by the recorder's own clock. */
  readonly seconds: number;
  /** How much faster than a clock on the wall. */
  readonly speed: number;
  /** The most that is missing of a track, counted in pictures and blocks of sound, ms. */
  readonly lostMs: number;
  readonly corrupt: boolean;
  /** The most by which the ends of two tracks are apart, ms. */
  readonly endsApartMs: number;
  /** Memory at the end against near the beginning, as a share. */
  readonly memoryGrowthShare: number;
}

/** Runs in the worker before its own script: a faster clock, and sources that keep up with it. */
const prelude = (speed: number): void => {
  const now = performance.now.bind(performance);
  const began = now();
  performance.now = () => began + (now() - began) * speed;
  const sinceUs = () => (performance.now() - began) * 1000;

  /** Gives everything that is due, and waits until more is. */
  const paced = <T>(everyUs: number, make: (atUs: number) => T): ReadableStream<T> => {
    let atUs = sinceUs();
    return new ReadableStream<T>({
      async pull(controller) {
        while (atUs > sinceUs()) await new Promise((resolve) => setTimeout(resolve, 1));
        for (; atUs <= sinceUs(); atUs += everyUs) controller.enqueue(make(atUs));
      },
    });
  };
  const WIDTH = 160;
  const HEIGHT = 90;
  const pixels = new Uint8Array((WIDTH * HEIGHT * 3) / 2).fill(128);
  // Ten a second, and small: all that two cores can encode at this pace.
  const pictures = () =>
    paced(100_000, (atUs) => {
      pixels.fill((atUs / 1e6) % 200, 0, WIDTH);
      const size = { codedWidth: WIDTH, codedHeight: HEIGHT };
      return new VideoFrame(pixels, { format: 'I420', ...size, timestamp: Math.round(atUs) });
    });
  // As many blocks a second of the wall's clock as a microphone gives; an encoder takes one in at a time.
  const tone = Float32Array.from({ length: 4_800 }, (_, n) => 0.2 * Math.sin(n / 10));
  const sounds = () =>
    paced(
      100_000,
      (atUs) =>
        new AudioData({
          ...{ format: 'f32-planar', sampleRate: 48_000, numberOfFrames: 4_800, data: tone },
          ...{ numberOfChannels: 1, timestamp: Math.round(atUs) },
        }),
    );

  // Garbage is collected while the browser's store is being asked: Chromium drops the answer of a handle
  // that nobody holds. In hours that happens by itself; here it is seen to happen, once in twenty pieces.
  const files = FileSystemFileHandle.prototype as unknown as {
    createSyncAccessHandle(): Promise<unknown>;
  };
  const { createSyncAccessHandle } = files;
  let opened = 0;
  files.createSyncAccessHandle = function open() {
    if (opened++ % 20 === 0) setTimeout(() => (globalThis as unknown as { gc(): void }).gc());
    return createSyncAccessHandle.call(this);
  };

  interface Opened {
    readonly sources?: { kind: string; given: { readable: ReadableStream } }[];
  }
  addEventListener('message', ({ data }: MessageEvent<Opened>) => {
    for (const source of data.sources ?? []) {
      void source.given.readable.cancel();
      const picture = source.kind === 'surface' || source.kind === 'camera';
      source.given = { readable: picture ? pictures() : sounds() };
    }
  });

  // Levels are told fifteen times a second of the clock on the wall, not of this one.
  const post = postMessage.bind(globalThis) as (message: unknown, transfer: Transferable[]) => void;
  let told = 0;
  Object.assign(globalThis, {
    postMessage(message: { is: string }, transfer: Transferable[] = []) {
      if (message.is === 'level' && now() - told < 66) return;
      if (message.is === 'level') told = now();
      post(message, transfer);
    },
  });
};

const hurry = (context: BrowserContext, speed: number) =>
  context.route(/\/recorder-\w+\.js$/, async (route) => {
    const response = await route.fetch();
    const body = `(${String(prelude)})(${speed});\n${await response.text()}`;
    await route.fulfill({ response, body });
  });

/**
 * Records for a time with the connection cut for a quarter of it, and measures what there is in the end.
 *
 * @param seconds by the recorder's clock
 */
export const recordLong = async (seconds: number, speed: number): Promise<Long> => {
  const server = await startEmpty();
  const line = await Line.open(server.port);
  const opened = await openBrowser({ switches: ['--js-flags=--expose-gc'] });
  const { page } = opened;
  try {
    await hurry(opened.context, speed);
    // Nobody records what the page's own devices draw: one picture a second leaves the cores to the rest.
    await page.addInitScript(() => {
      const every = setInterval as (call: () => void, ms: number) => unknown;
      Object.assign(window, {
        setInterval: (call: () => void, ms: number) => every(call, ms < 40 ? 1_000 : ms),
      });
    });
    const lessonId = await planLesson(page, line.url, 'Two hours');
    await choosePractice(page);
    await startRecording(page);
    const memory = await Memory.of(page);
    const began = Date.now();
    const passed = () => (Date.now() - began) / 1000;
    const wall = seconds / speed;
    let cut: 'not yet' | 'cut' | 'mended' = 'not yet';
    while (passed() < wall) {
      await page.waitForTimeout(Math.min(500, Math.max(0, (wall - passed()) * 1000)));
      memory.look(passed());
      if (cut === 'not yet' && passed() > wall * 0.4) {
        line.cut();
        cut = 'cut';
      } else if (cut === 'cut' && passed() > wall * 0.65) {
        line.mend();
        cut = 'mended';
      }
    }
    const recorded = await stop(page);
    // What could not be sent by then is sent from the store.
    const take = await server.takeWhen(lessonId, 600);
    const lost = take.tracks.map(
      (track) =>
        ((recorded.packets?.[track.kind] ?? 0) - packetsIn(server.trackFile(take, track.kind))) *
        packetMs(track),
    );
    const ends = take.tracks.map((track) => track.durationUs / 1000);
    return {
      seconds: Math.round(recorded.ms / 1000),
      speed,
      lostMs: Math.round(Math.max(...lost)),
      corrupt:
        take.tracks.length < 3 ||
        take.tracks.some((track) => !isDecodable(server.trackFile(take, track.kind))),
      endsApartMs: Math.round(Math.max(...ends) - Math.min(...ends)),
      memoryGrowthShare: memory.growthShare(Math.min(60, wall / 4)),
    };
  } finally {
    await opened.close();
    await line.close();
    await server.remove();
  }
};
