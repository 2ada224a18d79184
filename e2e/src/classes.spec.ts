import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { change, openBrowser, PHONE } from './browser';
import { fine, fineAtBothSizes } from './checks';
import { setStage } from './stage';

/** Classes, and who is in them: brought in from lists, changed, and out again. */

const stage = setStage();

const students = (page: Page) => page.getByRole('list', { name: 'Students' }).getByRole('listitem');
const doWith = async (page: Page, name: string, what: string | RegExp) => {
  await page.getByRole('button', { name: `More to do with ${name}` }).click();
  await page.getByRole('menuitem', { name: what }).click();
};

test('a class is made, and filled from a list that is seen first; students change, leave and come back', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(stage.server.url);
  await page.getByRole('link', { name: 'Classes' }).click();
  await fineAtBothSizes(page);
  const name = 'Coastal navigation';
  // By keys: the name, Enter.
  await page.getByRole('textbox', { name: 'A new class' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await expect(page.getByText('Nobody yet.')).toBeVisible();
  const list = page.getByRole('textbox', { name: 'Bring students in' });
  await list.fill('Okafor, Bram\nCarrow, Ines\nCastellan, Wen');
  await page.getByRole('button', { name: 'Bring 3 students in' }).click();
  await expect(page.getByText('In the class now: 3 new students.')).toBeVisible();
  await expect(students(page)).toHaveText([/Bram Okafor/, /Ines Carrow/, /Wen Castellan/]);
  // Columns that say nothing by themselves are matched by sight.
  await list.fill(
    'A17;Halden;Noor;noor@lantern-quay.example\nA18;Petel;Sunniva;nowhere\nA19;Okafor;Bram;',
  );
  await expect(page.getByText('What its columns say')).toBeVisible();
  await change(page, 'A17, A18.*', 'Leave it out');
  await change(page, 'Halden, Petel.*', 'Family name');
  await change(page, 'Noor, Sunniva.*', 'Given name');
  await expect(page.getByText('Noor Halden', { exact: true })).toBeVisible();
  await change(page, 'noor@.*', 'Address for mail');
  await expect(page.getByText('Noor Halden · noor@lantern-quay.example')).toBeVisible();
  await expect(page.getByText(/^Left out, not an address: A18, Petel/)).toBeVisible();
  await expect(page.getByText('In the class already, or in the list twice: 1.')).toBeVisible();
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Bring one student in' }).click();
  await expect(students(page)).toHaveCount(4);

  await doWith(page, 'Wen Castellan', 'Change name or address');
  await page.getByRole('textbox', { name: 'Address for mail' }).fill('wen');
  await page.getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByText('This can’t be an address, or the name is missing.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Address for mail' }).fill('wen@lantern-quay.example');
  await page.getByRole('button', { name: 'Change it' }).click();
  await expect(students(page).last()).toContainText('wen@lantern-quay.example');
  await doWith(page, 'Ines Carrow', 'Take out of the class');
  const back = page.getByRole('button', { name: 'Bring Ines Carrow back' });
  await expect(back).toBeFocused();
  await expect(students(page)).toHaveCount(3);
  await page.keyboard.press('Enter');
  await expect(students(page)).toHaveCount(4);
  await doWith(page, 'Bram Okafor', 'Erase…');
  await expect(page.getByRole('button', { name: 'Keep Bram Okafor' })).toBeFocused();
  await fineAtBothSizes(page);
  await page.getByRole('button', { name: 'Yes, erase Bram Okafor' }).click();
  await expect(students(page)).toHaveText([/Ines/, /Noor/, /Wen/]);

  // Weeks, in order.
  for (const week of ['Week 2', 'Week 1']) {
    await page.getByRole('textbox', { name: 'Another unit' }).fill(week);
    await page.keyboard.press('Enter');
    await expect(page.getByText(week, { exact: true })).toBeVisible();
  }
  await doWith(page, 'Week 1', 'Move up');
  const units = page.getByRole('list', { name: 'Units or weeks' }).getByRole('listitem');
  await expect(units).toHaveText([/Week 1/, /Week 2/]);
  // Its e-mails are in another language, by keys.
  await doWith(page, name, 'E-mail language and time zone');
  await expect(page.getByRole('group', { name: 'E-mails to the class' })).toBeFocused();
  await expect(page.getByText(/^Time zone of e-mails: /)).toBeVisible();
  await page.getByRole('radio', { name: 'English' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'Deutsch' })).toBeChecked();
  await fineAtBothSizes(page);
  await expect
    .poll(
      async () =>
        (await stage.server.ask<{ mail?: { language: string } }[]>('GET', '/api/classes'))[0]?.mail
          ?.language,
    )
    .toBe('de');
  await page.getByRole('button', { name: 'Done with e-mail settings' }).click();
  // All of it is kept; taken away, the class comes back whole.
  await page.reload();
  await expect(units).toHaveText([/Week 1/, /Week 2/]);
  await doWith(page, name, 'Take it away');
  const whole = page.getByRole('button', { name: 'Restore' });
  await expect(whole).toBeFocused();
  await whole.click();
  await expect(students(page)).toHaveCount(3);
  // Lessons are offered its name.
  await page.goto(stage.server.url);
  await page.getByRole('textbox', { name: /next lesson teach/ }).fill('Tides');
  await page.keyboard.press('Enter');
  const field = page.getByLabel('Class', { exact: true });
  const offered = () =>
    field.evaluate((input: HTMLInputElement) =>
      [...(input.list?.options ?? [])].map(({ value }) => value),
    );
  await expect.poll(offered).toContain(name);
  expect(complaints).toEqual([]);
  await close();
});

