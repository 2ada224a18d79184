import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** A sentence, when it begins in its sound, and when each of its words does where that is known; seconds. */
export interface Said {
  readonly text: string;
  readonly startS: number;
  readonly wordsS: readonly number[] | null;
}

/** Speech: 16-bit samples at 16 kHz, in one channel, and what is said in it. */
export interface Speech {
  readonly samples: Buffer;
  readonly said: readonly Said[];
}

const RATE = 16_000;

/** What the three made lessons say, and what is in their script and never said. */
export const SENTENCES = `The sea rises and falls twice a day.
We call the rising water the flood, and the falling water the ebb.
Between them it stands still for a while.
In the first hour the water rises by one part of twelve.
In the second hour it rises by two parts.
In the third and fourth hours it rises by three parts each.
Then it slows down again.
You can remember it as one two three, three two one.
Look at the table for the port that you are going to.
Find the day in the column on the left.
Read the height of high water and the height of low water.
Take one from the other and you have the range.
Now divide the range by twelve.
If the range is four metres, one part is about thirty three centimetres.
Two hours after low water you have three parts.
That makes one metre under your keel.
Write it down before you leave the harbour.
Do not trust your memory at sea.
The wind can hold the water back or push it in.
A deep low over the sea makes it higher than the table says.
That is why we leave a margin.
Ask the harbour master if you are not sure.
Try the second example by yourself.
Send me your answer before Friday.
Next week we look at streams.`.split('\n');
export const UNSAID = [
  'The moon pulls at all the water of the sea.',
  'We are going to anchor in four metres of water.',
];

const silence = (seconds: number): Buffer => Buffer.alloc(Math.round(seconds * RATE) * 2);

/** A row of numbers that is the same each time. */
const chance = (seed: number) => {
  let now = seed;
  return () => {
    now = (now * 1_103_515_245 + 12_345) & 0x7fffffff;
    return now / 0x7fffffff;
  };
};

/** Sounds of a sentence and when each ends, as the synthesizer tells. */
const soundsOf = (voice: string, text: string, wav: string): { from: number; to: number }[] => {
  const told = execFileSync('flite', ['-voice', voice, '-psdur', '-t', text, '-o', wav]).toString();
  const ends = told
    .trim()
    .split(/\s+/)
    .map((part) => [part.split(':')[0]!, Number(part.split(':')[1])] as const);
  return ends.flatMap(([phone, to], at) =>
    phone === 'pau' ? [] : [{ from: ends[at - 1]?.[1] ?? 0, to }],
  );
};

const phonesIn = (voice: string, word: string): number =>
  execFileSync('flite', ['-voice', voice, '-ps', '-o', 'none', '-t', `${word} `])
    .toString()
    .trim()
    .split(/\s+/)
    .filter((phone) => phone !== 'pau').length;

/** Speaks sentences with an offline voice, and pauses of 0.05 to 0.95 s between them. */
export const speak = (voice: string, folder: string, sentences: readonly string[]): Speech => {
  const parts = [silence(1)];
  const said: Said[] = [];
  const pause = chance(7);
  let seconds = 1;
  for (const text of sentences) {
    const wav = join(folder, 'said.wav');
    const sounds = soundsOf(voice, text, wav);
    const words = text.replace(/[^\w' ]/g, '').split(' ');
    const counts = words.map((word) => phonesIn(voice, word));
    const known = counts.reduce((sum, count) => sum + count, 0) === sounds.length;
    let at = 0;
    const wordsS = counts.map((count) => {
      const from = sounds[at]?.from ?? 0;
      at += count;
      return seconds + from;
    });
    said.push({ text, startS: seconds + sounds[0]!.from, wordsS: known ? wordsS : null });
    const raw = ['-ar', String(RATE), '-ac', '1', '-f', 's16le', '-'];
    const samples = execFileSync('ffmpeg', ['-v', 'error', '-i', wav, ...raw]);
    const quiet = silence(0.05 + pause() * 0.9);
    parts.push(samples, quiet);
    seconds += (samples.length + quiet.length) / 2 / RATE;
  }
  return { samples: Buffer.concat(parts), said };
};

const PROMPTS = '/usr/share/asterisk/sounds/en_US_f_Allison';
const WRITTEN = '/usr/share/doc/asterisk-core-sounds-en/core-sounds-en.txt.gz';

/**
 * A person's voice: prompts of Debian's `asterisk-core-sounds-en-g722` with 30 ms between them (CC-BY-SA-3.0: measured with, and not
 * shipped). Null where they aren't installed.
 */
export const prompts = (): Speech | null => {
  if (!existsSync(PROMPTS) || !existsSync(WRITTEN)) return null;
  const parts = [silence(0.5)];
  const said: Said[] = [];
  let samplesSoFar = 0.5 * RATE;
  const lines = execFileSync('zcat', [WRITTEN], { maxBuffer: 1e7 }).toString().split('\n');
  for (const line of lines) {
    const [, name, text] = /^([\w/-]+): (.{46,200})$/.exec(line) ?? [];
    const path = join(PROMPTS, `${name}.g722`);
    if (!text || /[*#0-9]|\.\.\.|glorious/.test(text) || !existsSync(path)) continue;
    const raw = ['-f', 's16le', '-ar', String(RATE), '-'];
    const pcm = execFileSync('ffmpeg', ['-v', 'error', '-f', 'g722', '-i', path, ...raw]);
    const levels = Array.from({ length: Math.floor(pcm.length / 320) }, (_, block) => {
      let sum = 0;
      for (let n = 0; n < 160; n++) sum += (pcm.readInt16LE((block * 160 + n) * 2) / 32_768) ** 2;
      return Math.sqrt(sum / 160);
    });
    const loud = 0.02 * Math.max(...levels);
    const from = levels.findIndex((level) => level > loud);
    const to = levels.findLastIndex((level) => level > loud);
    const voice = pcm.subarray(from * 320, (to + 1) * 320);
    said.push({ text, startS: samplesSoFar / RATE, wordsS: null });
    parts.push(voice, silence(0.03));
    samplesSoFar += voice.length / 2 + 0.03 * RATE;
  }
  return { samples: Buffer.concat(parts), said };
};
