/** Hands that write on the board: by mouse, by finger and by pen, as the browser tells of them. */
import type { CDPSession, Page } from '@playwright/test';

type Place = readonly [x: number, y: number];

/** A hand over the board; places are fractions of its width and its height. */
export interface Hand {
  /** Writes through some places, so many samples between any two, and rests before it is lifted. */
  write(places: readonly Place[], samples?: number, restMs?: number): Promise<void>;
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Points between places, evenly. */
const between = (places: readonly Place[], samples: number): Place[] =>
  places.flatMap(([x, y], index): Place[] => {
    const before = places[index - 1];
    if (!before) return [[x, y]];
    return Array.from({ length: samples }, (_, n): Place => {
      const share = (n + 1) / samples;
      return [before[0] + (x - before[0]) * share, before[1] + (y - before[1]) * share];
    });
  });

/** Down, along and up again; `at` in px of the page. */
type Send = (
  session: CDPSession,
  phase: 'down' | 'move' | 'up',
  at: Place,
  share: number,
) => Promise<unknown>;

const PHASES = {
  touch: { down: 'touchStart', move: 'touchMove', up: 'touchEnd' },
  mouse: { down: 'mousePressed', move: 'mouseMoved', up: 'mouseReleased' },
} as const;

const SENDS: Readonly<Record<'mouse' | 'pen' | 'touch', Send>> = {
  touch: (session, phase, [x, y]) =>
    session.send('Input.dispatchTouchEvent', {
      type: PHASES.touch[phase],
      touchPoints: phase === 'up' ? [] : [{ x, y }],
    }),
  mouse: (session, phase, [x, y]) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type: PHASES.mouse[phase], x, y, button: 'left', clickCount: 1 },
      buttons: phase === 'up' ? 0 : 1,
    }),
  // Harder towards the end.
  pen: (session, phase, [x, y], share) =>
    session.send('Input.dispatchMouseEvent', {
      ...{ type: PHASES.mouse[phase], x, y, button: 'left', clickCount: 1 },
      ...{ buttons: phase === 'up' ? 0 : 1, pointerType: 'pen', force: 0.2 + 0.6 * share },
    }),
};

/** Fingers on a page: put down, moved, taken off; each at its place in px of the page. */
export const fingersOn = async (page: Page) => {
  const session = await page.context().newCDPSession(page);
  return (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
    session.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: points.map(([x, y], id) => ({ x, y, id })),
    });
};

/** A hand of a kind over the board of a page; a sample every `everyMs`. */
export const handOver = async (
  page: Page,
  kind: keyof typeof SENDS,
  everyMs = 8,
): Promise<Hand> => {
  const session = await page.context().newCDPSession(page);
  const send = SENDS[kind];
  return {
    async write(places, samples = 12, restMs = 0) {
      await page.getByTestId('board').scrollIntoViewIfNeeded();
      const box = (await page.getByTestId('board').boundingBox())!;
      const points = between(places, samples).map(([x, y]): Place => [
        box.x + x * box.width,
        box.y + y * box.height,
      ]);
      for (const [index, at] of points.entries()) {
        await send(session, index === 0 ? 'down' : 'move', at, index / points.length);
        await sleep(everyMs);
      }
      await sleep(restMs);
      await send(session, 'up', points.at(-1)!, 1);
    },
  };
};
