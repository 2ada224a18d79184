import { expect, test, type Page } from '@playwright/test';
import { filmOf } from '@under-chalk/core/film/film';
import { cuesIn, languagesOf, type Cue } from '@under-chalk/core/words/cue';
import { doubtsOf } from '@under-chalk/core/words/checks';
import { filmCuesOf } from '@under-chalk/core/words/film-cues';
import { readWebVtt } from '@under-chalk/core/words/files/web-vtt';
import { execFileSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { openBrowser, PHONE, saveFilm, WIDE, within } from './browser';
import { fine } from './checks';
import { setDemo, TABLE, WELCOME } from './demo';
import { tonesStrength } from './media';
import { setStage } from './stage';

/** Captions: typed, pasted, brought in; mended, struck out, found, and read where students watch. */

const demo = setDemo();
const stage = setStage();

const captions = async (id = TABLE, language = 'en'): Promise<Cue[]> =>
  cuesIn((await demo.server.lesson(id)).decisions.cues, language);
const texts = async (id = TABLE, language = 'en') =>
  (await captions(id, language)).map(({ text }) => text.replace('\n', ' '));
const wordsOf = (id: string) => `/lessons/${id}/words`;
/** Takes all captions away, in whatever language an earlier test left some. */
const clear = async (id = TABLE) => {
  const { cues, language: spoken } = (await demo.server.lesson(id)).decisions;
  for (const language of languagesOf(cues, spoken)) {
    const gone = cuesIn(cues, language).map((cue) => cue.id);
    if (gone.length > 0) await demo.server.edit(id, { do: 'write-cues', language, cues: [], gone });
  }
};

const SAID = `Good evening. This is the tide table for Lantern Quay.
Every line is one day. The first column is the day itself.
Then come the times of high water, and beside each time its height in metres.
So on Tuesday high water is at nine. No, sorry, that is the wrong line.
The moon pulls at all the water of the sea.
On Tuesday high water is a little before four, at five and a half metres.`;

test('pasted on a phone, put in time with the voice, mended and made right', async () => {
  await clear();
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, wordsOf(TABLE), 'No captions yet');
  await fine(page);
  await page.getByRole('button', { name: 'Paste words' }).click();
  await page.getByLabel('All that is said in the film').fill(SAID);
  await fine(page);
  await page.getByRole('button', { name: 'Make captions of it' }).click();
  await expect(page.getByRole('button', { name: /^Caption 1, at/ })).toBeVisible();
  await expect
    .poll(async () => (await captions()).every(({ timed }) => timed === 'roughly'))
    .toBe(true);

  await page.getByRole('button', { name: 'Put the captions in time with the voice' }).click();
  const told = page.getByText(/were heard\. One was not heard in the film\./);
  await expect(told).toBeVisible({ timeout: 120_000 });
  await fine(page);
  // Nothing is moved before it is wanted.
  expect((await captions()).every(({ timed }) => timed === 'roughly')).toBe(true);
  await page.getByRole('button', { name: 'Use these times' }).click();
  await expect
    .poll(async () => (await captions()).filter(({ timed }) => timed === 'by-voice').length)
    .toBeGreaterThan(5);
  const facts = JSON.parse(
    await readFile(
      join(process.env['UNDER_CHALK_ROOT'] ?? '.', 'demo/media/tide-table.json'),
      'utf8',
    ),
  ) as { startsUs: number[] };
  const [first, second] = await captions();
  expect(Math.abs(first!.startUs - facts.startsUs[0]!)).toBeLessThan(80_000);
  expect(Math.abs(second!.startUs - facts.startsUs[1]!)).toBeLessThan(80_000);
  const unheard = page.getByRole('button', { name: /The moon pulls.*not heard in the film/ });
  await unheard.scrollIntoViewIfNeeded();
  await expect(unheard).toBeVisible();

  // The one that was opened is shown over the picture; it is mended, divided and joined.
  await page.getByRole('button', { name: /^Caption 1, at/ }).click();
  await expect(page.getByTestId('caption-over')).toContainText('Good evening.');
  await fine(page);
  const field = page.getByLabel('Words of caption 1');
  await field.fill('Good evening, all. This is the tide table for Lantern Quay.');
  await field.press('Control+Home');
  for (let press = 0; press < 18; press++) await field.press('ArrowRight');
  await field.press('Control+Enter');
  await expect
    .poll(async () => (await texts()).slice(0, 2))
    .toEqual(['Good evening, all.', 'This is the tide table for Lantern Quay.']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Redo' }).click();
  await page.getByRole('button', { name: 'Join the next' }).click();
  await expect
    .poll(async () => (await texts())[0])
    .toBe('Good evening, all. This is the tide table for Lantern Quay.');
  await page
    .getByRole('button', { name: 'Take the caption 1 away' })
    .or(page.getByRole('button', { name: 'Take caption 1 away' }))
    .click();
  await expect.poll(async () => (await texts())[0]).toMatch(/^Every line/);
  await page.getByRole('button', { name: 'Undo' }).click();

  const makeRight = page.getByRole('button', { name: 'Make it right' });
  if (await makeRight.isVisible()) {
    await makeRight.click();
    const film = filmOf(await demo.server.lesson(TABLE));
    await expect
      .poll(async () =>
        doubtsOf(filmCuesOf(film, await captions()))
          .flat()
          .filter((doubt) => doubt !== 'too-fast'),
      )
      .toEqual([]);
  }
  expect(complaints).toEqual([]);
  await close();
});

test('a draft by machine says that it is one, is spelled as the course does, and is looked through caption by caption', async () => {
  // Half a minute of CPU time, many times that on a busy machine.
  test.setTimeout(400_000);
  await clear();
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, wordsOf(TABLE), 'No captions yet');
  await page.getByRole('button', { name: 'Draft by machine' }).click();
  await expect(page.getByText(/^A draft of \d+ captions\.$/)).toBeVisible({ timeout: 300_000 });
  await fine(page);
  // Nothing of it is in the lesson before it is wanted.
  expect(await captions()).toEqual([]);
  await page.getByRole('button', { name: 'Mend this draft' }).click();
  await expect.poll(async () => (await captions()).length).toBeGreaterThan(3);
  expect((await captions()).every(({ draft }) => draft)).toBe(true);
  await fine(page);
  await page.getByRole('button', { name: /^Caption 1, at/ }).click();
  await page.getByRole('button', { name: 'Caption 1 is right as it is' }).click();
  await expect.poll(async () => (await captions())[0]!.draft).toBe(false);
  const field = page.getByLabel('Words of caption 2');
  await page.getByRole('button', { name: /^Caption 2, at/ }).click();
  await field.fill('Every line is one day.');
  await field.press('Tab');
  await expect
    .poll(async () => (await captions())[1])
    .toMatchObject({
      ...{ text: 'Every line is one day.', draft: false },
    });
  await clear();
  expect(complaints).toEqual([]);
  await close();
});

