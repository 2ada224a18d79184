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
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DICTIONARY, MODEL, pronunciationsOf } from './pronunciations';
import { isHere, runProgram } from './run-program';
import { BYTES, quietestIn, sampleAt, samplesIn, wavHeader } from './sound-file';

let here: boolean | null = null;

/** Whether a script in English can be put in time with a voice on this machine. */
export const canAlignEnglish = (): boolean =>
  (here ??= existsSync(DICTIONARY) && isHere('pocketsphinx_batch'));

/** Narrower, and the right words are lost; wider, and it takes longer for nothing. Seen on voices of four kinds. */
const BEAM = '1e-60';
/** Where that leaves no way through, once more. */
const WIDE_BEAM = '1e-150';
/**
 * Sounds are scored every second hundredth of a second, by the two likeliest shapes of each: a quarter less work. Sentences are found 6 ms
 * later in the mean of synthesized voices, and as well as before of a person's.
 */
const COARSER = ['-ds', '2', '-topn', '2'];
/** Silence that is laid after what is listened to: 0.3 s. */
const AFTER_BYTES = sampleAt(300_000) * BYTES;
/** A window ends where it is quietest in its last seconds, µs: hardly ever within a word. */
const QUIET_WITHIN_US = 8_000_000;
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
 * @param path a file of samples (`sound-file`)
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
    /** What is heard of a grammar in the sound that lies there; empty where no way through the grammar was left. */
    const listen = async (beam: string): Promise<string> => {
      await rm(join(folder, 'heard'), { force: true });
      await runProgram(
        'pocketsphinx_batch',
        [
          ...['-hmm', join(MODEL, 'en-us'), '-dict', 'script.dict', '-fsg', 'script.fsg'],
          ...['-ctl', 'sounds', '-cepdir', '.', '-cepext', '.wav'],
          ...['-adcin', 'yes', '-adchdr', '44', '-hypseg', 'heard'],
          // Leaving silence out would put all times wrong.
          ...['-remove_silence', 'no', '-bestpath', 'no', '-lw', '1', '-wip', '1'],
          ...COARSER,
          ...['-beam', beam, '-wbeam', beam, '-pbeam', beam, '-logfn', '/dev/null'],
        ],
        { ...LIMITS, cwd: folder, signal },
      );
      return readFile(join(folder, 'heard'), 'utf8').catch(() => '');
    };
    const decode = async (fromUs: number, toUs: number, wanted: readonly Unit[]) => {
      signal?.throwIfAborted();
      const samples = await samplesIn(path, fromUs, toUs);
      // What comes after a word lets it end, though the sound is cut off there.
      const sound = Buffer.concat([samples, Buffer.alloc(AFTER_BYTES)]);
      const { fsg, dictionary } = grammarOf(wanted);
      await put('sound.wav', Buffer.concat([wavHeader(sound.length), sound]));
      await put('script.fsg', fsg);
      await put('script.dict', dictionary);
      await put('sounds', 'sound\n');
      let heard = readHeard(await listen(BEAM), toUs - fromUs);
      if (heard.words.length + heard.other.length === 0) {
        heard = readHeard(await listen(WIDE_BEAM), toUs - fromUs);
      }
      const moved = <T extends { startUs: number; endUs: number }>(one: T): T => ({
        ...one,
        startUs: Math.min(toUs, one.startUs + fromUs),
        endUs: Math.min(toUs, one.endUs + fromUs),
      });
      return { words: heard.words.map(moved), other: heard.other.map(moved) };
    };
    const quietBefore = async (us: number) => quietestIn(path, us - QUIET_WITHIN_US, us);
    return await alignInWindows(durationUs, units, decode, { onProgress, quietBefore });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};
