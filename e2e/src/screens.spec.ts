import { expect, test } from '@playwright/test';
import { openBrowser, PHONE, WIDE } from './browser';
import { beside, covered, drawn, overhang, tooSmall, violations } from './checks';
import { setDemo, TABLE, WELCOME } from './demo';

/** Every screen at the sizes and in the light that people have. */

const demo = setDemo();
const { openAt, watchPath } = demo;

const PAGES: [name: string, path: () => Promise<string>, ready: string][] = [
  ['Lessons', async () => '/', 'Reading a tide table'],
  ['Bin', async () => '/bin', 'The bin is empty.'],
  ['Storage', async () => '/storage', 'Lessons by size'],
  ['You', async () => '/you', 'This is the demo'],
  ['Parts', async () => '/parts', 'Every part'],
  ['Plan', async () => `/lessons/${TABLE}/plan`, 'Where does it go?'],
  ['Record', async () => `/lessons/${TABLE}/record`, 'Takes'],
  ['Tidy', async () => `/lessons/${WELCOME}/tidy`, 'Take 1'],
  ['Last look', async () => `/lessons/${WELCOME}/last-look`, 'Before students see it'],
  ['Words', async () => `/lessons/${WELCOME}/words`, 'Captions in'],
  ['Hand out', async () => `/lessons/${WELCOME}/hand-out`, 'Ready.'],
  ['Watch', watchPath, 'Ottilie Marsh'],
  ['Nothing here', async () => '/no/such/page', 'There is nothing here.'],
];

const SIZES = [
  ['a phone', PHONE, 'rules'],
  ['a wide screen', WIDE, 'rules'],
  ['a phone held sideways', { width: 844, height: 390 }, 'covers'],
  ['a phone at 200 %', { width: 195, height: 422 }, 'covers'],
  ['a screen at 400 %', { width: 320, height: 256 }, 'covers'],
] as const;

for (const [name, path, ready] of PAGES) {
  test(`nothing is covered, pushed aside or hard to read: ${name}`, async () => {
    const { page, close, complaints } = await openBrowser({});
    await openAt(page, await path(), ready);
    for (const [size, viewport, check] of SIZES) {
      await page.setViewportSize(viewport);
      await drawn(page);
      // What is covered differs by the size.
      if (check === 'rules') expect([size, await violations(page)]).toEqual([size, []]);
      else expect([size, await covered(page)]).toEqual([size, []]);
      expect([size, await overhang(page)]).toEqual([size, 0]);
      expect([size, await tooSmall(page)]).toEqual([size, []]);
      expect([size, await beside(page)]).toEqual([size, []]);
    }
    expect(complaints).toEqual([]);
    await close();
  });
}

test('a student fills the screen with the whole player, and gets out by a press', async () => {
  const { page, close } = await openBrowser({ viewport: WIDE });
  await openAt(page, await watchPath(), 'Ottilie Marsh');
  await page.getByRole('button', { name: 'Full screen' }).click();
  const leave = page.getByRole('button', { name: 'Exit full screen' });
  await expect(leave).toBeVisible();
  const video = (await page.locator('video').boundingBox())!;
  const bar = (await leave.boundingBox())!;
  expect(video.height).toBeGreaterThan(500);
  expect(bar.y + bar.height).toBeLessThanOrEqual(800);
  await leave.click();
  await expect(page.getByRole('button', { name: 'Full screen' })).toBeVisible();
  // A picture in its own shape: no bars at its sides.
  const shown = (await page.locator('video').boundingBox())!;
  expect(shown.width / shown.height).toBeCloseTo(16 / 9, 1);
  await close();
});

test('what a link leads to can be read without script', async () => {
  const html = await (await fetch(demo.server.url + (await watchPath()))).text();
  expect(html).toContain('<h1>Week four: welcome</h1>');
  expect(html).toMatch(/<meta property="og:image" content="http[^"]+\/cover\.jpg"/);
  const gone = await fetch(`${demo.server.url}/w/AAAAAAAAAAAAAAAAAAAAAA`);
  expect([gone.status, (await gone.text()).includes('There is no film at this address')]).toEqual([
    404,
    true,
  ]);
});
