/** A long recording with the practice devices: what is dropped, what memory it takes, how the clocks drift. */
import type { Page } from '@playwright/test';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import {
  change,
  choosePractice,
  clapOnce,
  openBrowser,
  planLesson,
  startRecording,
  stopRecording,
  WIDE,
} from './browser';
import { clicksAt, flashesAt, packetsIn } from './media';
import { Memory } from './memory';
import { startEmpty } from './prepared-homes';

export interface Captured {
  readonly seconds: number;
  /** Frames of screen and camera that the devices gave and that are not in the footage, as a share. */
  readonly droppedShare: number;
  /** Memory of the page's process: last minute against second, as a share. */
  readonly memoryGrowthShare: number;
  /** The most by which a track's clock has moved against the voice's, from the first minute to the last. */
  readonly driftMs: number;
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const median = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Counts the frames that the drawn devices give, by track, from the moment it is told to. */
const countFrames = (page: Page) =>
  page.addInitScript(() => {
    const given = { frames: 0 };
    Object.assign(window, { given });
    const { requestFrame } = CanvasCaptureMediaStreamTrack.prototype;
    CanvasCaptureMediaStreamTrack.prototype.requestFrame = function request() {
      given.frames++;
      return requestFrame.call(this);
    };
  });
const given = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { given: { frames: number } }).given.frames);

/**
 * Records for a time: a 1280×720 screen at 30 frames a second with the sound of the computer, a 640×480
 * camera, and a voice.
 */
export const capture = async (seconds: number): Promise<Captured> => {
  const server = await startEmpty();
  const opened = await openBrowser({ viewport: WIDE, fullRate: true });
  try {
    const { page } = opened;
    await countFrames(page);
    const lessonId = await planLesson(page, server.url, 'Ten minutes');
    await choosePractice(page);
    await change(page, 'What to show', 'record it too');
    const memory = await Memory.of(page);

    await startRecording(page);
    const from = await given(page);
    const began = Date.now();
    const passed = () => (Date.now() - began) / 1000;
    let nextClap = 3;
    while (passed() < seconds) {
      await sleep(500);
      if (passed() >= nextClap) {
        await clapOnce(page);
        // Often at the ends, where the clocks are compared; now and then between.
        nextClap += passed() < 30 || passed() > seconds - 40 ? 5 : 60;
        if (nextClap > seconds - 35 && passed() < seconds - 40) nextClap = seconds - 35;
      }
      memory.look(passed());
    }
    const frames = (await given(page)) - from;
    await stopRecording(page);
    const take = await server.takeWhen(lessonId);
    const path = (kind: TrackKind) => server.trackFile(take, kind);
    const recorded = packetsIn(path('surface')) + packetsIn(path('camera'));

    const middle = { x: 0.4, y: 0.4, width: 0.1, height: 0.1 };
    const voice = clicksAt(path('voice'));
    const drifts = [
      flashesAt(path('surface'), middle),
      flashesAt(path('camera'), middle),
      clicksAt(path('computer-sound')),
    ].map((times) => {
      const apart = times.flatMap((time) => {
        const nearest = voice.find((click) => Math.abs(click - time) < 0.5);
        return nearest === undefined ? [] : [(time - nearest) * 1000];
      });
      return Math.abs(median(apart.slice(-5)) - median(apart.slice(0, 5)));
    });
    return {
      seconds,
      droppedShare: Number(Math.max(0, 1 - recorded / frames).toFixed(4)),
      memoryGrowthShare: memory.growthShare(60),
      driftMs: Math.round(Math.max(...drifts)),
    };
  } finally {
    await opened.close();
    await server.remove();
  }
};