test('typed by keys at 60 words a minute: the film waits, goes on, and nothing that is typed is lost', async () => {
  await clear();
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await demo.openAt(page, wordsOf(TABLE), 'No captions yet');
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  const at = async () => Number(await slider.inputValue());
  const press = async (name: string) => {
    await page.getByRole('button', { name, exact: true }).focus();
    await page.keyboard.press('Enter');
  };
  await press('Type as you listen');
  const field = page.getByRole('textbox', { name: 'What is said' });
  await expect(field).toBeFocused();
  await press('Listen');
  await expect.poll(at).toBeGreaterThan(2_500_000);
  await field.focus();
  // Five signs a word: a press each 200 ms.
  const words = 'Good evening. This is the tide table ';
  await page.keyboard.type(words.slice(0, 12), { delay: 200 });
  const stood = await at();
  await page.keyboard.type(words.slice(12), { delay: 200 });
  // It has stood still while there were presses all along.
  expect(await at()).toBe(stood);
  await expect(page.getByText('It waits while you type.')).toBeVisible();
  await expect.poll(async () => texts()).toEqual(['Good evening.']);
  // When the typing pauses it goes on.
  await expect.poll(at).toBeGreaterThan(stood + 300_000);
  await page.keyboard.type('for', { delay: 200 });
  const before = await at();
  await page.keyboard.press('Escape');
  await expect.poll(at).toBeLessThan(before - 1_500_000);
  await page.keyboard.type(' Lantern Quay', { delay: 60 });
  // A tab that is closed in the middle of a word.
  await page.reload();
  await page.getByRole('button', { name: 'Type on as you listen' }).click();
  await expect(field).toHaveValue('This is the tide table for Lantern Quay');
  await field.press('End');
  await page.keyboard.type('.');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => texts())
    .toEqual(['Good evening.', 'This is the tide table for Lantern Quay.']);
  await fine(page);
  await press('Done typing');
  for (const cue of await captions()) {
    expect(cue.timed).toBe('by-hand');
    expect(cue.endUs).toBeLessThan(7_000_000);
  }
  expect(complaints).toEqual([]);
  await close();
});

