import { expect, test, type Page } from '@playwright/test';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { change, openBrowser, PHONE, WIDE } from './browser';
import { fine } from './checks';
import { ffmpeg, makeSound, tonesStrength } from './media';
import { setStage } from './stage';

/** What is heard: the room taken down, a voice louder and quieter for a stretch, and spoken anew over its picture. */

const stage = setStage();

/** A take that says something four times for two seconds, as a tone, in a room that hisses. */
const bringIn = async (id: string): Promise<void> => {
  const { server, folder } = stage;
  const voice = join(folder, `${id}.mp4`);
  const said = '0.2*sin(2*PI*440*t)*between(mod(t\\,4)\\,1\\,3)';
  ffmpeg(
    ...['-f', 'lavfi', '-i', `aevalsrc=${said}:s=48000:d=16`],
    ...['-f', 'lavfi', '-i', 'anoisesrc=r=48000:a=0.03:seed=5:d=16'],
    ...['-filter_complex', 'amix=normalize=0', '-c:a', 'aac', '-b:a', '128k', voice],
  );
  await server.ask('POST', '/api/lessons', { id, title: 'A loud room' });
  await server.ask('POST', `/api/lessons/${id}/takes`, {
    ...{ id: `take-${id}`, source: 'sound', practice: false },
    tracks: [{ id: `take-${id}-voice`, kind: 'voice' }],
  });
  await server.send(`take-${id}-voice`, await readFile(voice));
  await server.ask('POST', `/api/takes/take-${id}/stop`, {});
  await server.takeWhen(id);
};
/** Where a decision lies is asked of the server, which the page tells in its own time. */
const decisions = async (id: string) => (await stage.server.lesson(id)).decisions;

/** How loud a film is between two times, dBFS. */
const loudIn = (file: string, from: number, to: number): number => {
  const stats = 'astats=metadata=1,ametadata=mode=print:key=lavfi.astats.Overall.RMS_level:file=-';
  const told = ffmpeg(
    ...['-ss', String(from), '-t', String(to - from), '-i', file, '-vn', '-af', stats],
    ...['-f', 'null', '-'],
  ).toString();
  return Number([...told.matchAll(/RMS_level=(\S+)/g)].at(-1)![1]);
};
const strongest = (line: readonly number[], from: number, to: number) =>
  Math.max(...line.slice(Math.round(from * 100), Math.round(to * 100)));

const openPhrase = async (page: Page, number: number) => {
  await page
    .getByRole('button', { name: new RegExp(`^Phrase ${number},`) })
    .first()
    .click();
};
/** Makes the film through the page, and saves it: the one that is made now, and none from before. */
const saved = async (page: Page, id: string, file: string): Promise<string> => {
  const rows = async () =>
    (await (await fetch(`${stage.server.url}/api/lessons/${id}/films`)).json()) as {
      id: string;
      state: string;
    }[];
  const many = (await rows()).length;
  await page.goto(`${stage.server.url}/lessons/${id}/hand-out`);
  await change(page, 'Size of the picture', /^720p/);
  await page.getByRole('button', { name: 'Export film' }).click();
  await expect
    .poll(async () => (await rows()).filter(({ state }) => state === 'done').length, {
      timeout: 120_000,
    })
    .toBe(many + 1);
  const out = join(stage.folder, file);
  const [newest] = await rows();
  const answer = await fetch(`${stage.server.url}/api/films/${newest!.id}/file`);
  await writeFile(out, Buffer.from(await answer.arrayBuffer()));
  return out;
};

