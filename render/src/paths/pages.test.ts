import { createCanvas } from '@napi-rs/canvas';
import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import type { InkRecord } from '@under-chalk/core/ink/record';
import type { InkLayer } from '@under-chalk/core/scene/layers/ink';
import type { Scene } from '@under-chalk/core/scene/scene';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { loadPages, pagesIn } from './pages';

const size = { widthPx: 1280, heightPx: 720 };
const slide = (page: number) => ({ content: 'a'.repeat(64), page, aspect: 16 / 9 });
const turn = (at: number, page: number | null): InkRecord => ({
  ...{ at, do: 'page', page: `page-${page}-of`, paper: { ruling: 'plain', shade: 'light' } },
  ...(page === null ? {} : { of: slide(page) }),
});
const ink = inkTrackOf([
  turn(0, 0),
  turn(1_000_000, 1),
  { at: 1_500_000, do: 'view', x: 0.2, y: 0.1, zoom: 2 },
  turn(2_000_000, null),
]);
const WHOLE = { x: 0, y: 0, width: 1, height: 1 };
const sceneAt = (sinceUs: number, to = WHOLE): Scene => {
  const layer = {
    kind: 'ink',
    takeId: 'take-one',
    sinceUs,
    from: WHOLE,
    to,
    radius: 0,
    opacity: 1,
  };
  return { still: true, layers: [layer as unknown as InkLayer] } as unknown as Scene;
};

it('finds the pages that scenes show, each as wide as it is shown', () => {
  const scenes = [0, 0, 1_000_000, 1_500_000, 2_000_000].map((us) => sceneAt(us));
  const half = { x: 0, y: 0, width: 0.5, height: 0.5 };
  expect([...pagesIn([...scenes, sceneAt(0, half)], size, () => ink)]).toEqual([
    [slide(0), 1280],
    [slide(1), 1280],
    [slide(1), 2560],
    [slide(0), 640],
  ]);
  expect([...pagesIn(scenes, size, () => null)]).toEqual([]);
});

it('loads each once, as wide as it is shown widest', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-pages-'));
  try {
    const asked: [number, number][] = [];
    const pageOf = await loadPages(
      [
        [slide(0), 100.4],
        [slide(1), 64],
        [slide(0), 320],
        [slide(2), 99_999],
      ],
      async ({ page }, widthPx) => {
        asked.push([page, widthPx]);
        const path = join(folder, `${page}.png`);
        await writeFile(path, await createCanvas(Math.min(widthPx, 400), 9).encode('png'));
        return path;
      },
    );
    expect(asked).toEqual([
      [0, 320],
      [1, 64],
      [2, 3840],
    ]);
    expect(pageOf(slide(0), 1)).toMatchObject({ widthPx: 320, heightPx: 9 });
    expect(pageOf(slide(7), 1)).toBeUndefined();
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
