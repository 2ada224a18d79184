import type { Pronunciations } from '@under-chalk/core/words/align/grammar';
import { readFile } from 'node:fs/promises';
import { runProgram } from './run-program';

/** Where Debian's `pocketsphinx-en-us` puts what it knows of English. */
export const MODEL = '/usr/share/pocketsphinx/model/en-us';
export const DICTIONARY = `${MODEL}/cmudict-en-us.dict`;

const PHONES = new Set(
  'AA AE AH AO AW AY B CH D DH EH ER EY F G HH IH IY JH K L M N NG OW OY P R S SH T TH UH UW V W Y Z ZH'.split(
    ' ',
  ),
);
/** Sounds that another program tells apart and this one doesn't. */
const ALIKE: Readonly<Record<string, string>> = {
  AX: 'AH',
  AXR: 'ER',
  IX: 'IH',
  UX: 'UW',
  EL: 'L',
  EM: 'M',
  EN: 'N',
  DX: 'T',
};

let dictionary: Promise<ReadonlyMap<string, string[]>> | null = null;

const readDictionary = async (): Promise<ReadonlyMap<string, string[]>> => {
  const found = new Map<string, string[]>();
  for (const line of (await readFile(DICTIONARY, 'utf8')).split('\n')) {
    const space = line.indexOf(' ');
    if (space <= 0) continue;
    const word = line.slice(0, space).replace(/\(\d+\)$/, '');
    const phones = line.slice(space + 1).trim();
    const there = found.get(word);
    if (there) there.push(phones);
    else found.set(word, [phones]);
  }
  return found;
};

/** An `s` at the end as it sounds after another sound. */
const plural = (phones: string): string => {
  const last = phones.split(' ').at(-1)!;
  if (['S', 'Z', 'SH', 'ZH', 'CH', 'JH'].includes(last)) return `${phones} IH Z`;
  return `${phones} ${['P', 'T', 'K', 'F', 'TH'].includes(last) ? 'S' : 'Z'}`;
};

/** A word as the synthesizer says it. Letters only are given to it. */
const spokenBy = async (word: string, signal?: AbortSignal): Promise<string | null> => {
  const letters = word.normalize('NFD').replace(/[^a-z']/g, '');
  if (letters === '') return null;
  const told = await runProgram('flite', ['-ps', '-o', 'none', '-t', letters], {
    deadlineMs: 5_000,
    memoryBytes: 1e9,
    ...(signal ? { signal } : {}),
  });
  const phones = told
    .toString('latin1')
    .trim()
    .split(/\s+/)
    .map((phone) => phone.toUpperCase())
    .map((phone) => ALIKE[phone] ?? phone)
    .filter((phone) => PHONES.has(phone));
  return phones.length > 0 ? phones.join(' ') : null;
};

/** Unknown words that were asked for already. */
const asked = new Map<string, Pronunciations>();
const MOST_ASKED = 20_000;

/**
 * How an English word may sound: as the dictionary says, as its parts do, else as a synthesizer would say it. None where none
 * can tell.
 *
 * @param word small letters, without signs
 */
export const pronunciationsOf = async (
  word: string,
  signal?: AbortSignal,
): Promise<Pronunciations> => {
  dictionary ??= readDictionary();
  dictionary.catch(() => (dictionary = null));
  const known = await dictionary;
  const own = known.get(word);
  if (own) return own;
  const stem = /^(.+?)'?s$/.exec(word)?.[1];
  const ofStem = stem ? known.get(stem) : undefined;
  if (ofStem) return ofStem.map(plural);
  const before = asked.get(word);
  if (before) return before;
  const phones = await spokenBy(word, signal).catch((error: unknown) => {
    signal?.throwIfAborted();
    if ((error as { code?: string }).code === 'ENOENT') return null;
    throw error;
  });
  const found = phones ? [phones] : [];
  if (asked.size < MOST_ASKED) asked.set(word, found);
  return found;
};