test('lists go out as CSV and as a roster, and a roster brings its classes in; what is none is said', async () => {
  const { server, folder } = stage;
  const seed = async (id: string, name: string, people: readonly string[]) => {
    await server.ask('POST', '/api/classes', { id, name, units: [] });
    const coming = people.map((one) => ({
      name: one,
      address: `${one.split(' ')[0]}@quay.example`,
    }));
    await server.ask('POST', `/api/classes/${id}/students`, { students: coming });
  };
  await seed('class-knots', 'Knots', ['Pia Sorrell', 'Idris Falk']);
  await seed('class-lights', 'Lights & marks', ['Tomas Wray', 'Pia Sorrell']);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  const saved = async (press: () => Promise<void>, name: string) => {
    const [download] = await Promise.all([page.waitForEvent('download'), press()]);
    const path = join(folder, name);
    await download.saveAs(path);
    return { path, named: download.suggestedFilename() };
  };
  await page.goto(`${server.url}/classes/class-knots`);
  const list = await saved(() => doWith(page, 'Knots', 'Save the list (CSV)'), 'knots.csv');
  expect(list.named).toBe('Knots.csv');
  expect(await readFile(list.path, 'utf8')).toBe(
    'name,email\r\nIdris Falk,Idris@quay.example\r\nPia Sorrell,Pia@quay.example\r\n',
  );
  await expect(students(page).last()).toContainText('also in Lights & marks');
  await page.goto(`${server.url}/classes`);
  const all = await saved(
    () => page.getByRole('button', { name: /^Save all classes as a roster/ }).click(),
    'classes.zip',
  );
  // It is an archive like any other.
  const files = execFileSync('python3', ['-m', 'zipfile', '-l', all.path]).toString();
  for (const name of ['manifest.csv', 'users.csv', 'enrollments.csv', 'classes.csv'])
    expect(files).toContain(name);

  // Brought in where one class is gone and the other has lost somebody.
  await server.ask('POST', '/api/classes/class-knots/delete', {});
  const lights = await server.ask<{ students: { id: string; name: string }[] }>(
    'GET',
    '/api/classes/class-lights',
  );
  const tomas = lights.students.find(({ name }) => name === 'Tomas Wray')!;
  await server.ask('POST', `/api/students/${tomas.id}/erase`, {});
  await page.reload();
  const choose = page.locator('input[type=file]');
  await choose.setInputFiles(all.path);
  await expect(
    page.getByText(/^Lights & marks: 2 students, into the class that is there$/),
  ).toBeVisible();
  await expect(page.getByText(/^Knots: 2 students$/)).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: 'Bring them in' }).click();
  const rows = page.getByRole('list', { name: 'Classes' }).getByRole('listitem');
  await expect(rows.filter({ hasText: 'Knots' })).toContainText('2 students');
  await expect(rows.filter({ hasText: 'Lights & marks' })).toContainText('2 students');
  // A damaged archive, and one of something else.
  const spoilt = join(folder, 'spoilt.zip');
  await writeFile(spoilt, (await readFile(all.path)).subarray(0, 200));
  for (const path of [spoilt, list.path]) {
    await choose.setInputFiles(path);
    await expect(page.getByText('No classes could be found in that file.')).toBeVisible();
  }
  await expect(rows.filter({ hasText: 'Knots' })).toHaveCount(1);
  expect(complaints).toEqual([]);
  await close();
});
