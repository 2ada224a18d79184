import { expect, test, type Page } from '@playwright/test';
import type { ShareLink } from '@under-chalk/core/contract/share-links';
import type { Watched } from '@under-chalk/core/contract/watched';
import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { openBrowser, PHONE, WIDE } from './browser';
import { readCode } from './code';
import { fine, fineAtBothSizes } from './checks';
import { setDemo, TABLE, WELCOME } from './demo';

/** Who may watch: students' own pages, and links that are for some alone. */

const demo = setDemo();
const CLASS = 'class-coastal-navigation';
const CLASS_NAME = 'Coastal navigation for beginners';

const doWith = async (page: Page, name: string, what: string | RegExp) => {
  await page
    .getByRole('button', { name: `More to do with ${name}` })
    .first()
    .click();
  await page.getByRole('menuitem', { name: what }).click();
};
const at = (page: Page, path: string) => page.goto(demo.server.url + path);
const ends = async (page: Page) => (await page.getByTestId('page-address').textContent())!;
/** Opens the sheet about a student's page. @returns its address */
const sheetOf = async (page: Page, name: string): Promise<string> => {
  await at(page, `/classes/${CLASS}`);
  await doWith(page, name, 'Their page…');
  await expect(page.getByRole('dialog', { name: `The page of ${name}` })).toBeVisible();
  return ends(page);
};

test('a lesson is handed out to a class alone, and each student finds it on a page of their own', async () => {
  const teacher = await openBrowser({ viewport: PHONE });
  const { page } = teacher;
  await at(page, `/lessons/${TABLE}/hand-out`);
  await page.getByText('Who may watch').first().waitFor();
  await page.getByRole('button', { name: /^Who may watch/ }).click();
  // A lesson of a class is for the class until somebody else is chosen; never for nobody.
  const theClass = page.getByRole('checkbox', { name: `The class ${CLASS_NAME}: 8 students` });
  await expect(theClass).toBeChecked();
  await expect(theClass).toBeDisabled();
  const anyone = page.getByRole('checkbox', { name: /^Anyone with the link/ });
  await expect(anyone).not.toBeChecked();
  await anyone.focus();
  await page.keyboard.press('Space');
  await expect(anyone).toBeChecked();
  await page.keyboard.press('Space');
  await expect(anyone).not.toBeChecked();
  await expect(theClass).toBeDisabled();
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await page.getByRole('button', { name: 'Hand it out', exact: true }).click();
  await expect(page.getByText(`On the pages of the class ${CLASS_NAME}`).first()).toBeVisible();
  await expect(page.getByText('0 of 8 have opened it.').first()).toBeVisible();
  const [link] = await demo.server.ask<ShareLink[]>('GET', `/api/lessons/${TABLE}/share-links`);
  const address = await sheetOf(page, 'Bram Okafor');
  await fineAtBothSizes(page);
  // The code on the screen leads there too.
  expect(readCode(await page.getByTestId('wall-code').screenshot())).toBe(address);

  const bram = await openBrowser({ viewport: PHONE });
  await bram.page.goto(address);
  await expect(bram.page.getByRole('heading', { level: 1 })).toHaveText('Films for Bram Okafor');
  await fineAtBothSizes(bram.page);
  const film = bram.page.getByRole('link', { name: /^Reading a tide table.*New$/ }).first();
  await film.click();
  await expect(bram.page.getByRole('heading', { level: 1 })).toHaveText('Reading a tide table');
  await bram.page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => bram.page.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(3.2);
  await expect(
    bram.page.getByText('can see how much of this film you have watched.'),
  ).toBeVisible();
  await bram.page.goBack();
  await expect(
    bram.page.getByRole('link', { name: /^Reading a tide table.*Opened$/ }).first(),
  ).toBeVisible();

  // Whoever has the link of the link alone is told so, and nothing else.
  const stranger = await openBrowser({ viewport: PHONE });
  await stranger.page.goto(`${demo.server.url}/w/${link!.token}`);
  await expect(stranger.page.getByText('This film is for certain students.')).toBeVisible();
  expect(await stranger.page.content()).not.toContain('tide');
  await fineAtBothSizes(stranger.page);

  await at(page, `/lessons/${TABLE}/hand-out`);
  await expect(page.getByText('1 of 8 have opened it.').first()).toBeVisible();
  await page.getByRole('button', { name: 'Viewers' }).first().click();
  const list = page.getByRole('list', { name: 'Viewers' });
  await expect(list.getByRole('listitem')).toHaveCount(8);
  await expect(list.getByRole('listitem').last()).toHaveText(/Bram Okafor.*Opened /);
  // What he watched is told when he leaves the page.
  await expect(list.getByRole('listitem').last()).toHaveText(/Watched \d+ %, as far as 0:0\d/);
  await expect(page.getByRole('img', { name: /^1 of 8 have begun it/ })).toBeVisible();
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a table (CSV)' }).click();
  expect(await readFile(await (await saving).path(), 'utf8')).toMatch(/Bram Okafor,2\d{3}-/);
  // Who was ill has longer.
  await doWith(page, 'Ines Carrow', 'Until another day…');
  await page.getByLabel('Closes for Ines Carrow').fill('2031-01-31T18:00');
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Keep this time' }).click();
  await expect(page.getByText(/^For Ines Carrow until Friday 31 January/)).toBeVisible();
  await fineAtBothSizes(page);
  await demo.server.ask('DELETE', `/api/share-links/${link!.id}`);
  for (const one of [teacher, bram, stranger]) {
    expect(one.complaints.filter((text) => !text.includes('403'))).toEqual([]);
    await one.close();
  }
});

