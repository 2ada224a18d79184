import type { WordsJob } from '@under-chalk/core/contract/words';
import { filmOf } from '@under-chalk/core/film/film';
import { readWebVtt } from '@under-chalk/core/words/files/web-vtt';
import { roughCues, speechOfFilm } from '@under-chalk/core/words/roughly';
import type { Cue } from '@under-chalk/core/words/cue';
import { confidenceOf, LEAST_CONFIDENCE } from '@under-chalk/core/words/drafted';
import { run } from '@under-chalk/render';
import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { newId } from '../store/ids';
import { englishDraft } from '../words/english-draft';
import { foreignListener } from '../words/foreign-listener';
import { practiceAnswer } from '../words/practice-hearing';
import { startTestServer, type TestServer } from '../testing/test-server';

jest.setTimeout(180_000);

const LESSON = 'lesson-words';
const TAKE = 'take-words';
/** What is said; times come from the synthesizer, which tells where each sound ends. */
const SAID = [
  'The sea rises and falls twice a day.',
  'We call the rising water the flood.',
  'Between them it stands still for a while.',
  'In the first hour it rises by one part of twelve.',
  'Then it slows down again.',
];

let server: TestServer;
let folder: string;
/** When each sentence begins and ends, µs. */
let spoken: { startUs: number; endUs: number }[] = [];

const speak = async (sentences: readonly string[], path: string): Promise<typeof spoken> => {
  const parts = [Buffer.alloc(16_000 * 2)];
  const found: typeof spoken = [];
  let seconds = 1;
  for (const [index, text] of sentences.entries()) {
    const wav = join(folder, `said-${index}.wav`);
    const told = execFileSync('flite', ['-voice', 'slt', '-psdur', '-t', text, '-o', wav]);
    const ends = told
      .toString()
      .trim()
      .split(/\s+/)
      .map((part) => [part.split(':')[0]!, Number(part.split(':')[1])] as const);
    const sounds = ends.map(([phone, end], at) => ({ phone, from: ends[at - 1]?.[1] ?? 0, end }));
    const voiced = sounds.filter(({ phone }) => phone !== 'pau');
    found.push({
      startUs: Math.round((seconds + voiced[0]!.from) * 1e6),
      endUs: Math.round((seconds + voiced.at(-1)!.end) * 1e6),
    });
    const raw = ['-ar', '16000', '-ac', '1', '-f', 's16le', '-'];
    parts.push(execFileSync('ffmpeg', ['-v', 'error', '-i', wav, ...raw]));
    parts.push(Buffer.alloc(16_000));
    seconds += (parts.at(-2)!.length + 16_000) / 32_000;
  }
  const sound = join(folder, 'said.raw');
  await writeFile(sound, Buffer.concat(parts));
  const asRaw = ['-f', 's16le', '-ar', '16000', '-ac', '1', '-i', sound];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...asRaw, '-c:a', 'aac', '-ar', '48000', path]);
  return found;
};

const lessonNow = async () => (await server.ask('GET', `/api/lessons/${LESSON}`)).json.lesson;
const write = (cues: readonly Cue[], gone: readonly string[] = [], language = 'en') =>
  server.edit(LESSON, { do: 'write-cues', language, cues: [...cues], gone: [...gone] });

/** Writes a text as it is pasted: spread over where somebody speaks. */
const paste = async (text: string): Promise<Cue[]> => {
  const lesson = await lessonNow();
  const film = filmOf(lesson);
  const before: string[] = lesson.decisions.cues.map(({ cue }: { cue: Cue }) => cue.id);
  const cues = roughCues(
    film,
    text,
    'en',
    speechOfFilm(film, () => []),
    newId,
  );
  await write(cues, before);
  return cues;
};

const listen = async (language = 'en', what = 'timing'): Promise<WordsJob> => {
  const begun = await server.ask('POST', `/api/lessons/${LESSON}/words/${what}`, { language });
  expect(begun.status).toBe(200);
  for (;;) {
    const { json } = await server.ask('GET', `/api/words/${begun.json.id}`);
    if (!['waiting', 'working'].includes(json.state)) return json;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-words-test-'));
  server = await startTestServer();
  await server.ask('POST', '/api/lessons', { id: LESSON, title: 'Springs & neaps' });
  await server.ask('POST', `/api/lessons/${LESSON}/takes`, {
    ...{ id: TAKE, source: 'sound', practice: false },
    tracks: [{ id: `${TAKE}-voice`, kind: 'voice' }],
  });
  const voice = join(folder, 'voice.mp4');
  spoken = await speak(SAID, voice);
  await server.upload(`${TAKE}-voice`, await readFile(voice));
  await server.ask('POST', `/api/takes/${TAKE}/stop`, {});
  expect(await server.ingested(TAKE)).toBe('ready');
});
afterAll(async () => {
  await server.remove();
  await rm(folder, { recursive: true, force: true });
});

