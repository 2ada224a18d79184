import { speechIn } from '@under-chalk/core/sound/phrases';
import type { TimeRange } from '@under-chalk/core/time/ranges';
import { readSegments } from '@under-chalk/core/words/align/grammar';
import { clarityOf, surenessOf } from '@under-chalk/core/words/align/sureness';
import type { HeardText } from '@under-chalk/core/words/drafted';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { canAlignEnglish } from './english-voice';
import { DICTIONARY, MODEL } from './pronunciations';
import type { Recogniser, Sound } from './recogniser';
import { runProgram } from './run-program';
import { levelsOfFile, samplesIn, wavHeader } from './sound-file';

/** What is listened to at a time, at most; longer speech is parted. µs. */
const LONGEST_US = 12_000_000;
/** Before and after what is spoken, µs. */
const ROUND_US = 200_000;
/** Stretches that one process listens to: it takes a second to begin. */
const AT_ONCE = 8;
const LIMITS = { deadlineMs: 600_000, memoryBytes: 4e9, background: true };

/** Where somebody speaks, in stretches that are short enough to be listened to. */
const spokenIn = async ({ path, durationUs }: Sound): Promise<TimeRange[]> => {
  return speechIn(await levelsOfFile(path, durationUs)).flatMap(({ startUs, endUs }) => {
    const from = Math.max(0, startUs - ROUND_US);
    const to = Math.min(durationUs, endUs + ROUND_US);
    const parts = Math.ceil((to - from) / LONGEST_US);
    return Array.from({ length: parts }, (_, part) => ({
      startUs: Math.round(from + (part * (to - from)) / parts),
      endUs: Math.round(from + ((part + 1) * (to - from)) / parts),
    }));
  });
};

/** Drafts of English by Debian's `pocketsphinx` with its own model of the language: one word in four is wrong, and it sets no signs. */
export const englishDraft: Recogniser = {
  knows: (language) => language === 'en' && canAlignEnglish(),
  async recognise(sound, _language, onProgress, signal) {
    const stretches = await spokenIn(sound);
    const folder = await mkdtemp(join(tmpdir(), 'under-chalk-draft-'));
    const heard: (Omit<HeardText, 'sure'> & { score: number })[] = [];
    try {
      for (let at = 0; at < stretches.length; at += AT_ONCE) {
        signal?.throwIfAborted();
        const now = stretches.slice(at, at + AT_ONCE);
        for (const [index, { startUs, endUs }] of now.entries()) {
          const samples = await samplesIn(sound.path, startUs, endUs);
          await writeFile(
            join(folder, `part${index}.wav`),
            Buffer.concat([wavHeader(samples.length), samples]),
          );
        }
        await writeFile(join(folder, 'parts'), now.map((_, index) => `part${index}\n`).join(''));
        await rm(join(folder, 'heard'), { force: true });
        await runProgram(
          'pocketsphinx_batch',
          [
            ...['-hmm', join(MODEL, 'en-us'), '-dict', DICTIONARY],
            ...[
              '-lm',
              join(MODEL, 'en-us.lm.bin'),
              '-ctl',
              'parts',
              '-cepdir',
              '.',
              '-cepext',
              '.wav',
            ],
            ...['-adcin', 'yes', '-adchdr', '44', '-hypseg', 'heard', '-remove_silence', 'no'],
            ...['-logfn', '/dev/null'],
          ],
          { ...LIMITS, cwd: folder, signal },
        );
        const lines = (await readFile(join(folder, 'heard'), 'utf8').catch(() => '')).split('\n');
        now.forEach(({ startUs, endUs }, index) => {
          const line = lines.find((one) => one.startsWith(`part${index} `));
          for (const { name, atUs, untilUs, score } of readSegments(line ?? '', endUs - startUs)) {
            if (!/^[a-z]/.test(name)) continue;
            heard.push({ text: name, startUs: startUs + atUs, endUs: startUs + untilUs, score });
          }
        });
        onProgress(Math.min(1, (at + now.length) / stretches.length));
      }
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
    const sure = surenessOf(heard);
    const spokenUs = stretches.reduce((sum, { startUs, endUs }) => sum + endUs - startUs, 0);
    const clarity = clarityOf(heard, spokenUs);
    return heard.map((word) => ({
      ...{
        text: word.text,
        startUs: word.startUs,
        endUs: word.endUs,
        sure: Math.round(clarity * sure(word)),
      },
    }));
  },
};