test('an address can ask for a PIN, be renewed, and be taken away and given back', async () => {
  const teacher = await openBrowser({ viewport: PHONE });
  const { page } = teacher;
  const address = await sheetOf(page, 'Wen Castellan');
  await page.getByRole('checkbox', { name: /^Ask for a PIN/ }).click();
  const number = (await page.getByTestId('page-pin').textContent())!;
  expect(number).toMatch(/^\d{6}$/);
  await fine(page);

  const wen = await openBrowser({ viewport: PHONE });
  await wen.page.goto(address);
  const field = wen.page.getByRole('textbox', { name: /^Six-digit PIN/ });
  await fine(wen.page);
  await field.fill(number === '123456' ? '654321' : '123456');
  await wen.page.keyboard.press('Enter');
  await expect(wen.page.getByText('That PIN is wrong.')).toBeVisible();
  await fine(wen.page);
  // As it is often written down.
  await field.fill(`${number.slice(0, 3)} ${number.slice(3)}`);
  await wen.page.getByRole('button', { name: 'Open page' }).click();
  await expect(wen.page.getByRole('heading', { level: 1 })).toHaveText('Films for Wen Castellan');
  await wen.page.reload();
  const film = wen.page.getByRole('link', { name: /^Week four: welcome/ });
  await expect(film).toBeVisible();
  const filmAt = (await film.getAttribute('href'))!;
  // Another browser with the film's address is asked first.
  const other = await openBrowser({ viewport: PHONE });
  await other.page.goto(demo.server.url + filmAt);
  await expect(other.page.getByText('This page needs a PIN.')).toBeVisible();
  await other.close();

  await page.getByRole('button', { name: 'Take the page away' }).click();
  await expect(page.getByText(/^The page is taken away\./)).toBeVisible();
  await wen.page.reload();
  await expect(wen.page.getByText('This page no longer exists.')).toBeVisible();
  await fine(wen.page);
  await page.getByRole('button', { name: 'Give it back' }).click();
  await expect(page.getByTestId('page-address')).toHaveText(address);
  await wen.page.reload();
  await expect(film).toBeVisible();
  await page.getByRole('button', { name: 'Give a new address' }).click();
  await page.getByRole('button', { name: 'Yes, a new address' }).click();
  await expect(page.getByTestId('page-address')).not.toHaveText(address);
  await wen.page.reload();
  await expect(wen.page.getByText('This page no longer exists.')).toBeVisible();
  await wen.page.goto(demo.server.url + filmAt);
  await expect(wen.page.getByText('There is no film at this address.')).toBeVisible();
  await wen.close();
  await teacher.close();
});