test('from a file: what is in it is told before it is used, and what is none is told in a sentence', async () => {
  await clear();
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await demo.openAt(page, wordsOf(TABLE), 'No captions yet');
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel('File with words').setInputFiles({ name, mimeType: 'text/vtt', buffer });
  const never = () => page.getByRole('button', { name: 'Never mind' }).click();
  const refused: [string, Buffer, RegExp][] = [
    ['heavy.vtt', Buffer.alloc(10_000_000, 'a'), /more words in this file than any lesson has/],
    [
      'film.vtt',
      Buffer.from(Uint8Array.from({ length: 4_000 }, (_, n) => (n * 31) % 256)),
      /No words can be read/,
    ],
    [
      'bomb.ttml',
      Buffer.from(
        '<!DOCTYPE tt [<!ENTITY a "a">]><tt><body><p begin="0s" end="1s">&a;</p></body></tt>',
      ),
      /No words can be read/,
    ],
    ['empty.srt', Buffer.from('\n\n'), /no words in this file/],
  ];
  for (const [name, bytes, sentence] of refused) {
    await choose(name, bytes);
    await expect(page.getByText(sentence)).toBeVisible();
    await never();
  }
  const vtt = `WEBVTT\n\n00:05.000 --> 00:04.000\nbackwards\n\n00:01.000 --> 00:02.900\n<script>alert(1)</script><v Ines>Good evening.</v>\n\n00:04.400 --> 00:05.600\nEvery line\nis one day.\n\n01:00:00.000 --> 01:00:02.000\nlong after`;
  await choose('tide table.vtt', Buffer.from(vtt));
  await expect(
    page.getByText(
      /3 captions \(WebVTT\).*One of them ends before it begins.*1 of them come after the end/,
    ),
  ).toBeVisible();
  await fine(page);
  expect(await texts()).toEqual([]);
  // Whoever looks at something else first finds it again.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('list', { name: 'Phrases of take 1' }).waitFor();
  await page.getByRole('link', { name: 'Words' }).click();
  await page.getByRole('button', { name: 'Use them in English' }).click();
  await expect
    .poll(async () => texts())
    .toEqual(['alert(1)Good evening.', 'Every line is one day.', 'long after']);
  const [one, two] = await captions();
  expect([one!.startUs, one!.endUs, two!.startUs]).toEqual([1_000_000, 2_900_000, 4_400_000]);

  // Out again, as it was; and in a second language, under the first.
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'More to do with the captions' }).click();
  await page.getByRole('menuitem', { name: 'Save as WebVTT' }).click();
  const out = join(stage.folder, 'out.vtt');
  await (await saving).saveAs(out);
  expect(readWebVtt(await readFile(out, 'utf8')).map(({ text }) => text)).toContain(
    'Every line\nis one day.',
  );
  await within(page, 'Captions in', async () => {
    await page.getByLabel('Another language').fill('wel');
    await page.getByRole('button', { name: 'Welsh' }).click();
    await fine(page);
  });
  await page.getByRole('button', { name: 'Write under the English' }).click();
  await page.getByRole('button', { name: /^Caption 2, at/ }).click();
  await expect(page.getByText('Every line is one day.').first()).toBeVisible();
  await page.getByLabel('Words of caption 2').fill('Un diwrnod yw pob llinell.');
  await page.getByRole('button', { name: /^Caption 2, at/ }).click();
  await expect.poll(async () => (await texts(TABLE, 'cy'))[1]).toBe('Un diwrnod yw pob llinell.');
  expect(complaints).toEqual([]);
  await close();
});

