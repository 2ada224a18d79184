import { AppError } from '@under-chalk/core/errors/errors';
import { cleanLine } from '@under-chalk/core/text/clean';
import { LONGEST_TAKE_US } from '@under-chalk/core/lesson/take';
import type { HeardText } from '@under-chalk/core/words/drafted';
import { openAsBlob } from 'node:fs';
import { mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as z from 'zod';
import type { Recogniser, Sound } from './recogniser';
import { runProgram } from './run-program';
import { BYTES, sampleAt, samplesIn, wavHeader } from './sound-file';

const seconds = z
  .number()
  .min(0)
  .max(LONGEST_TAKE_US / 1e6);
const wordSchema = z
  .object({
    word: z.string().optional(),
    text: z.string().optional(),
    start: seconds,
    end: seconds,
    /** How sure it is, 0 to 1, under whichever name. */
    confidence: z.number().min(0).max(1).optional(),
    probability: z.number().min(0).max(1).optional(),
  })
  .refine(({ word, text }) => word !== undefined || text !== undefined, 'a word says something');
const MOST_WORDS = 200_000;

/** What programs that recognise speech commonly answer: words with their times in seconds, all in one list or by segments. */
export const answerSchema = z.union([
  z.object({ words: z.array(wordSchema).max(MOST_WORDS) }).transform(({ words }) => words),
  z
    .object({ segments: z.array(z.object({ words: z.array(wordSchema) })).max(MOST_WORDS) })
    .transform(({ segments }) => segments.flatMap(({ words }) => words)),
]);

/** Largest answer, bytes. */
const MOST_BYTES = 60_000_000;
const LONGEST_MS = 3_600_000;

/** Reads an answer. @throws AppError `listener-failed` where it has another form */
const heardIn = (text: string, durationUs: number): HeardText[] => {
  let words: z.output<typeof answerSchema>;
  try {
    words = answerSchema.parse(JSON.parse(text));
  } catch (error) {
    throw new AppError('listener-failed', String(error).slice(0, 300));
  }
  return words
    .map(({ word, text: said, start, end, confidence, probability }) => ({
      text: cleanLine(word ?? said ?? '').trim(),
      startUs: Math.round(start * 1e6),
      endUs: Math.round(Math.max(start + 0.02, end) * 1e6),
      sure: Math.round((confidence ?? probability ?? 0.7) * 100),
    }))
    .filter(({ text: said, startUs }) => said !== '' && !/\s/.test(said) && startUs < durationUs)
    .sort((a, b) => a.startUs - b.startUs);
};

/** The sound as a WAV file in a folder. */
const asWav = async (sound: Sound, folder: string): Promise<string> => {
  const path = join(folder, 'sound.wav');
  const out = await open(path, 'w');
  try {
    await out.write(wavHeader(sampleAt(sound.durationUs) * BYTES));
    for (let at = 0; at < sound.durationUs; at += 60_000_000) {
      await out.write(await samplesIn(sound.path, at, Math.min(sound.durationUs, at + 60_000_000)));
    }
  } finally {
    await out.close();
  }
  return path;
};

const byAddress = async (address: string, wav: string, language: string, signal?: AbortSignal) => {
  const url = new URL(address);
  url.searchParams.set('language', language);
  const late = AbortSignal.timeout(LONGEST_MS);
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'Content-Type': 'audio/wav', Accept: 'application/json' },
    body: await openAsBlob(wav),
    redirect: 'error',
    signal: signal ? AbortSignal.any([signal, late]) : late,
  });
  if (!response.ok) throw new Error(`it answered ${response.status}`);
  if (Number(response.headers.get('content-length') ?? 0) > MOST_BYTES)
    throw new Error('it answers too much');
  const text = await response.text();
  if (text.length > MOST_BYTES) throw new Error('it answers too much');
  return text;
};

/**
 * A listener of the school's: a program on this machine (its path; it gets the path of a WAV file and the language, and writes JSON to its output), or an address
 * (it is sent the WAV file, and answers with JSON). The sound leaves this server only where an address says so.
 *
 * @param where an absolute path, or an address (http or https)
 */
export const foreignListener = (where: string): Recogniser => ({
  knows: () => true,
  async recognise(sound, language, onProgress, signal) {
    const folder = await mkdtemp(join(tmpdir(), 'under-chalk-listener-'));
    try {
      const wav = await asWav(sound, folder);
      onProgress(0.05);
      const text = /^https?:/.test(where)
        ? await byAddress(where, wav, language, signal)
        : (await runProgram(where, [wav, language], { signal, deadlineMs: LONGEST_MS })).toString();
      return heardIn(text, sound.durationUs);
    } catch (error) {
      signal?.throwIfAborted();
      if (error instanceof AppError) throw error;
      throw new AppError('listener-failed', String(error).slice(0, 300));
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  },
});