it('puts what was pasted in time with the voice, and tells it without putting it down', async () => {
  const pasted = await paste(SAID.join(' '));
  const before = (await lessonNow()).revision;
  const { state, timing } = await listen();
  expect([state, timing!.unsaid, timing!.unwritten]).toEqual(['done', [], []]);
  const off = timing!.cues.map(({ startUs }, at) => Math.abs(startUs - spoken[at]!.startUs));
  expect(off).toHaveLength(5);
  expect(Math.max(...off)).toBeLessThan(80_000);
  expect(timing!.cues.map(({ id }) => id)).toEqual(pasted.map(({ id }) => id));
  for (const cue of timing!.cues) {
    expect(cue.words).toHaveLength(cue.text.split(' ').length);
    expect(cue.timed).toBe('by-voice');
  }
  expect((await lessonNow()).revision).toBe(before);
  expect((await readdir(tmpdir())).filter((name) => name.startsWith('under-chalk-voice'))).toEqual(
    [],
  );
});

it('tells what is written and not said, and what is said and not written', async () => {
  await paste([SAID[0], SAID[1], 'The moon pulls at all the water.', SAID[3], SAID[4]].join(' '));
  const { timing } = await listen();
  const { decisions } = await lessonNow();
  const textOf = (id: string) =>
    decisions.cues.find(({ cue }: { cue: Cue }) => cue.id === id).cue.text;
  expect(timing!.unsaid.map(textOf)).toEqual(['The moon pulls at all the water.']);
  const { startUs, endUs } = spoken[2]!;
  expect(timing!.unwritten).toHaveLength(1);
  expect(Math.abs(timing!.unwritten[0]!.startUs - startUs)).toBeLessThan(250_000);
  expect(Math.abs(timing!.unwritten[0]!.endUs - endUs)).toBeLessThan(400_000);
});

it('listens to the film as it is cut: times are those at which it was recorded', async () => {
  await server.edit(LESSON, {
    ...{ do: 'cut', takeId: TAKE },
    ...{ startUs: spoken[1]!.startUs - 100_000, endUs: spoken[2]!.endUs + 100_000 },
  });
  await paste([SAID[0], SAID[3], SAID[4]].join(' '));
  const { timing } = await listen();
  const off = [0, 3, 4].map((said, at) =>
    Math.abs(timing!.cues[at]!.startUs - spoken[said]!.startUs),
  );
  expect(Math.max(...off)).toBeLessThan(80_000);
  await server.edit(LESSON, { do: 'restore', takeId: TAKE, startUs: 0, endUs: 100_000_000 });
});

it('says in a sentence what can’t be listened to, and can be called off', async () => {
  expect(await listen('ja')).toMatchObject({ state: 'failed', problem: 'nothing-to-time' });
  const [cue] = await paste(SAID.join(' '));
  await write([{ ...cue!, id: 'cue-in-japanese', text: '潮が満ちる', words: null }], [], 'ja');
  expect(await listen('ja')).toMatchObject({ state: 'failed', problem: 'language-not-heard' });
  const { json } = await server.ask('POST', `/api/lessons/${LESSON}/words/timing`, {
    language: 'en',
  });
  const stopped = await server.ask('POST', `/api/words/${json.id}/cancel`, {});
  expect(stopped.json.state).toBe('called-off');
  expect((await server.ask('GET', '/api/words/none-such')).status).toBe(404);
  await write([], ['cue-in-japanese'], 'ja');
});

it('is found by what is said, with or without accents, as soon as it is changed; and not what was cut', async () => {
  const find = async (words: string) =>
    (await server.ask('GET', `/api/transcript-search?words=${encodeURIComponent(words)}`)).json;
  await paste(SAID.join(' '));
  const [found, ...more] = await find('stands STILL');
  expect([found.text, found.title, found.kind, more.length]).toEqual([
    SAID[2],
    'Springs & neaps',
    'said',
    0,
  ]);
  expect(Math.abs(found.filmUs - spoken[2]!.startUs)).toBeLessThan(1_000_000);
  // All words, in whatever order; the last one as far as it is typed.
  expect(await find('hour first')).toHaveLength(1);
  expect(await find('first ho')).toHaveLength(1);
  expect(await find('hour flood')).toEqual([]);
  const { cue } = (await lessonNow()).decisions.cues[0];
  await write([{ ...cue, text: 'Café “au lait” OR (tide*)', words: null }]);
  expect(await find('cafe')).toHaveLength(1);
  for (const odd of ['"', 'cafe" OR "', 'NEAR(', '*', 'a AND', '—', "'; drop table said; --"]) {
    expect(Array.isArray(await find(odd))).toBe(true);
  }
  await server.edit(LESSON, { do: 'cut', takeId: TAKE, startUs: 0, endUs: 100_000_000 });
  expect(await find('cafe')).toEqual([]);
  await server.edit(LESSON, { do: 'restore', takeId: TAKE, startUs: 0, endUs: 100_000_000 });
  expect(await find('cafe')).toHaveLength(1);
});