test('words are struck out in Tidy by touch and by keys, and are gone from the sound', async () => {
  // Three words of tones, a second each, with quiet between.
  const voice = join(stage.folder, 'tones.mp4');
  const tone = (hertz: number) => [
    '-f',
    'lavfi',
    '-i',
    `sine=f=${hertz}:d=0.7:r=48000,apad=pad_dur=0.3`,
  ];
  execFileSync('ffmpeg', [
    ...['-v', 'error', '-y', ...[500, 900, 1500, 2300].flatMap(tone)],
    ...['-filter_complex', '[0:a][1:a][2:a][3:a]concat=n=4:v=0:a=1', '-c:a', 'aac', voice],
  ]);
  const { server } = stage;
  await server.ask('POST', '/api/lessons', { id: 'lesson-struck', title: 'Struck out' });
  await server.ask('POST', '/api/lessons/lesson-struck/takes', {
    ...{ id: 'take-struck', source: 'sound', practice: false },
    tracks: [{ id: 'take-struck-voice', kind: 'voice' }],
  });
  await server.send('take-struck-voice', await readFile(voice));
  await server.ask('POST', '/api/takes/take-struck/stop', {});
  await server.takeWhen('lesson-struck');
  const said = 'one two three four'.split(' ');
  await server.edit('lesson-struck', {
    ...{ do: 'write-cues', language: 'en', gone: [] },
    cues: [
      {
        ...{ id: 'cue-of-tones', takeId: 'take-struck', startUs: 0, endUs: 4_000_000 },
        text: said.join(' '),
        words: said.map((_, at) => [at * 1_000_000, at * 1_000_000 + 700_000, 95] as const),
        ...{ timed: 'by-voice', draft: false },
      },
    ],
  });
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${server.url}/lessons/lesson-struck/tidy`);
  await page.getByRole('button', { name: /^Phrase 1,.*one two three four/ }).click();
  await fine(page);
  await page.getByRole('option', { name: 'two' }).click();
  await expect(page.getByRole('option', { name: 'two' })).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('option', { name: 'three' }).click();
  await expect(page.getByRole('option', { selected: true })).toHaveCount(2);
  await page.getByRole('button', { name: /^Cut what is chosen/ }).click();
  const back = page.getByRole('button', { name: /^Bring back .*two three/ });
  await expect(back).toBeVisible();
  await fine(page);
  const film = await server.film('lesson-struck');
  expect(film.durationUs / 1e6).toBeCloseTo(2, 0);
  await page.getByRole('link', { name: 'Hand out' }).click();
  const file = join(stage.folder, 'struck.mp4');
  await saveFilm(page, file);
  const loudest = (hertz: number) => Math.max(...tonesStrength(file, hertz));
  for (const hertz of [500, 2300]) expect(loudest(hertz)).toBeGreaterThan(0.05);
  for (const hertz of [900, 1500]) expect(loudest(hertz)).toBeLessThan(0.008);
  const told = execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-map',
    '0:s:0',
    '-f',
    'webvtt',
    '-',
  ]).toString();
  expect(told).toContain('one four');

  // They come back by a press; then by keys, the last one.
  await page.getByRole('link', { name: 'Tidy' }).click();
  await back.click();
  await page.getByRole('button', { name: /^Phrase 1,.*one two three four/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('option', { name: 'one' }).focus();
  for (let press = 0; press < 3; press++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(page.getByRole('option', { selected: true })).toHaveText(['three', 'four']);
  await page.keyboard.press('Delete');
  await expect(page.getByRole('button', { name: /^Bring back .*three four/ })).toBeFocused();
  expect(complaints).toEqual([]);
  await close();
});

test('a student switches captions by touch and by key, reads them with whatever reads the page, and takes them along', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url + (await demo.watchPath()));
  const showing = () =>
    page.evaluate(() =>
      [...(document.querySelector('video')?.textTracks ?? [])]
        .filter(({ mode }) => mode === 'showing')
        .map((track) => [track.language, track.cues?.length ?? 0]),
    );
  const choice = page.getByRole('radiogroup', { name: 'Captions' });
  await choice.getByRole('radio', { name: 'English' }).waitFor();
  expect(await showing()).toEqual([]);
  await choice.getByRole('radio', { name: 'Deutsch' }).click();
  await expect.poll(async () => (await showing())[0]?.[0]).toBe('de');
  await expect.poll(async () => Number((await showing())[0]?.[1])).toBeGreaterThan(5);
  await fine(page);
  await page.getByRole('radio', { name: 'Very large' }).click({ timeout: 5_000 });
  // What was chosen holds for the next film too.
  await page.reload();
  await expect.poll(async () => (await showing())[0]?.[0]).toBe('de');
  await page.locator('body').press('c');
  await expect.poll(showing).toEqual([]);
  await page.locator('body').press('c');
  await expect.poll(async () => (await showing())[0]?.[0]).toBe('en');

  await page.getByRole('button', { name: 'Show transcript' }).click();
  await expect(page.getByRole('heading', { name: 'What is hard, what is easy' })).toBeVisible();
  await expect(page.getByText('The hard part is the stream.')).toBeVisible();
  // Neither what was trimmed off nor where it comes from.
  await expect(page.getByText('Is it on?')).toHaveCount(0);
  await fine(page);
  await page.getByRole('button', { name: 'Go to 13 secs' }).click();
  await expect
    .poll(() => page.evaluate(() => document.querySelector('video')!.currentTime))
    .toBeGreaterThan(12);
  // What is being said is marked, and goes by in its own box.
  const said = page.locator('[aria-current=true]', { hasText: /\w/ });
  await expect(said.filter({ hasText: 'The hard part is the stream.' })).toHaveCount(1);
  await expect(said.filter({ hasText: 'The hard part is the stream.' })).toBeInViewport();
  // Who looks for a place sees what is there.
  const slider = page.getByRole('slider', { name: 'Position in the film' });
  const { width, height } = (await slider.boundingBox())!;
  const sheet = page.waitForResponse((answer) => answer.url().endsWith('/previews.jpg'));
  await slider.hover({ position: { x: width / 2, y: height / 2 } });
  expect((await sheet).status()).toBe(200);
  await expect(page.getByTestId('seek-preview')).toHaveText(/0:1[456]/);
  await expect(page.getByTestId('seek-preview').locator('[style*=previews]')).toBeVisible();
  await page.mouse.move(1, 1);
  await expect(page.getByTestId('seek-preview')).toHaveCount(0);
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Download as web page' }).click();
  const out = join(stage.folder, 'transcript.html');
  await (await saving).saveAs(out);
  expect(await readFile(out, 'utf8')).toContain('<h2>When I am away</h2>');
  expect(complaints).toEqual([]);
  await close();
});

test('“where did I explain the stream?” is found in all lessons, with the way there', async () => {
  const { page, close } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url);
  await page.getByLabel('Find a lesson').fill('aim off');
  const place = page.getByRole('link', { name: /Week four: welcome, at 0:\d\d: .*aim off/ });
  await expect(place).toBeVisible();
  await fine(page);
  await place.click();
  await expect(page).toHaveURL(new RegExp(`${WELCOME}/words`));
  await expect(page.getByTestId('caption-over')).toContainText(/sideways|aim off|stream/);
  await close();
});

const described = async () => (await demo.server.lesson(TABLE)).decisions.audioDescriptions;

test('what is seen is described where the film stands, on a phone, and kept while it is typed', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await clear();
  await demo.openAt(page, wordsOf(TABLE), 'Describe what is seen');
  await page.getByRole('button', { name: 'Describe what is seen' }).click();
  await fine(page);
  await page.getByRole('button', { name: 'Go to the next place where nobody speaks' }).click();
  const field = page.getByLabel(/^Seen at /);
  await field.fill('A tide table; nothing in it is marked.');
  // A page that is closed in the middle of it loses nothing.
  await page.reload();
  await page.getByRole('button', { name: 'Describe what is seen' }).click();
  await expect(field).toHaveValue('A tide table; nothing in it is marked.');
  await page.getByRole('button', { name: 'Go to the next place where nobody speaks' }).click();
  const put = page.getByRole('button', { name: /^Put it at / });
  await expect(put).not.toHaveText('Put it at 0:00.0');
  await put.click();
  await expect.poll(described).toMatchObject([{ text: 'A tide table; nothing in it is marked.' }]);
  const { atUs } = (await described())[0]!;
  expect(atUs).toBeGreaterThan(3_000_000);
  await expect(field).toHaveValue('');
  await fine(page);

  // Changed, moved, taken away, and brought back.
  const menu = page.getByRole('button', { name: 'More to do with description 1' });
  await menu.click();
  await page.getByRole('menuitem', { name: 'Change the words' }).click();
  await page.getByLabel('Words of description 1').fill('A tide table, a line for each day.');
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect
    .poll(async () => (await described())[0]?.text)
    .toBe('A tide table, a line for each day.');
  await page.getByRole('button', { name: 'Go to the next place where nobody speaks' }).click();
  await menu.click();
  await page.getByRole('menuitem', { name: /^Move it to / }).click();
  await expect.poll(async () => (await described())[0]!.atUs).toBeGreaterThan(atUs);
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as WebVTT' }).click();
  const out = join(stage.folder, 'described.vtt');
  await (await saving).saveAs(out);
  expect(readWebVtt(await readFile(out, 'utf8')).map(({ text }) => text)).toEqual([
    'A tide table, a line for each day.',
  ]);
  await menu.click();
  await page.getByRole('menuitem', { name: 'Take it away' }).click();
  await expect.poll(described).toEqual([]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await described()).length).toBe(1);
  await page.getByRole('button', { name: 'Back to the captions' }).click();
  await expect(page.getByRole('heading', { name: 'What is seen' })).toHaveCount(0);
  expect(complaints).toEqual([]);
  await close();
});

const SEEN = 'A slide: three pages, numbered. The tide table, the stream, the chart.';
const film = (page: Page) =>
  page.evaluate(() => {
    const { currentTime, paused } = document.querySelector('video')!;
    return { currentTime, paused };
  });

test('a student who can’t see the film is told by their screen reader, and the film waits', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(demo.server.url + (await demo.watchPath()));
  // This machine has no voice of its own: none is offered.
  await page.getByRole('radio', { name: 'For my screen reader' }).click();
  await expect(page.getByRole('radio', { name: 'Read aloud' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const live = page.locator('[aria-live=assertive]', { hasText: SEEN });
  await expect(live).toHaveCount(1, { timeout: 120_000 });
  await expect(page.getByRole('button', { name: 'Continue' })).toBeVisible();
  const waiting = await film(page);
  expect(waiting.paused).toBe(true);
  await fine(page);
  // It goes on by itself, and doesn't tell it again.
  await expect(page.getByRole('button', { name: 'Continue' })).toHaveCount(0, { timeout: 15_000 });
  await expect
    .poll(async () => (await film(page)).currentTime)
    .toBeGreaterThan(waiting.currentTime + 1);
  await expect(live).toHaveCount(0);
  // Gone back to before it, it is told again, and left by a press.
  await page.evaluate((at) => {
    document.querySelector('video')!.currentTime = at;
  }, waiting.currentTime - 2);
  await expect(live).toHaveCount(1, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Continue' }).click();
  await expect.poll(async () => (await film(page)).paused).toBe(false);
  // By key, it is switched off.
  await page.locator('body').press('d');
  await expect(
    page.getByRole('radiogroup', { name: 'Audio description' }).getByRole('radio', { name: 'Off' }),
  ).toBeChecked();
  await page.getByRole('button', { name: 'Show transcript' }).click();
  await expect(page.getByText(`[${SEEN}]`)).toBeVisible();
  expect(complaints).toEqual([]);
  await close();
});

test('a voice of the student’s own device reads it out, and one that sends words elsewhere never does', async () => {
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await page.addInitScript(() => {
    // A stand-in for the voices of a device: keeps what it is given, and is done with it after a second.
    const said: string[] = [];
    const voices = [
      { name: 'far', lang: 'en-GB', localService: false },
      { name: 'near', lang: 'en_GB', localService: true },
    ];
    class Said extends EventTarget {
      voice: unknown = null;
      lang = '';
      onend: (() => void) | null = null;
      constructor(readonly text: string) {
        super();
      }
    }
    const engine = Object.assign(new EventTarget(), {
      getVoices: () => voices,
      cancel: () => undefined,
      speak: (what: Said) => {
        said.push(`${(what.voice as { name: string }).name}: ${what.text}`);
        setTimeout(() => what.onend?.(), 1_000);
      },
    });
    Object.assign(window, { SpeechSynthesisUtterance: Said, saidAloud: said });
    Object.defineProperty(window, 'speechSynthesis', { value: engine });
  });
  await page.goto(demo.server.url + (await demo.watchPath()));
  await page.getByRole('radio', { name: 'Read aloud' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const said = () => page.evaluate(() => (window as unknown as { saidAloud: string[] }).saidAloud);
  await expect.poll(said, { timeout: 120_000 }).toEqual([`near: ${SEEN}`]);
  expect((await film(page)).paused).toBe(true);
  // What is read aloud isn't given to a screen reader besides: two voices at once say nothing.
  await expect(page.locator('[aria-live=assertive]')).toHaveCount(0);
  await expect.poll(async () => (await film(page)).paused).toBe(false);
  await expect.poll(async () => (await said()).length, { timeout: 120_000 }).toBe(2);
  expect(complaints).toEqual([]);
  await close();
});