test('those whom it is for are written to, one each, and reminded', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await at(page, `/lessons/${WELCOME}/hand-out`);
  await doWith(page, 'this link', 'Send e-mail…');
  const note = 'Before Thursday, please.';
  await page.getByRole('textbox', { name: 'What you want to say' }).fill(note);
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: /^Send 8 e-mails/ }).click();
  const mails = page.getByRole('list', { name: 'E-mails' }).getByRole('listitem');
  await expect(mails).toHaveCount(8);
  for (const mail of await mails.all()) await expect(mail).toHaveText(/Sent /);
  await expect(page.getByRole('button', { name: 'Send 8 e-mails once more' })).toBeVisible();
  await page.getByRole('link', { name: 'Test inbox' }).click();
  const mine = page
    .getByRole('list', { name: 'E-mails' })
    .getByRole('listitem')
    .filter({ hasText: note });
  await expect(mine).toHaveCount(8);
  await fineAtBothSizes(page);
  // What is in a student's e-mail leads to their film and to their page, and nobody else is in it.
  const tomas = mine.filter({ hasText: 'Hello Tomas Wray,' });
  expect(await tomas.innerText()).not.toMatch(/Bram|Pia|Wen/);
  const [film, own] = await tomas.getByRole('link').all();
  const student = await openBrowser({ viewport: PHONE });
  await student.page.goto((await film!.getAttribute('href'))!);
  await expect(student.page.getByRole('heading', { level: 1 })).toHaveText('Week four: welcome');
  await student.page.getByRole('button', { name: 'Play', exact: true }).click();
  await student.page.goto((await own!.getAttribute('href'))!);
  await expect(student.page.getByRole('heading', { level: 1 })).toHaveText('Films for Tomas Wray');
  await student.close();
  // Students who opened it or submitted something get no reminder.
  await at(page, `/lessons/${WELCOME}/hand-out`);
  await doWith(page, 'this link', 'Send e-mail…');
  await page.getByRole('radio', { name: 'Students who haven’t opened it' }).click();
  await expect(page.getByRole('button', { name: /^Send 5 e-mails/ })).toBeVisible();
  expect(complaints).toEqual([]);
  await close();
});

test('a mail server is given, tried and forgotten', async () => {
  const { page, close } = await openBrowser({ viewport: PHONE });
  await at(page, '/you');
  await page.getByRole('button', { name: 'Add mail server' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Enter a valid e-mail address.')).toBeVisible();
  await fineAtBothSizes(page);
  await page.getByRole('textbox', { name: 'Your e-mail address' }).fill('om@lantern-quay.example');
  await page.getByRole('textbox', { name: 'Mail server' }).fill('127.0.0.1');
  await page.getByRole('radio', { name: 'STARTTLS' }).click();
  // Nobody listens there.
  await page.getByRole('textbox', { name: 'Port' }).fill('9');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(/sent by 127\.0\.0\.1, from om@/)).toBeVisible();
  await page.getByRole('button', { name: /^Send a test e-mail/ }).click();
  await expect(page.getByText('The mail server did not take it.')).toBeVisible();
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Remove mail server' }).click();
  await expect(page.getByText(/go to the test inbox and don’t leave/)).toBeVisible();
  await close();
});

test('a class has a page for its course’s site, and one frame that always shows what is on now', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await at(page, `/classes/${CLASS}`);
  await doWith(page, CLASS_NAME, 'The class’s page…');
  const address = await ends(page);
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: /^Copy the code that shows/ }).click();
  await expect(page.getByText('Copied.')).toBeVisible();
  const code = await page.evaluate(() => navigator.clipboard.readText());
  expect(code).toContain(`${address}/now`);
  const visitor = await openBrowser({ viewport: PHONE });
  await visitor.page.goto(address);
  await expect(visitor.page.getByRole('heading', { level: 1 })).toHaveText(CLASS_NAME);
  await expect(visitor.page.getByRole('link', { name: /^Week four: welcome/ })).toBeVisible();
  await expect(visitor.page.getByText('New', { exact: true })).toHaveCount(0);
  await fineAtBothSizes(visitor.page);
  // In a page of another site: the player alone, with the film that was put up last.
  const site = createServer((_, answer) => {
    answer.setHeader('Content-Type', 'text/html');
    answer.end(`<!doctype html><title>Our course</title>${code}`);
  }).listen(0, '127.0.0.1');
  await once(site, 'listening');
  const course = `http://127.0.0.1:${(site.address() as AddressInfo).port}/`;
  const frame = visitor.page.frameLocator('iframe');
  await visitor.page.goto(course);
  await expect(frame.getByRole('main', { name: 'Week four: welcome' })).toBeVisible();
  await frame.getByRole('button', { name: 'Play', exact: true }).click();
  await expect
    .poll(() => frame.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(0.3);
  const { id } = await demo.server.ask<ShareLink>('POST', `/api/lessons/${TABLE}/share-links`, {
    size: '720p',
    grants: [{ grantee: { is: 'class', classId: CLASS } }],
  });
  await visitor.page.goto(course);
  await expect(frame.getByRole('main', { name: 'Reading a tide table' })).toBeVisible();
  await demo.server.ask('DELETE', `/api/share-links/${id}`);
  await page.getByRole('button', { name: 'Take the page away' }).click();
  await expect(page.getByText(/^The page is taken away\./)).toBeVisible();
  await visitor.page.goto(course);
  await expect(frame.getByText('This page no longer exists.')).toBeVisible();
  await page.getByRole('button', { name: 'Give it back' }).click();
  await expect(page.getByTestId('page-address')).toHaveText(address);
  expect(complaints).toEqual([]);
  site.closeAllConnections();
  site.close();
  await visitor.close();
  await close();
});