it('writes a draft of what is said, called so, with its doubts', async () => {
  const { state, draft } = await listen('en', 'draft');
  expect(state).toBe('done');
  const wanted = SAID.join(' ')
    .toLowerCase()
    .replace(/[^a-z ]/g, '')
    .split(' ');
  const heard = draft!.cues
    .map(({ text }) => text)
    .join(' ')
    .toLowerCase()
    .split(' ');
  const right = wanted.filter((word) => heard.includes(word)).length;
  expect(right / wanted.length).toBeGreaterThan(0.5);
  for (const cue of draft!.cues) expect([cue.draft, cue.takeId]).toEqual([true, TAKE]);
  expect(draft!.confidence).toBeGreaterThan(80);
  expect((await listen('cy', 'draft')).problem).toBe('listener-missing');
});

it('knows that it has understood nothing: of speech played backwards', async () => {
  const path = join(folder, 'backwards.raw');
  const pcm = ['-f', 's16le', '-ar', '16000', '-ac', '1'];
  await run('ffmpeg', [...pcm, '-i', join(folder, 'said.raw'), '-af', 'areverse', ...pcm, path]);
  const durationUs = Math.round(((await stat(path)).size / 32_000) * 1e6);
  const heard = await englishDraft.recognise({ path, durationUs }, 'en', () => undefined);
  expect(heard.length).toBeGreaterThan(5);
  expect(confidenceOf(heard)).toBeLessThan(LEAST_CONFIDENCE);
});

describe('a listener of one’s own', () => {
  /** What it answers, whatever it hears; null: as the one to practise with does. */
  let answer: string | null = null;
  const asked: string[] = [];
  const listener = createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on('data', (part: Buffer) => parts.push(part));
    request.on('end', () => {
      asked.push(`${request.method} ${request.url} ${request.headers['content-type']}`);
      response.end(answer ?? practiceAnswer(Buffer.concat(parts)));
    });
  });
  const recognise = (where: string, language = 'cy') =>
    foreignListener(where).recognise(
      { path: join(folder, 'said.raw'), durationUs: 15_000_000 },
      language,
      () => undefined,
    );
  let address: string;
  beforeAll(async () => {
    await new Promise<void>((resolve) => listener.listen(0, '127.0.0.1', resolve));
    address = `http://127.0.0.1:${(listener.address() as AddressInfo).port}/hear`;
  });
  afterAll(() => listener.close());

  it('is sent the sound, and says what it hears in any language', async () => {
    const heard = await recognise(address);
    expect(asked.at(-1)).toBe('POST /hear?language=cy audio/wav');
    // It hears where somebody speaks.
    const begins = heard.filter(({ text }) => text.startsWith('Phrase'));
    expect(begins.length).toBeGreaterThan(3);
    expect(Math.abs(begins[0]!.startUs - spoken[0]!.startUs)).toBeLessThan(300_000);
    expect(heard.some(({ sure }) => sure === 30)).toBe(true);
  });

  it('may be a program on this machine', async () => {
    const program = join(folder, 'listener.sh');
    const said = JSON.stringify({ words: [{ text: 'Helo', start: 1, end: 1.4 }] });
    await writeFile(
      program,
      `#!/bin/sh\ntest "$(head -c 4 "$1")" = RIFF && test "$2" = cy && echo '${said}'\n`,
      {
        mode: 0o755,
      },
    );
    expect(await recognise(program)).toEqual([
      { text: 'Helo', startUs: 1_000_000, endUs: 1_400_000, sure: 70 },
    ]);
    await expect(recognise(join(folder, 'none.sh'))).rejects.toThrow('listener-failed');
  });

  it.each([
    'no JSON',
    '{}',
    JSON.stringify({ words: [{ word: 'a', start: -1, end: 2 }] }),
    JSON.stringify({ words: [{ start: 1, end: 2 }] }),
    JSON.stringify({ words: [{ word: 'a', start: 1e300, end: 2 }] }),
  ])('is not believed where it answers %s', async (text) => {
    answer = text;
    await expect(recognise(address)).rejects.toThrow('listener-failed');
    answer = null;
  });

  it('what it says beside words is left out', async () => {
    answer = JSON.stringify({
      words: [
        { word: ' two words ', start: 2, end: 3 },
        { word: 'late', start: 99, end: 100 },
        { word: '\u0000b', start: 1, end: 0.5, confidence: 0.25 },
      ],
    });
    expect(await recognise(address)).toEqual([
      { text: 'b', startUs: 1_000_000, endUs: 1_020_000, sure: 25 },
    ]);
    answer = null;
  });
});

