import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { openBrowser, PHONE, WIDE } from './browser';
import { RealServer, ROOT } from './server';
const what = process.argv.slice(2);
const server = await RealServer.start({});
spawnSync(
  process.execPath,
  [join(ROOT, 'server/dist/seed.js'), server.url, join(ROOT, 'demo/media')],
  { stdio: 'ignore' },
);
const W = 'lesson-week-four-welcome',
  T = 'lesson-reading-a-tide-table';
const sizes: Record<string, { width: number; height: number }> = {
  phone: PHONE,
  wide: WIDE,
  side: { width: 844, height: 390 },
  zoom4: { width: 320, height: 256 },
  zoom2: { width: 195, height: 422 },
};
try {
  for (const spec of what) {
    const [name, size = 'phone'] = spec.split('@');
    const { page, close, complaints } = await openBrowser({ viewport: sizes[size]! });
    const go = async (path: string) => {
      await page.goto(server.url + path);
      await page.waitForTimeout(2500);
    };
    if (name === 'lessons') await go('/');
    if (name === 'ready') {
      await go(`/lessons/${T}/record`);
      await page.waitForTimeout(3000);
    }
    if (name === 'sheet') {
      await go(`/lessons/${T}/record`);
      await page.waitForTimeout(2000);
      await page.getByRole('button', { name: /^With:/ }).click();
      await page.waitForTimeout(500);
    }
    if (name === 'doubt') {
      await go(`/lessons/${T}/record`);
      await page.waitForTimeout(2000);
      await page.getByRole('button', { name: /^With:/ }).click();
      await page.getByRole('radio', { name: 'no microphone' }).click();
      await page.keyboard.press('Escape');
      await page.getByRole('button', { name: /^What to show/ }).click();
      await page.getByRole('radio', { name: /camera alone/ }).click();
      await page.keyboard.press('Escape');
      await page.waitForTimeout(1500);
      await page.getByRole('button', { name: /Start/ }).click();
      await page.waitForTimeout(500);
    }
    if (name === 'recording') {
      await go(`/lessons/${T}/record`);
      await page.waitForTimeout(2000);
      await page.getByRole('button', { name: /^What to show/ }).click();
      await page.getByRole('radio', { name: /practice screen/ }).click();
      const d = page.getByRole('button', { name: 'Done' });
      if (await d.count()) await d.click();
      else await page.getByRole('button', { name: /^What to show/ }).click();
      await page.waitForTimeout(3000);
      await page.getByRole('button', { name: /Start/ }).click();
      await page
        .getByTestId('recorder-sign')
        .filter({ hasText: /^Recording/ })
        .waitFor();
      await page.waitForTimeout(5000);
    }
    if (name === 'more') {
      await go(`/lessons/${T}/record`);
      await page.waitForTimeout(2000);
      await page.getByRole('button', { name: /^What to show/ }).click();
      await page.getByRole('radio', { name: /practice screen/ }).click();
      await page.keyboard.press('Escape');
      await page.waitForTimeout(3000);
      await page.getByRole('button', { name: /Start/ }).click();
      await page
        .getByTestId('recorder-sign')
        .filter({ hasText: /^Recording/ })
        .waitFor();
      await page.getByRole('button', { name: /^More/ }).click();
      await page.waitForTimeout(800);
    }
    if (name === 'tidy') await go(`/lessons/${W}/tidy`);
    if (name === 'tidytable') await go(`/lessons/${T}/tidy`);
    if (name === 'last') await go(`/lessons/${W}/last-look`);
    if (name === 'handout') await go(`/lessons/${W}/hand-out`);
    if (name === 'bin') {
      await server.ask('POST', `/api/bin/lesson/${T}`, undefined);
      await go('/bin');
    }
    if (name === 'you') await go('/you');
    if (name === 'plan') await go(`/lessons/${T}/plan`);
    if (name === 'parts') await go('/parts');
    if (name === 'watch') {
      const [h] = await server.ask<{ token: string; film: { state: string } }[]>(
        'GET',
        `/api/lessons/${W}/hand-outs`,
      );
      for (let i = 0; i < 60; i++) {
        const [n] = await server.ask<{ film: { state: string } }[]>(
          'GET',
          `/api/lessons/${W}/hand-outs`,
        );
        if (n!.film.state === 'done') break;
        await page.waitForTimeout(1000);
      }
      await go(`/w/${h!.token}`);
    }
    await page.screenshot({ path: `/tmp/look-${name}-${size}.png` });
    if (complaints.length) console.log(spec, complaints);
    await close();
  }
} finally {
  await server.remove();
}