test('the room is told of, heard before and after, and taken down in the film', async () => {
  const id = 'lesson-loud-room';
  await bringIn(id);
  const { page, close, complaints } = await openBrowser({ viewport: PHONE });
  await page.goto(`${stage.server.url}/lessons/${id}/last-look`);
  await expect(page.getByText(/the room can be heard under the voice/)).toBeVisible();
  const before = await saved(page, id, 'before.mp4');
  // How it came out is told beside it.
  await expect(page.getByText(/As loud as it should be: −1\d\.\d LUFS/)).toBeVisible();
  await fine(page);
  await page.getByRole('button', { name: /^More to do with .*\.mp4/ }).click();
  const [alone] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Sound alone (MP3)' }).click(),
  ]);
  expect(alone.suggestedFilename()).toBe('A loud room.mp3');
  const mp3 = join(stage.folder, 'alone.mp3');
  await alone.saveAs(mp3);
  expect(Math.abs(loudIn(mp3, 5.5, 6.5) - loudIn(before, 5.5, 6.5))).toBeLessThan(0.5);

  await page.goto(`${stage.server.url}/lessons/${id}/tidy`);
  await page.getByRole('button', { name: 'More to do with take 1' }).click();
  await page.getByRole('menuitem', { name: 'Background noise' }).click();
  await fine(page);
  await page.getByRole('button', { name: 'Hear it after' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.getByRole('button', { name: 'Hear it before' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  // Only tried out.
  expect((await decisions(id)).noiseReduction).toEqual([]);
  await page.getByRole('radio', { name: 'taken down firmly' }).click();
  await expect(page.getByText('It is heard so, here and in the film.')).toBeVisible();
  await fine(page);
  expect((await decisions(id)).noiseReduction).toEqual([
    { takeId: `take-${id}`, reduction: 'firmly' },
  ]);
  await page.goto(`${stage.server.url}/lessons/${id}/last-look`);
  await expect(page.getByText('There is sound, and it can be heard.')).toBeVisible();
  await expect(page.getByText(/the room can be heard/)).toHaveCount(0);

  const after = await saved(page, id, 'after.mp4');
  for (const pause of [4.1, 8.1, 12.1]) {
    const down = loudIn(before, pause, pause + 0.7) - loudIn(after, pause, pause + 0.7);
    expect(down).toBeGreaterThan(12);
  }
  expect(Math.abs(loudIn(before, 5.5, 6.5) - loudIn(after, 5.5, 6.5))).toBeLessThan(0.7);
  expect(complaints).toEqual([]);
  await close();
});

test('a stretch is spoken anew by keys, another is silent; the film has just that, and undo takes it back', async () => {
  const id = 'lesson-spoken-anew';
  await bringIn(id);
  const voice = makeSound(stage.folder, 'sine=f=900:r=48000,volume=6dB');
  const { page, close, complaints } = await openBrowser({ viewport: WIDE, voice });
  const { server } = stage;
  await page.goto(`${server.url}/lessons/${id}/tidy`);
  const press = async (name: string | RegExp) => {
    await page.getByRole('button', { name }).focus();
    await page.keyboard.press('Enter');
  };
  await openPhrase(page, 5);
  await change(page, 'The voice here is', 'silent');
  await expect.poll(async () => (await decisions(id)).gains.voice).toHaveLength(1);
  await openPhrase(page, 3);
  await press(/^Re-record the voice/);
  await fine(page);
  // Called off while it counts, nothing has come of it.
  await press('Begin in 3 s');
  await expect(page.getByRole('button', { name: 'Not now' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Begin in 3 s' })).toBeVisible();
  expect((await server.lesson(id)).takes).toHaveLength(1);

  await press('Begin in 3 s');
  await expect(page.getByText(/Speak now: \d s are left/)).toBeVisible();
  await fine(page);
  await expect(
    page.getByText('It is safe, and is heard as soon as it is ready.').first(),
  ).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText('It was spoken anew: that voice is heard here.')).toBeVisible({
    timeout: 30_000,
  });
  await fine(page);
  const [over] = (await decisions(id)).voiceOvers;
  const { placements } = await decisions(id);
  // It stands beside the film.
  expect(placements.map(({ takeId }) => takeId)).toEqual([`take-${id}`]);
  const [from, to] = [over!.startUs / 1e6, over!.endUs / 1e6];
  const film = await saved(page, id, 'anew.mp4');
  // It is one of those that say something.
  expect([from < 5.2, to > 6.8]).toEqual([true, true]);
  const [old, anew] = [tonesStrength(film, 440), tonesStrength(film, 900)];
  // The fake microphone's tone is there for all of it but its very beginning, and the first voice isn't.
  expect(strongest(anew, from + 0.5, to - 0.3)).toBeGreaterThan(0.1);
  expect(strongest(old, from + 0.1, to - 0.1)).toBeLessThan(0.05);
  expect(strongest(old, 1.5, 2.5)).toBeGreaterThan(0.1);
  expect(strongest(anew, 0, from - 0.1)).toBeLessThan(0.05);
  expect(strongest(anew, to + 0.1, 16)).toBeLessThan(0.05);
  expect(strongest(old, 9.5, 10.5)).toBeLessThan(0.05);
  expect(strongest(old, 13.5, 14.5)).toBeGreaterThan(0.1);

  await page.goto(`${server.url}/lessons/${id}/tidy`);
  await openPhrase(page, 3);
  await press('The first voice again');
  await expect.poll(async () => (await decisions(id)).voiceOvers).toEqual([]);
  await press('Undo');
  await expect.poll(async () => (await decisions(id)).voiceOvers).toHaveLength(1);
  expect(complaints).toEqual([]);
  await close();
});

test('a server that dies while somebody speaks anew loses nothing of it', async () => {
  const id = 'lesson-dies-anew';
  await bringIn(id);
  const voice = makeSound(stage.folder, 'sine=f=900:r=48000,volume=6dB');
  const { page, close } = await openBrowser({ viewport: PHONE, voice });
  const { server } = stage;
  await page.goto(`${server.url}/lessons/${id}/tidy`);
  await openPhrase(page, 3);
  await page.getByRole('button', { name: /^Re-record the voice/ }).click();
  await page.getByRole('button', { name: 'Begin in 3 s' }).click();
  await expect(page.getByText(/Speak now: \d s are left/)).toBeVisible();
  await server.kill();
  await page.waitForTimeout(5_000);
  await server.up();
  await expect
    .poll(async () => (await decisions(id)).voiceOvers.length, { timeout: 120_000 })
    .toBe(1);
  const [over] = (await decisions(id)).voiceOvers;
  await expect
    .poll(
      async () =>
        (await server.lesson(id)).takes.find((take) => take.id === over!.by.takeId)?.state,
      { timeout: 120_000 },
    )
    .toBe('ready');
  const take = (await server.lesson(id)).takes.find((one) => one.id === over!.by.takeId)!;
  expect(take.durationUs).toBeGreaterThan(over!.endUs - over!.startUs - 500_000);
  await close();
});

/** Says how strong what a page plays is, in each 50 ms: both channels' mean power. Listens before what goes to the speakers. */
const listenToPage = () => {
  // One line for each thing that is connected: before the limiter is there, sound goes past it.
  const lines: number[][] = [];
  Object.assign(window, { heardPower: lines });
  const connect = AudioNode.prototype.connect as (this: AudioNode, ...to: unknown[]) => AudioNode;
  AudioNode.prototype.connect = function (this: AudioNode, ...to: unknown[]) {
    if (to[0] instanceof AudioDestinationNode) {
      const { context } = this;
      const tap = (context as AudioContext).createScriptProcessor(2_048, 2, 2);
      const most = context.sampleRate / 20;
      const heard: number[] = [];
      lines.push(heard);
      let [sum, many] = [0, 0];
      tap.onaudioprocess = ({ inputBuffer }) => {
        const [left, right] = [inputBuffer.getChannelData(0), inputBuffer.getChannelData(1)];
        for (let at = 0; at < left.length; at++) {
          sum += (left[at]! ** 2 + right[at]! ** 2) / 2;
          if (++many >= most) {
            heard.push(sum / many);
            [sum, many] = [0, 0];
          }
        }
      };
      connect.call(this, tap);
      connect.call(tap, context.destination);
    }
    return connect.apply(this, to);
  } as typeof AudioNode.prototype.connect;
};

const decibels = (power: number) => 10 * Math.log10(power + 1e-12);
const middleOf = (values: readonly number[]) =>
  [...values].sort((a, b) => a - b)[values.length >> 1]!;

test('the preview is as loud as the film, word for word', async () => {
  const id = 'lesson-same-loud';
  await bringIn(id);
  const { page, close, complaints } = await openBrowser({ viewport: WIDE });
  await page.addInitScript(listenToPage);
  const film = await saved(page, id, 'same-loud.mp4');
  await page.goto(`${stage.server.url}/lessons/${id}/tidy`);
  await page
    .getByRole('button', { name: /^Phrase 1,/ })
    .first()
    .waitFor();
  await page.waitForTimeout(1_500);
  await page.getByRole('button', { name: 'Play', exact: true }).first().click();
  await page.waitForTimeout(17_000);
  const lines = await page.evaluate(
    () => (window as unknown as { heardPower: number[][] }).heardPower,
  );
  const all = (line: readonly number[]) => line.reduce((sum, power) => sum + power, 0);
  const preview = lines.reduce((most, line) => (all(line) > all(most) ? line : most));
  const raw = ffmpeg(...['-i', film, '-vn', '-ar', '48000', '-ac', '2', '-f', 'f32le', 'pipe:1']);
  const samples = new Float32Array(new Uint8Array(raw).buffer);
  const exported = Array.from({ length: Math.floor(samples.length / 4_800) }, (_, block) => {
    let sum = 0;
    for (let at = 0; at < 4_800; at++) sum += samples[block * 4_800 + at]! ** 2;
    return sum / 4_800;
  });
  // Where the two lie on one another, and how far apart they are there, where something is said.
  const apart = (later: number) =>
    exported.flatMap((power, at) =>
      power > 1e-3 && preview[at + later] !== undefined
        ? [Math.abs(decibels(preview[at + later]!) - decibels(power))]
        : [],
    );
  const lags = Array.from({ length: 120 }, (_, lag) => lag).filter((lag) => apart(lag).length > 60);
  const best = lags.reduce((least, lag) =>
    middleOf(apart(lag)) < middleOf(apart(least)) ? lag : least,
  );
  const off = middleOf(apart(best));
  console.log(`preview and film are ${off.toFixed(2)} dB apart, of ${apart(best).length} moments`);
  expect(apart(best).length).toBeGreaterThan(60);
  expect(off).toBeLessThan(0.5);
  expect(complaints).toEqual([]);
  await close();
});