describe('words that are given', () => {
  let token: string;
  beforeAll(async () => {
    await paste(SAID.join(' '));
    const { timing } = await listen();
    await write(timing!.cues);
    const second = timing!.cues[1]!;
    await write([{ ...second, id: 'cue-in-welsh', text: 'Dyma’r <llanw>', words: null }], [], 'cy');
    await server.edit(LESSON, {
      ...{ do: 'cut', takeId: TAKE },
      ...{ startUs: spoken[3]!.startUs - 50_000, endUs: spoken[3]!.endUs + 50_000 },
    });
    const link = await server.ask('POST', `/api/lessons/${LESSON}/share-links`, { size: '720p' });
    token = link.json.token;
    for (;;) {
      const { json } = await server.ask('GET', `/api/watch/${token}`);
      if (json.state === 'done') break;
      expect(json.state).not.toBe('failed');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  });

  it('are a file, of which each cue is read at its time in the film, and none that was cut', async () => {
    const path = `/api/lessons/${LESSON}/words`;
    const vtt = await fetch(`${server.url}${path}/en/vtt`);
    expect(vtt.headers.get('content-type')).toBe('text/vtt; charset=utf-8');
    expect(vtt.headers.get('content-disposition')).toContain('.vtt');
    const cues = readWebVtt(await vtt.text());
    const texts = cues.map(({ text }) => text.replace('\n', ' '));
    expect(texts).toEqual([SAID[0], SAID[1], SAID[2], SAID[4]]);
    const cutUs = spoken[3]!.endUs - spoken[3]!.startUs + 100_000;
    expect(Math.abs(cues[3]!.startUs - (spoken[4]!.startUs - cutUs))).toBeLessThan(80_000);
    const srt = await (await fetch(`${server.url}${path}/cy/srt`)).text();
    expect(srt).toMatch(/^1\r\n\d\d:\d\d:\d\d,\d{3} --> .*\r\nDyma’r <llanw>\r\n/);
    expect((await server.ask('GET', `${path}/fr/vtt`)).status).toBe(404);
  });

  it('are with the film at a link, and as a transcript whose times lead there', async () => {
    const { json } = await server.ask('GET', `/api/watch/${token}`);
    expect(json.languages).toEqual(['en', 'cy']);
    expect(json.captions).toBeUndefined();
    const words = await server.ask('GET', `/api/watch/${token}/words/en`);
    expect(words.json.cues).toHaveLength(4);
    // Nothing of where it comes from leaves the house.
    expect(JSON.stringify(words.json)).not.toMatch(/take|cue-|placement/);
    const html = await (await fetch(`${server.url}/api/watch/${token}/words/cy/html`)).text();
    expect(html).toContain('<html lang="cy">');
    expect(html).toContain('Dyma’r &lt;llanw&gt;');
    expect(html).toContain(`${server.url}/w/${token}?t=`);
    expect(html).toContain('<h1>Springs &amp; neaps</h1>');
    const text = await (await fetch(`${server.url}/api/watch/${token}/words/en/txt`)).text();
    expect(text).toContain(`] ${SAID[0]}`);
    expect(text).not.toContain(SAID[3]);
    const other = 'AbCdEfGhIjKlMnOpQrStUv';
    expect((await server.ask('GET', `/api/watch/${other}/words/en`)).status).toBe(404);
  });

  it('are in the MP4, each language by its name, and stay with the film when they are mended', async () => {
    const { json: films } = await server.ask('GET', `/api/lessons/${LESSON}/films`);
    const path = server.parts.maker.pathOf(films[0].id);
    const probe = ['-v', 'error', '-show_entries', 'stream=codec_name:stream_tags=language'];
    const { streams } = JSON.parse(
      execFileSync('ffprobe', [...probe, '-of', 'json', path]).toString(),
    );
    const texts = streams.filter(({ codec_name }: any) => codec_name === 'mov_text');
    expect(texts.map(({ tags }: any) => tags.language)).toEqual(['eng', 'cym']);
    const out = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-i',
      path,
      '-map',
      '0:s:1',
      '-f',
      'webvtt',
      '-',
    ]);
    expect(out.toString()).toContain('Dyma’r');

    const { cues } = (await lessonNow()).decisions;
    const first = cues.find((one: any) => one.language === 'en').cue;
    await write([{ ...first, text: 'The sea, mended.', words: null }]);
    const before = await server.ask('GET', `/api/watch/${token}/words/en`);
    expect(before.json.cues[0].text).toContain('The sea rises');
    // Another film; all its pieces are there.
    const again = await server.ask('POST', `/api/lessons/${LESSON}/films`, { size: '720p' });
    expect(again.json.id).not.toBe(films[0].id);
  });
});
