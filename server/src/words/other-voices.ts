import type { Aligned } from '@under-chalk/core/words/align/windows';
import { runThread } from '../jobs/run-thread';
import { alignLikeness, type LikenessWork } from './likeness-work';
import { isHere, runProgram } from './run-program';

/** Longest sound that is compared: it is held in memory, µs. */
const MOST_US = 3 * 3_600_000_000;

let known: Promise<ReadonlySet<string>> | null = null;

const askVoices = async (): Promise<ReadonlySet<string>> => {
  if (!isHere('espeak-ng')) return new Set();
  const told = (await runProgram('espeak-ng', ['--voices'], { deadlineMs: 5_000 })).toString();
  // Priority, language, …; a language may have a region.
  const bases = told
    .split('\n')
    .slice(1)
    .map((line) => line.trim().split(/\s+/)[1]?.split('-')[0]);
  const names = new Set(bases.filter((base): base is string => /^[a-z]{2,3}$/.test(base ?? '')));
  // Norwegian, as books have it.
  if (names.has('nb') || names.has('no')) names.add('nb').add('no');
  // What isn't written with letters that follow on one another has no words to be told apart.
  for (const without of ['zh', 'cmn', 'yue', 'ja', 'th']) names.delete(without);
  return names;
};

/** Languages (their bases, as `de`) in which texts can be put in time by another voice's likeness. */
export const likenessLanguages = (): Promise<ReadonlySet<string>> => {
  known ??= askVoices().catch(() => new Set<string>());
  return known;
};

/**
 * Finds when texts are said in a sound, in a language that a synthesizer speaks, beside the server.
 *
 * @param script the built thread (`likeness-thread`); empty: it is done in this one
 * @throws ProgramError, or Error where a thread did it; the signal's reason
 */
export const alignOther = async (
  work: LikenessWork,
  script: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<Aligned> => {
  const within = { ...work, durationUs: Math.min(MOST_US, work.durationUs) };
  if (script === '') return alignLikeness(within, onProgress, signal);
  return runThread<Aligned>(script, within, onProgress, signal);
};
