import {
  chromium,
  expect,
  type Browser,
  type BrowserContext,
  type LaunchOptions,
  type Page,
} from '@playwright/test';
import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';

export const CHROMIUM = process.env['CHROMIUM'] ?? '/usr/bin/chromium';
const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
  '--use-fake-device-for-media-stream',
];

export const PHONE = { width: 390, height: 844 };
export const WIDE = { width: 1280, height: 800 };

export interface Opened {
  readonly page: Page;
  readonly context: BrowserContext;
  /** What the page complained of. */
  readonly complaints: string[];
  close(): Promise<void>;
  /** Ends all its processes, with no chance to say goodbye. Only for one with a profile. */
  kill(): Promise<void>;
}

/** Processes of a browser, by the profile they were started with. */
const processesOf = (profile: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile);
      } catch {
        return false; // It ended meanwhile.
      }
    });

const killed = async (profile: string): Promise<void> => {
  for (let pids = processesOf(profile); pids.length > 0; pids = processesOf(profile)) {
    for (const pid of pids) {
      try {
        process.kill(pid, 'SIGKILL');
      } catch {
        // Its parent took it along.
      }
    }
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

/**
 * Browsers with nothing of their own but whether they allow devices: tests that follow on one another share them, each with
 * storage of its own. They end with the process.
 */
const shared = new Map<string, Promise<Browser>>();

const launched = (launch: LaunchOptions, isShared: boolean): Promise<Browser> => {
  if (!isShared) return chromium.launch(launch);
  const name = launch.args!.join(' ');
  let browser = shared.get(name);
  if (!browser) {
    browser = chromium.launch(launch);
    shared.set(name, browser);
    void browser.then((one) => one.once('disconnected', () => shared.delete(name)));
  }
  return browser;
};

/** Lowers the frame rate of the practice devices from 30 to 10, which saves most of the encoder's CPU time. */
const drawSeldom = (): void => {
  const every = setInterval as (call: () => void, ms: number) => unknown;
  Object.assign(window, {
    setInterval: (call: () => void, ms: number) => every(call, ms > 30 && ms < 40 ? 100 : ms),
  });
};

/** Opens a browser with storage of its own and fake devices: a WAV as its microphone, an MJPEG as its camera. */
export const openBrowser = async (options: {
  viewport?: { width: number; height: number };
  voice?: string;
  camera?: string;
  /** Grants devices without asking; false: refuses them. */
  allow?: boolean;
  /** A folder in which it keeps what it keeps, on the disk; else it is in memory and gone with it. */
  profile?: string;
  /** More of Chromium's own switches. */
  switches?: readonly string[];
  /** Of the browser; English as written in Britain if absent. */
  locale?: string;
  /** Practice devices draw at 30 fps instead of 10: for tests that measure their pictures. */
  fullRate?: boolean;
}): Promise<Opened> => {
  const viewport = options.viewport ?? PHONE;
  const locale = options.locale ?? 'en-GB';
  const launch = {
    executablePath: CHROMIUM,
    args: [
      ...ARGS,
      ...(options.switches ?? []),
      ...(options.allow === false ? [] : ['--use-fake-ui-for-media-stream']),
      ...(options.voice ? [`--use-file-for-fake-audio-capture=${options.voice}`] : []),
      ...(options.camera ? [`--use-file-for-fake-video-capture=${options.camera}`] : []),
    ],
  };
  const isShared = !options.voice && !options.camera && !options.switches;
  const context = options.profile
    ? await chromium.launchPersistentContext(options.profile, { ...launch, viewport, locale })
    : await (await launched(launch, isShared)).newContext({ viewport, locale });
  if (!options.fullRate) await context.addInitScript(drawSeldom);
  const page = context.pages()[0] ?? (await context.newPage());
  page.setDefaultTimeout(40_000);
  const complaints: string[] = [];
  page.on('pageerror', (error) => complaints.push(error.message));
  return {
    page,
    context,
    complaints,
    async close() {
      await context.close();
      if (!isShared) await context.browser()?.close();
    },
    async kill() {
      if (!options.profile) throw new Error('what has no profile can’t be told from others');
      await killed(options.profile);
    },
  };
};

/** Creates a lesson on the Lessons page, goes through Plan and opens Record. */
export const planLesson = async (page: Page, origin: string, title: string): Promise<string> => {
  await page.goto(origin);
  await page.getByLabel('What shall the next lesson teach?').fill(title);
  await page.getByRole('button', { name: 'Plan this lesson' }).click();
  await page.getByRole('button', { name: 'Go on to Record' }).click();
  await page.getByRole('heading', { name: 'Record', exact: true }).waitFor();
  return /lessons\/([^/]+)/.exec(page.url())![1]!;
};

/** Creates a lesson through the API and opens its Record page, which takes a third of the time of {@link planLesson}. */
export const newLesson = async (page: Page, origin: string, title: string): Promise<string> => {
  const id = `lesson-${randomUUID().slice(0, 13)}`;
  const answer = await page.request.post(`${origin}/api/lessons`, { data: { id, title } });
  expect(answer.ok()).toBe(true);
  await page.goto(`${origin}/lessons/${id}/record`);
  await page.getByRole('heading', { name: 'Record', exact: true }).waitFor();
  return id;
};

/** Opens a line of choices, does something in it, and closes it: a sheet on a phone, in its place else. */
export const within = async (page: Page, line: string, work: () => Promise<void>) => {
  const opener = page.getByRole('button', { name: new RegExp(`^${line}: `) });
  // A press during which the page moves under the pointer is none: then it is pressed again.
  await expect(async () => {
    if ((await opener.getAttribute('aria-expanded')) !== 'true') await opener.click();
    expect(await opener.getAttribute('aria-expanded')).toBe('true');
  }).toPass({ timeout: 60_000 });
  await work();
  const done = page.getByRole('button', { name: 'Done', exact: true });
  if (await done.isVisible()) await done.click();
  else await opener.click();
};

/** Makes choices of a line by their names. */
export const change = (page: Page, line: string, ...names: (string | RegExp)[]) =>
  within(page, line, async () => {
    for (const name of names) {
      await page.getByRole('radio', { name, exact: typeof name === 'string' }).click();
    }
  });

/** Chooses the browser's first camera, or microphone. */
export const chooseReal = (page: Page, ...groups: ('Camera' | 'Microphone')[]) =>
  within(page, 'With', async () => {
    for (const group of groups) {
      await page.getByRole('radiogroup', { name: group }).getByRole('radio').first().click();
    }
  });

/** Chooses what ships with the app instead of devices. */
export const choosePractice = async (page: Page): Promise<void> => {
  await change(page, 'What to show', /practice screen/);
  await change(page, 'With', 'Practice teacher', 'Practice voice');
};

/** Chooses the voice that ships with the app, and no picture. */
export const choosePracticeVoice = async (page: Page): Promise<void> => {
  await change(page, 'What to show', /^Sound alone/);
  await change(page, 'With', 'Practice voice');
};

const sign = (page: Page) => page.getByTestId('recorder-sign');

/** Presses the practice clapper. Resolves with the moment of the press by the page’s clock, s. */
export const clapOnce = async (page: Page): Promise<number> => {
  await page.getByRole('button', { name: /^More to do while recording/ }).click();
  const clapper = page.getByRole('button', { name: /clapper/ });
  await clapper.evaluate((button) =>
    button.addEventListener(
      'click',
      () => (document.documentElement.dataset['clappedAt'] = `${performance.now()}`),
      { capture: true, once: true },
    ),
  );
  await clapper.click();
  return Number(await page.locator('html').getAttribute('data-clapped-at')) / 1000;
};

/** Presses start and waits until it says that it records. */
export const startRecording = async (
  page: Page,
  countIn: 'none' | '3 s' = 'none',
): Promise<void> => {
  await change(page, 'How it begins', countIn);
  const start = page.getByRole('button', { name: 'Start recording' });
  await expect(start).toBeEnabled({ timeout: 15_000 });
  await start.click();
  await expect(sign(page)).toHaveText('Recording', { timeout: 30_000 });
};

/** Recorded time the page shows, ms: on a busy machine older than what has been recorded by now. */
const shownMs = async (page: Page): Promise<number> =>
  Number(await page.getByTestId('recorder-clock').getAttribute('data-elapsed-us')) / 1000;

/**
 * Recorded time by the recorder's own clock, ms: measured after the call, not before.
 * The first change may have been on its way already, so the second is waited for.
 */
export const recordedMs = async (page: Page): Promise<number> => {
  let shown = await shownMs(page);
  for (let changes = 0; changes < 2; changes++) {
    const before = shown;
    await expect
      .poll(async () => (shown = await shownMs(page)), { timeout: 20_000, intervals: [50] })
      .not.toBe(before);
  }
  return shown;
};

/** Waits until so much more has been recorded. */
export const recordFor = async (page: Page, seconds: number): Promise<void> => {
  const until = (await recordedMs(page)) + seconds * 1000;
  await expect
    .poll(() => shownMs(page), { timeout: (seconds + 20) * 1000, intervals: [100] })
    .toBeGreaterThanOrEqual(until);
};

export const stopRecording = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByText(/It is safe on the server/).waitFor({ timeout: 30_000 });
};

/** Goes to Tidy and waits until the first take's phrases are there. */
export const goToTidy = async (page: Page): Promise<void> => {
  await page.getByRole('link', { name: 'Tidy' }).click();
  await page.getByRole('list', { name: 'Phrases of take 1' }).waitFor({ timeout: 120_000 });
};

/** Cuts a stretch, in seconds of the film to the tenth, in the fine work of a phrase. */
export const cutStretch = async (page: Page, from: number, to: number): Promise<void> => {
  await page
    .getByRole('button', { name: /^Phrase 1,/ })
    .first()
    .click();
  const toField = page.getByRole('spinbutton', { name: /^to,/ });
  await toField.fill(to.toFixed(1));
  await toField.press('Enter');
  const fromField = page.getByRole('spinbutton', { name: /^From,/ });
  await fromField.fill(from.toFixed(1));
  await fromField.press('Enter');
  await page.getByRole('button', { name: `Cut these ${(to - from).toFixed(1)} s` }).click();
};

/** Exports the film and downloads it. @param size as recorded: what was only drawn is 360 px high then */
export const saveFilm = async (
  page: Page,
  out: string,
  size: '720p' | 'as recorded' = '720p',
): Promise<string> => {
  await page.getByRole('link', { name: 'Hand out' }).click();
  await change(page, 'Size of the picture', new RegExp(`^${size}`));
  await page.getByRole('button', { name: 'Export film' }).click();
  const save = page.getByRole('button', { name: /^Save .*\.mp4/ }).first();
  await save.waitFor({ timeout: 180_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), save.click()]);
  await download.saveAs(out);
  return download.suggestedFilename();
};
