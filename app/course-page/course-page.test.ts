import { asTimespan, findApi, type SiteApi } from './site-api';
import { ToldWatched } from './told-watched';

/** A site that keeps what it is told. */
const site = (kept: Record<string, string> = {}) => {
  const said: string[] = [];
  const api: SiteApi = {
    LMSInitialize: () => 'true',
    LMSGetValue: (name) => kept[name] ?? '',
    LMSSetValue: (name, value) => {
      kept[name] = value;
      return 'true';
    },
    LMSCommit: () => String(said.push('commit')),
    LMSFinish: () => String(said.push('finish')),
  };
  return { api, kept, said };
};

it('is found in a frame round it, or round the window that opened it, and nowhere without end', () => {
  const { api } = site();
  const top = { API: api } as unknown as Window;
  Object.assign(top, { parent: top });
  const inner = { parent: { parent: top } } as unknown as Window;
  expect(findApi(inner)).toBe(api);
  const alone = {} as Window;
  Object.assign(alone, { parent: alone, opener: inner });
  expect(findApi(alone)).toBe(api);
  const endless = {} as { parent: unknown };
  endless.parent = { parent: { parent: endless } };
  expect(findApi(endless as unknown as Window)).toBeNull();
  const strange = Object.defineProperty({}, 'API', {
    get: () => {
      throw new Error('another origin');
    },
  }) as Window;
  Object.assign(strange, { parent: strange });
  expect(findApi(strange)).toBeNull();
});

it('tells a site what was watched, and completes it once enough is', () => {
  const { api, kept, said } = site();
  const told = new ToldWatched(api, 10, 0.8);
  expect(kept['cmi.core.lesson_status']).toBe('incomplete');
  told.played([[0, 5]], 5.04);
  expect(kept).toMatchObject({
    'cmi.core.lesson_location': '5.0',
    'cmi.core.score.raw': '50',
    'cmi.core.lesson_status': 'incomplete',
  });
  // Watched again it counts once; a leap to the end is none of it.
  told.played([[0, 5]], 9);
  expect(kept['cmi.core.score.raw']).toBe('50');
  told.played([[5, 8]], 8);
  expect(kept['cmi.core.lesson_status']).toBe('completed');
  told.end(61.25);
  expect([kept['cmi.core.session_time'], said.at(-1)]).toEqual(['0000:01:01.25', 'finish']);
});

it('goes on where somebody was, and takes nothing back', () => {
  const first = site();
  new ToldWatched(first.api, 4_000, 0.8).played(
    [
      [0, 1_200],
      [3_000, 3_100],
    ],
    1_200,
  );
  const again = new ToldWatched(first.api, 4_000, 0.8);
  expect(again.fromS).toBe(1_200);
  expect(again.share).toBeCloseTo(0.325, 5);
  const done = site({ 'cmi.core.lesson_status': 'completed' });
  new ToldWatched(done.api, 10, 0.8).played([[0, 1]], 1);
  expect(done.kept['cmi.core.lesson_status']).toBe('completed');
  // What a site has kept for something else is no reason to fail.
  const odd = site({ 'cmi.suspend_data': 'zz-a 5 - <b>', 'cmi.core.lesson_location': 'NaN' });
  expect([
    new ToldWatched(odd.api, 10, 0.8).share,
    new ToldWatched(odd.api, 10, 0.8).fromS,
  ]).toEqual([0, 0]);
});

it('plays without a site as well', () => {
  const told = new ToldWatched(null, 10, 0.8);
  told.played([[0, 9]], 9);
  told.end(9);
  expect(told.isComplete).toBe(true);
});

it('says times as the standard does', () => {
  expect([0, 3_725.5, 99_999_999].map(asTimespan)).toEqual([
    '0000:00:00.00',
    '0001:02:05.50',
    '9999:46:39.00',
  ]);
});
