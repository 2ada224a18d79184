import {
  grammarOf,
  readHeard,
  type Pronunciations,
  type Unit,
} from '@under-chalk/core/words/align/grammar';
import { spokenWords } from '@under-chalk/core/words/align/spoken';
import { alignInWindows, type Aligned } from '@under-chalk/core/words/align/windows';
import { wordsIn } from '@under-chalk/core/words/cue';
import { existsSync } from 'node:fs';
import { mkdtemp, open, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DICTIONARY, MODEL, pronunciationsOf } from './pronunciations';
import { isHere, runProgram } from './run-program';

/** Sound that is listened to: 16-bit samples, one channel, as a file without any header. */
export const HEARD_RATE = 16_000;
const BYTES = 2;
const SECONDS = 1_000_000;

let here: boolean | null = null;

/** Whether a script in English can be put in time with a voice on this machine. */
export const canAlignEnglish = (): boolean =>
  (here ??= existsSync(DICTIONARY) && isHere('pocketsphinx_batch'));

/** A RIFF header of 44 bytes, which the recogniser passes over. */
const header = (bytes: number): Buffer => {
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + bytes, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(HEARD_RATE, 24);
  head.writeUInt32LE(HEARD_RATE * BYTES, 28);
  head.writeUInt16LE(BYTES, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(bytes, 40);
  return head;
};

/** A stretch of a file of samples. */
const samplesIn = async (path: string, fromUs: number, toUs: number): Promise<Buffer> => {
  const sample = (us: number) => Math.round((us * HEARD_RATE) / SECONDS);
  const [from, to] = [sample(fromUs), sample(toUs)];
  const file = await open(path, 'r');
  try {
    const bytes = Buffer.alloc((to - from) * BYTES);
    const { bytesRead } = await file.read(bytes, 0, bytes.length, from * BYTES);
    return bytes.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
};

/** Narrower, and the right words are lost; wider, and it takes longer for nothing. Seen on voices of four kinds. */
const BEAM = '1e-60';
const LIMITS = { deadlineMs: 300_000, memoryBytes: 3e9, background: true };

/** How each text sounds: the units that are looked for. A word that nobody can say is looked for as what isn't said. */
const unitsOf = async (texts: readonly string[], signal?: AbortSignal): Promise<Unit[]> => {
  const known = new Map<string, Pronunciations>();
  for (const word of texts.flatMap(wordsIn).flatMap(spokenWords)) {
    if (!known.has(word)) known.set(word, await pronunciationsOf(word, signal));
  }
  return texts.map((text) => ({
    words: wordsIn(text).map((written) =>
      spokenWords(written)
        .map((word) => known.get(word) ?? [])
        .filter((ways) => ways.length > 0),
    ),
  }));
};

/**
 * Finds when English texts are said in a sound, in their order, which of them aren't, and what is said besides: forced alignment by
 * Debian's `pocketsphinx` with a grammar in which each may be left out.
 *
 * @param path samples of {@link HEARD_RATE}, 16 bits, one channel
 * @param durationUs how long it lasts
 * @throws ProgramError; the signal's reason
 */
export const alignEnglish = async (
  path: string,
  durationUs: number,
  texts: readonly string[],
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<Aligned> => {
  const units = await unitsOf(texts, signal);
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-words-'));
  try {
    const put = (name: string, text: string | Buffer) => writeFile(join(folder, name), text);
    return await alignInWindows(
      durationUs,
      units,
      async (fromUs, toUs, wanted) => {
        signal?.throwIfAborted();
        const samples = await samplesIn(path, fromUs, toUs);
        const { fsg, dictionary } = grammarOf(wanted);
        await put('sound.wav', Buffer.concat([header(samples.length), samples]));
        await put('script.fsg', fsg);
        await put('script.dict', dictionary);
        await put('sounds', 'sound\n');
        await rm(join(folder, 'heard'), { force: true });
        await runProgram(
          'pocketsphinx_batch',
          [
            ...['-hmm', join(MODEL, 'en-us'), '-dict', 'script.dict', '-fsg', 'script.fsg'],
            ...['-ctl', 'sounds', '-cepdir', '.', '-cepext', '.wav'],
            ...['-adcin', 'yes', '-adchdr', '44', '-hypseg', 'heard'],
            // Leaving silence out would put all times wrong.
            ...['-remove_silence', 'no', '-bestpath', 'no', '-lw', '1', '-wip', '1'],
            ...['-beam', BEAM, '-wbeam', BEAM, '-pbeam', BEAM, '-logfn', '/dev/null'],
          ],
          { ...LIMITS, cwd: folder, signal },
        );
        const line = await readFile(join(folder, 'heard'), 'utf8').catch(() => '');
        const { words, other } = readHeard(line, toUs - fromUs);
        const moved = <T extends { startUs: number; endUs: number }>(one: T): T => ({
          ...one,
          startUs: one.startUs + fromUs,
          endUs: one.endUs + fromUs,
        });
        return { words: words.map(moved), other: other.map(moved) };
      },
      onProgress,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};
