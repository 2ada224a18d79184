import { expect, test, type Page } from '@playwright/test';
import type { ClassView } from '@under-chalk/core/contract/classes';
import type { StudentPage } from '@under-chalk/core/contract/student-pages';
import { openBrowser, PHONE } from './browser';
import { fine, fineAtBothSizes } from './checks';
import { setDemo } from './demo';

/** Students read their pages in the language of their browser, or in one that they choose. */

const demo = setDemo();

const openPage = async (page: Page) => {
  const path = '/api/classes/class-coastal-navigation';
  const { students } = await demo.server.ask<ClassView>('GET', path);
  const { id } = students.find(({ name }) => name === 'Noor Halden')!;
  const { key } = await demo.server.ask<StudentPage>('POST', `/api/students/${id}/page`);
  await page.goto(`${demo.server.url}/s/${key}`);
};

const IN = [
  {
    ...{ locale: 'de-DE', lang: 'de', films: 'Videos für Noor Halden', play: 'Abspielen' },
    ...{ task: 'Aufgabe', submit: 'Abgeben', transcript: 'Transkript anzeigen' },
  },
  {
    ...{ locale: 'fr-FR', lang: 'fr', films: 'Vidéos pour Noor Halden', play: 'Lire' },
    ...{ task: 'Devoir', submit: 'Rendre', transcript: 'Afficher la transcription' },
  },
  {
    ...{ locale: 'es-ES', lang: 'es', films: 'Vídeos para Noor Halden', play: 'Reproducir' },
    ...{ task: 'Tarea', submit: 'Entregar', transcript: 'Mostrar transcripción' },
  },
] as const;

for (const { locale, lang, films, play, task, submit, transcript } of IN) {
  test(`a browser in ${locale} shows a student’s pages in that language`, async () => {
    const { page, close, complaints } = await openBrowser({ viewport: PHONE, locale });
    await openPage(page);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(films);
    await expect(page.locator('html')).toHaveAttribute('lang', lang);
    await fine(page);
    await page
      .getByRole('link', { name: /^Week four: welcome/ })
      .first()
      .click();
    await expect(page.getByRole('button', { name: play, exact: true })).toBeVisible();
    await page.getByRole('heading', { name: task }).evaluate((one) => one.scrollIntoView());
    await expect(page.getByRole('button', { name: submit, exact: true })).toBeVisible();
    await page.getByRole('button', { name: transcript }).click();
    await fineAtBothSizes(page);
    expect(complaints).toEqual([]);
    await close();
  });
}

test('a language is chosen on the page, by keys, and holds for the next one', async () => {
  const { page, close } = await openBrowser({ viewport: PHONE });
  await openPage(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Films for Noor Halden');
  await page.getByRole('radio', { name: 'English' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Videos für Noor Halden');
  await expect(page.getByRole('radio', { name: 'Deutsch' })).toBeFocused();
  await expect(page).toHaveTitle('Videos für Noor Halden · Under Chalk');
  await page.goto(`${demo.server.url}/w/${'x'.repeat(22)}`);
  await expect(page.getByText('Unter dieser Adresse gibt es kein Video.')).toBeVisible();
  // Without a connection a language that was not fetched yet leaves the page as it is.
  await page.route('**/fr-*.js', (route) => route.abort());
  await page.getByRole('radio', { name: 'Français' }).click();
  await expect(page.getByText('Unter dieser Adresse gibt es kein Video.')).toBeVisible();
  await page.unroute('**/fr-*.js');
  await page.reload();
  await expect(page.getByText('Il n’y a pas de vidéo à cette adresse.')).toBeVisible();
  // Of two choices the last one counts, also if the other's file comes later.
  let arrive: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (arrive = resolve));
  await page.route('**/es-*.js', async (route) => {
    await held;
    await route.continue();
  });
  const late = page.waitForResponse(/es-\w+\.js$/);
  await page.getByRole('radio', { name: 'Español' }).click();
  await page.getByRole('radio', { name: 'Deutsch' }).click();
  await expect(page.getByText('Unter dieser Adresse gibt es kein Video.')).toBeVisible();
  arrive();
  await (await late).finished();
  await page.waitForTimeout(300);
  await expect(page.getByText('Unter dieser Adresse gibt es kein Video.')).toBeVisible();
  await close();
});
