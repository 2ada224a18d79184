/**
 * Captions: how near to the voice a script is put, whether what is missing or too much in it is found, how long ten minutes take
 * (against decoding them, in the same run), and how soon a word is found in five hundred lessons.
 */
import { lessonOf, takeOfLength } from '@under-chalk/core/testing/lessons';
import type { WrittenCue } from '@under-chalk/core/words/cue';
import { foldersIn } from '@under-chalk/server/config';
import { openDatabase } from '@under-chalk/server/store/database';
import { TranscriptSearch } from '@under-chalk/server/store/transcript-search';
import { spokenWords } from '@under-chalk/core/words/align/spoken';
import { englishDraft } from '@under-chalk/server/words/english-draft';
import { alignEnglish } from '@under-chalk/server/words/english-voice';
import { alignLikeness } from '@under-chalk/server/words/likeness-work';
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { prompts, SENTENCES, speak, UNSAID, type Speech } from './words/said';

const MOST = {
  sentenceMsMean: 30,
  sentenceMsP95: 80,
  wordMsP95: 60,
  tenMinutesMs: 25_000,
  searchMsP95: 50,
};
const RATE = 16_000;
const LESSONS = 500;
const CUES = 150;
const SEARCHES = 60;

const sorted = (values: readonly number[]) => [...values].sort((a, b) => a - b);
const p95 = (values: readonly number[]) => sorted(values)[Math.ceil(values.length * 0.95) - 1]!;
const mean = (values: readonly number[]) =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const rounded = (value: number) => Math.round(value * 10) / 10;

const folder = await mkdtemp(join(tmpdir(), 'under-chalk-bench-words-'));

/** Puts a script in time with speech. */
const align = async (speech: Speech, script: readonly string[]) => {
  const path = join(folder, 'speech.raw');
  await writeFile(path, speech.samples);
  const durationUs = Math.round((speech.samples.length / 2 / RATE) * 1e6);
  const began = performance.now();
  const aligned = await alignEnglish(path, durationUs, script, () => undefined);
  return { ...aligned, tookMs: performance.now() - began, durationUs };
};

/** The same by how alike a synthesizer's voice is: as other languages are put in time. */
const alignAlike = async (speech: Speech): Promise<Awaited<ReturnType<typeof align>>> => {
  const path = join(folder, 'speech.raw');
  await writeFile(path, speech.samples);
  const durationUs = Math.round((speech.samples.length / 2 / RATE) * 1e6);
  const began = performance.now();
  const texts = speech.said.map(({ text }) => text);
  const aligned = await alignLikeness({ path, durationUs, texts, language: 'en' }, () => undefined);
  return { ...aligned, tookMs: performance.now() - began, durationUs };
};

/** How far off sentences and words are, ms; those that were not found at all are counted. */
const offBy = (speech: Speech, units: Awaited<ReturnType<typeof align>>['units']) => {
  const sentences: number[] = [];
  const words: number[] = [];
  let lost = 0;
  speech.said.forEach(({ startS, wordsS }, at) => {
    const found = units[at];
    if (!found) return void lost++;
    sentences.push(Math.abs(found[0]![0] / 1e3 - startS * 1e3));
    wordsS?.forEach((word, index) => words.push(Math.abs(found[index]![0] / 1e3 - word * 1e3)));
  });
  return { sentences, words, lost };
};

/** How many of what is missing in a script, or too much in it, are found. */
const missingIn = async (speech: Speech): Promise<[found: number, of: number]> => {
  const left = [6, 15, 16];
  const script = SENTENCES.filter((_, at) => !left.includes(at));
  script.splice(4, 0, UNSAID[0]!);
  script.splice(18, 0, UNSAID[1]!);
  const { units, unwritten } = await align(speech, script);
  const unsaid = UNSAID.filter((text) => units[script.indexOf(text)] === null).length;
  const unwrittenFound = left.filter((at) => {
    const startUs = speech.said[at]!.startS * 1e6;
    return unwritten.some((range) => range.startUs - 400_000 < startUs && startUs < range.endUs);
  }).length;
  return [unsaid + unwrittenFound, UNSAID.length + left.length];
};

/** Words of a draft that are wrong, missing or too many, as a share of those that are said (Levenshtein's distance by words). */
const draftErrorRate = async (speech: Speech): Promise<number> => {
  const path = join(folder, 'draft.raw');
  await writeFile(path, speech.samples);
  const durationUs = Math.round((speech.samples.length / 2 / RATE) * 1e6);
  const heard = await englishDraft.recognise({ path, durationUs }, 'en', () => undefined);
  const said = speech.said.flatMap(({ text }) => text.split(/\s+/).flatMap(spokenWords));
  const words = heard.map(({ text }) => text);
  let row = words.map((_, at) => at + 1);
  said.forEach((word, at) => {
    let diagonal = at;
    let left = at + 1;
    row = row.map((above, index) => {
      const best = Math.min(above + 1, left + 1, diagonal + (words[index] === word ? 0 : 1));
      diagonal = above;
      left = best;
      return best;
    });
  });
  return Math.round((100 * (row.at(-1) ?? said.length)) / said.length) / 100;
};

