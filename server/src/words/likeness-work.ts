import { speechIn } from '@under-chalk/core/sound/phrases';
import { wordsIn } from '@under-chalk/core/words/cue';
import type { Aligned } from '@under-chalk/core/words/align/windows';
import { alignByLikeness, type SaidBefore } from '@under-chalk/core/words/likeness/align-likeness';
import { likenessOf } from '@under-chalk/core/words/likeness/features';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runProgram } from './run-program';
import { BYTES, HEARD_RATE, levelsOfFile, samplesIn } from './sound-file';

/** What is to be put in time with a voice. */
export interface LikenessWork {
  readonly path: string;
  readonly durationUs: number;
  readonly texts: readonly string[];
  /** A language that the synthesizer knows. */
  readonly language: string;
}

/** Voices of several kinds, as the synthesizer names them: its own, and one that is higher. */
const VOICES = ['', '+f3'];
/** Of the time that it takes, the share that goes into saying the texts. */
const SAYING = 0.5;
const LIMITS = { deadlineMs: 20_000, memoryBytes: 1e9, background: true };

const inFloats = (bytes: Buffer): Float32Array =>
  Float32Array.from(
    { length: bytes.length / BYTES },
    (_, at) => bytes.readInt16LE(at * BYTES) / 32_768,
  );

/** Samples of a WAV file of 16 bits in one channel (RIFF), and how many a second. */
const readWav = (wav: Buffer): { readonly rate: number; readonly samples: Float32Array } => {
  let at = 12;
  let rate = HEARD_RATE;
  while (at + 8 <= wav.length) {
    const [name, length] = [wav.toString('latin1', at, at + 4), wav.readUInt32LE(at + 4)];
    if (name === 'fmt ') rate = wav.readUInt32LE(at + 12);
    // What is written to a pipe doesn't know its length.
    if (name === 'data') {
      const end = Math.min(wav.length, at + 8 + length);
      return { rate, samples: inFloats(wav.subarray(at + 8, end - ((end - at) % BYTES))) };
    }
    at += 8 + length + (length % 2);
  }
  return { rate, samples: new Float32Array(0) };
};

/**
 * Finds when texts are said in a sound by how alike it is to what `espeak-ng` says of them.
 *
 * @throws ProgramError; the signal's reason
 */
export const alignLikeness = async (
  { path, durationUs, texts, language }: LikenessWork,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<Aligned> => {
  const folder = await mkdtemp(join(tmpdir(), 'under-chalk-likeness-'));
  try {
    const voices = VOICES.map((): SaidBefore[] => []);
    for (const [index, text] of texts.entries()) {
      await writeFile(join(folder, 'text'), text);
      const letters = wordsIn(text).map((word) => Math.max(1, [...word].length));
      for (const [number, voice] of VOICES.entries()) {
        signal?.throwIfAborted();
        await runProgram(
          'espeak-ng',
          ['-v', `${language}${voice}`, '-s', '160', '-b', '1', '-f', 'text', '-w', 'said.wav'],
          { ...LIMITS, cwd: folder, signal },
        );
        const { rate, samples } = readWav(await readFile(join(folder, 'said.wav')));
        voices[number]!.push({ likeness: likenessOf(samples, rate), letters });
      }
      onProgress((SAYING * (index + 1)) / texts.length);
    }
    const sound = inFloats(await samplesIn(path, 0, durationUs));
    const speech = speechIn(await levelsOfFile(path, durationUs));
    onProgress(0.6);
    const likeness = likenessOf(sound, HEARD_RATE);
    signal?.throwIfAborted();
    onProgress(0.8);
    return alignByLikeness(likeness, voices, speech);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
};
