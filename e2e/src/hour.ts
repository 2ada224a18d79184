import type { Page } from '@playwright/test';
import type { RealServer } from './server';

/** An hour of speech with fifteen hundred phrases: only told of, for nothing of it is played. */

export const HOUR = 'lesson-of-an-hour';
export const HOUR_US = 3_600_000_000;
export const HOUR_TAKE = 'take-of-an-hour';

/** A phrase is 1.6 s of speech and 0.8 s of quiet, µs. */
const PHRASE_US = 2_400_000;

/** So many cuts over an hour, each in the middle of a phrase. */
export const cutsInHour = (count: number) =>
  Array.from({ length: count }, (_, index) => {
    const startUs = Math.floor((index * 1_500) / count) * PHRASE_US + 700_000;
    return { takeId: HOUR_TAKE, startUs, endUs: startUs + 400_000 };
  });

/** How loud it is, in steps of 20 ms. */
export const levelsOfHour = (): Buffer => {
  const levels = Buffer.alloc(180_000, 20);
  for (let at = 0; at < levels.length; at += 120) levels.fill(80, at, at + 80);
  return levels;
};

/** Has a page see the lesson of an hour, which the server knows by its name alone. */
export const tellOfHour = async (page: Page, server: RealServer, cuts = 0): Promise<void> => {
  await server.ask('POST', '/api/lessons', { id: HOUR, title: 'An hour' });
  const take = {
    ...{ id: HOUR_TAKE, source: 'screen', practice: false, state: 'ready' },
    ...{ problem: null, cutShort: false, recordedAt: '2026-11-02T21:40:00.000Z' },
    durationUs: HOUR_US,
    tracks: (['surface', 'voice'] as const).map((kind) => ({
      ...{ id: `${HOUR_TAKE}-${kind}`, kind, durationUs: HOUR_US, digest: '' },
      ...(kind === 'voice' ? { widthPx: 0, heightPx: 0 } : { widthPx: 1280, heightPx: 720 }),
    })),
  };
  await page.route(`**/api/lessons/${HOUR}`, async (route) => {
    const answer = await route.fetch();
    const view = await answer.json();
    view.lesson.takes = [take];
    view.lesson.decisions.placements = [{ id: take.id, takeId: take.id, rank: 'a0' }];
    view.lesson.decisions.cuts = cutsInHour(cuts);
    await route.fulfill({ json: view });
  });
  const levels = levelsOfHour();
  await page.route(`**/api/takes/${HOUR_TAKE}/levels`, (route) =>
    route.fulfill({ body: levels, contentType: 'application/octet-stream' }),
  );
  await page.route(`**/api/takes/${HOUR_TAKE}/still*`, (route) => route.fulfill({ status: 404 }));
};