test('what is watched while the line is away is told when it is back, and counts once', async () => {
  const [link] = await demo.shareLinks();
  const { page, close } = await openBrowser({ viewport: PHONE });
  const before = await demo.server.ask<Watched>('GET', `/api/share-links/${link!.id}/watched`);
  let away = true;
  let lost = 0;
  await page.route('**/played', async (route) => {
    if (!away) return route.continue();
    // The server has it, and the page doesn't hear of that.
    if (lost++ > 0) await route.fetch();
    await route.abort();
  });
  await page.goto(`${demo.server.url}/w/${link!.token}`);
  await expect(page.getByText('Views are counted without names.')).toBeVisible();
  const play = page.getByRole('button', { name: 'Play', exact: true });
  const pause = page.getByRole('button', { name: 'Pause', exact: true });
  await play.click();
  const atS = () => page.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect.poll(atS).toBeGreaterThan(2.2);
  await pause.click();
  await expect.poll(() => lost).toBeGreaterThan(0);
  await play.click();
  await expect.poll(atS).toBeGreaterThan(4.2);
  await pause.click();
  await expect.poll(() => lost).toBeGreaterThan(1);
  away = false;
  await play.click();
  await expect.poll(atS).toBeGreaterThan(5.2);
  await pause.click();
  const now = () => demo.server.ask<Watched>('GET', `/api/share-links/${link!.id}/watched`);
  await expect
    .poll(async () => (await now()).curve.watched.slice(0, 5))
    .toEqual(before.curve.watched.slice(0, 5).map((many) => many + 1));
  // Nobody went back, however often it was told.
  expect((await now()).curve.again).toEqual(before.curve.again);
  await close();
});

test('who may watch a link that is there is changed, and counts at once', async () => {
  const teacher = await openBrowser({ viewport: WIDE });
  const { page } = teacher;
  await at(page, `/lessons/${WELCOME}/hand-out`);
  const watch = await demo.watchPath();
  const student = await openBrowser({ viewport: PHONE });
  await student.page.goto(demo.server.url + watch);
  await expect(student.page.getByRole('heading', { level: 1 })).toHaveText('Week four: welcome');
  await doWith(page, 'this link', 'Who may watch…');
  await page.getByRole('checkbox', { name: 'Ines Carrow' }).click();
  await expect(page.getByRole('checkbox', { name: 'Ines Carrow' })).toBeChecked();
  await page.getByRole('checkbox', { name: /^The class/ }).click();
  await expect(page.getByRole('checkbox', { name: /^The class/ })).not.toBeChecked();
  await page.getByRole('checkbox', { name: /^Anyone with the link/ }).click();
  await expect(page.getByText('On the pages of Ines Carrow')).toBeVisible();
  await fine(page);
  await student.page.reload();
  await expect(student.page.getByText('This film is for certain students.')).toBeVisible();
  const address = await sheetOf(page, 'Ines Carrow');
  await student.page.goto(address);
  await expect(student.page.getByRole('link', { name: /^Week four: welcome/ })).toBeVisible();
  await student.close();
  await teacher.close();
});
