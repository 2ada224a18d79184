import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { builtScript } from '../testing/built-scripts';
import { alignOther, likenessLanguages } from './other-voices';

jest.setTimeout(120_000);
const TEXTS = [
  'Das Meer steigt und fällt zweimal am Tag.',
  'Wir nennen das steigende Wasser Flut und das fallende Ebbe.',
  'Dazwischen steht es eine Weile still.',
  'In der ersten Stunde steigt es um ein Zwölftel.',
  'Danach wird es wieder langsamer.',
];
let folder: string;
let thread: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'under-chalk-likeness-'));
  thread = builtScript('likeness-thread.mjs');
});
afterAll(async () => {
  await rm(folder, { recursive: true, force: true });
});

/** Sentences by another voice than those that are compared with, slower, with hiss and pauses. */
const spoken = async (texts: readonly string[]) => {
  const parts: Buffer[] = [Buffer.alloc(16_000)];
  const starts: number[] = [];
  let seconds = 0.5;
  for (const [index, text] of texts.entries()) {
    const wav = join(folder, `said-${index}.wav`);
    execFileSync('espeak-ng', ['-v', 'de+m7', '-s', '130', '-p', '35', '-w', wav, text]);
    const raw = execFileSync('ffmpeg', [
      ...['-v', 'error', '-i', wav, '-af', 'silenceremove=start_periods=1:start_threshold=-45dB'],
      ...['-ar', '16000', '-ac', '1', '-f', 's16le', '-'],
    ]);
    starts.push(seconds);
    parts.push(raw, Buffer.alloc(12_800));
    seconds += (raw.length + 12_800) / 32_000;
  }
  const samples = Buffer.concat(parts);
  let state = 5;
  for (let at = 0; at < samples.length; at += 2) {
    state = (state * 48_271) % 2_147_483_647;
    const noise = Math.round((state / 2_147_483_647 - 0.5) * 120);
    samples.writeInt16LE(Math.max(-32_768, Math.min(32_767, samples.readInt16LE(at) + noise)), at);
  }
  const path = join(folder, 'said.raw');
  await writeFile(path, samples);
  return { path, durationUs: Math.round((samples.length / 32_000) * 1e6), starts };
};

it('German is put in time by the likeness of a synthesizer’s voice, beside the server', async () => {
  const { path, durationUs, starts } = await spoken(TEXTS);
  const told: number[] = [];
  const work = { path, durationUs, texts: TEXTS, language: 'de' };
  const { units, unwritten } = await alignOther(work, thread, (share) => told.push(share));
  const off = units.map((words, index) => Math.abs(words![0]![0] / 1e6 - starts[index]!));
  expect(Math.max(...off)).toBeLessThan(0.3);
  expect(unwritten).toEqual([]);
  expect(told).toEqual([...told].sort((a, b) => a - b));
  units.forEach((words, index) => {
    expect(words).toHaveLength(TEXTS[index]!.split(' ').length);
    expect(words!.every(([startUs, endUs]) => endUs >= startUs)).toBe(true);
  });
});

it('a text that nobody says is told, and so is that it was called off', async () => {
  const said = TEXTS.filter((_, index) => index !== 2);
  const { path, durationUs } = await spoken(said);
  const work = { path, durationUs, texts: TEXTS, language: 'de' };
  const { units } = await alignOther(work, '', () => undefined);
  expect(units.map((words) => words !== null)).toEqual([true, true, false, true, true]);
  const stop = new AbortController();
  const called = alignOther(work, thread, () => stop.abort(new Error('enough')), stop.signal);
  await expect(called).rejects.toThrow('enough');
});

it('knows which languages it can do', async () => {
  const known = await likenessLanguages();
  expect(['de', 'cy', 'fr', 'pl', 'nb'].every((language) => known.has(language))).toBe(true);
  expect(['ja', 'zh', 'xx'].some((language) => known.has(language))).toBe(false);
});