/** How soon words are found in many lessons that have them all, ms. */
const searchMs = async (): Promise<number[]> => {
  const home = join(folder, 'home');
  await mkdir(home, { recursive: true });
  const db = await openDatabase(foldersIn(home).database);
  try {
    const at = new Date().toISOString();
    const rows = Array.from({ length: LESSONS }, (_, index) => ({
      ...{ id: `lesson-${index + 1_000}`, created_at: at, updated_at: at },
    }));
    await db.batchInsert('lessons', rows, 100);
    const lessonNow = (id: string) => {
      const index = Number(id.slice(7));
      const cues = Array.from({ length: CUES }, (_, part): WrittenCue => {
        const text = `${SENTENCES[(part + index) % SENTENCES.length]!} Lesson${index} part${part}`;
        const startUs = part * 4_000_000;
        return {
          language: 'en',
          cue: {
            ...{
              id: `cue-${part}-of-all`,
              takeId: 'take-one',
              startUs,
              endUs: startUs + 3_500_000,
            },
            ...{ text, words: null, timed: 'by-hand', draft: false },
          },
        };
      });
      return Promise.resolve(
        lessonOf([takeOfLength('take-one', 600_000_000, ['voice'])], { cues }),
      );
    };
    const said = new TranscriptSearch(db, lessonNow, console as never);
    // The first looks all lessons through.
    await said.find('harbour');
    const took: number[] = [];
    const asked = ['harbour', 'high water', 'twelve', 'margin', 'keel', 'wind push', 'Lesson1007'];
    for (let search = 0; search < SEARCHES; search++) {
      const began = performance.now();
      const found = await said.find(
        `${asked[search % asked.length]!}${search % 3 === 0 ? ' par' : ''}`,
      );
      took.push(performance.now() - began);
      if (found.length === 0) throw new Error('nothing was found');
    }
    return took;
  } finally {
    await db.destroy();
  }
};

try {
  const voices = ['rms', 'slt', 'awb'].map((voice) => speak(voice, folder, SENTENCES));
  const all = [];
  for (const speech of voices) all.push(offBy(speech, (await align(speech, SENTENCES)).units));
  const missing = [];
  for (const speech of voices) missing.push(await missingIn(speech));
  const person = prompts();
  const human =
    person &&
    offBy(
      person,
      (
        await align(
          person,
          person.said.map(({ text }) => text),
        )
      ).units,
    );

  // Ten minutes of one voice after the other.
  const parts = [...voices, ...voices, ...voices];
  const tenMinutes = Buffer.concat(parts.map(({ samples }) => samples)).subarray(0, 600 * RATE * 2);
  const script = parts.flatMap(({ said }) => said.map(({ text }) => text));
  const { tookMs } = await align({ samples: tenMinutes, said: [] }, script);
  const sound = join(folder, 'ten.mp4');
  const asRaw = ['-f', 's16le', '-ar', String(RATE), '-ac', '1', '-i', join(folder, 'speech.raw')];
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...asRaw, '-c:a', 'aac', sound]);
  const began = performance.now();
  execFileSync('ffmpeg', ['-v', 'error', '-i', sound, '-f', 'null', '-']);
  const floorMs = performance.now() - began;

  const compared = person ?? voices[0]!;
  const alike = offBy(compared, (await alignAlike(compared)).units);
  const sentences = all.flatMap((one) => one.sentences);
  const words = all.flatMap((one) => one.words);
  const sum = (of: readonly number[]) => of.reduce((total, one) => total + one, 0);
  const result = {
    name: 'words',
    sentenceMsMean: rounded(mean(sentences)),
    sentenceMsP95: rounded(p95(sentences)),
    wordMsP95: rounded(p95(words)),
    lost: sum(all.map(({ lost }) => lost)),
    missingFound: rounded(sum(missing.map(([found]) => found)) / sum(missing.map(([, of]) => of))),
    humanSentenceMsMean: human && rounded(mean(human.sentences)),
    humanSentenceMsP95: human && rounded(p95(human.sentences)),
    humanLost: human && `${human.lost} of ${person.said.length}`,
    otherVoiceMsMean: rounded(mean(alike.sentences)),
    otherVoiceMsP95: rounded(p95(alike.sentences)),
    otherVoiceOf: person ? 'a person' : 'a synthesized voice',
    tenMinutesMs: Math.round(tookMs),
    timesDecoding: rounded(tookMs / floorMs),
    draftWordErrorRate: await draftErrorRate(person ?? voices[0]!),
    draftOf: person ? 'a person' : 'a synthesized voice',
    searchMsP95: rounded(p95(await searchMs())),
  };
  const root = process.env['UNDER_CHALK_ROOT'] ?? process.cwd();
  await mkdir(join(root, 'bench/results'), { recursive: true });
  await writeFile(join(root, 'bench/results/words.json'), `${JSON.stringify(result, null, 2)}\n`);
  console.log(JSON.stringify(result));
  for (const [name, most] of Object.entries(MOST)) {
    const value = result[name as keyof typeof MOST];
    if (value > most) console.log(`${name} is ${value}; it should be ${most} at most`);
  }
} finally {
  await rm(folder, { recursive: true, force: true });
}
