import { cleanText } from '../../text/clean';
import { AppError } from '../../errors/errors';
import { languageSchema } from '../cue';
import type { ReadCue } from '../read-cue';
import { readSrt } from './srt';
import { readTtml } from './ttml';
import { readTimes, readWebVtt } from './web-vtt';

/** Largest file of words, bytes: ten hours of talk are a tenth of it. */
export const MOST_BYTES = 4_000_000;
/** Most cues in a file. */
export const MOST_CUES = 20_000;

/** What a file of words comes to. */
export type ReadFile =
  | {
      readonly kind: 'cues';
      readonly form: 'WebVTT' | 'SRT' | 'TTML';
      readonly cues: readonly ReadCue[];
      /** As the file says; null where it doesn't. */
      readonly language: string | null;
      /** What was left out or set right, each in a sentence. */
      readonly told: readonly string[];
    }
  | { readonly kind: 'text'; readonly text: string; readonly told: readonly string[] };

/** The text of a file (WHATWG Encoding): by its mark at the beginning, else UTF-8, else what old programs of the West write. */
const decoded = (bytes: Uint8Array): { text: string; told: string[] } => {
  const begins = (...marks: number[]) => marks.every((mark, at) => bytes[at] === mark);
  if (begins(0xff, 0xfe)) return { text: new TextDecoder('utf-16le').decode(bytes), told: [] };
  if (begins(0xfe, 0xff)) return { text: new TextDecoder('utf-16be').decode(bytes), told: [] };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), told: [] };
  } catch {
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      told: ['The file is not in UTF-8; it was read as an old Western one. Look at its accents.'],
    };
  }
};

/** Whether it is text at all, and not a film with another name. */
const looksLikeText = (text: string): boolean => {
  const beginning = text.slice(0, 2_000);
  const odd = [...beginning].filter((sign) => {
    const code = sign.codePointAt(0)!;
    return code === 0xfffd || code === 0 || (code < 32 && !'\n\r\t\f'.includes(sign));
  });
  return odd.length <= beginning.length / 100;
};

const languageIn = (header: string): string | null => {
  const named = /^Language:\s*(\S+)/im.exec(header)?.[1];
  return named && languageSchema.safeParse(named).success ? named : null;
};

/** Cues in order, without those that no time is left of. */
const sorted = (cues: readonly ReadCue[], told: string[]): ReadCue[] => {
  const forward = cues.filter(({ startUs, endUs }) => endUs > startUs);
  const backward = cues.length - forward.length;
  if (backward > 0) {
    told.push(
      `${backward === 1 ? 'One of them ends before it begins, and was' : `${backward} of them end before they begin, and were`} left out.`,
    );
  }
  return forward
    .map((cue) => ({ ...cue, text: cleanText(cue.text) }))
    .filter(({ text }) => text.trim() !== '')
    .sort((a, b) => a.startUs - b.startUs);
};

/**
 * Reads a file of words: WebVTT, SRT, TTML, or plain text. What it is is told by what is in it, not by its name. Marks and scripts
 * in it come to nothing but their words.
 *
 * @throws AppError `words-too-large`, `words-unreadable`, `words-empty`
 */
export const readWordsFile = (bytes: Uint8Array): ReadFile => {
  if (bytes.length > MOST_BYTES) throw new AppError('words-too-large');
  const { text: raw, told } = decoded(bytes);
  if (!looksLikeText(raw)) throw new AppError('words-unreadable');
  const text = raw
    .replace(/^\ufeff/, '')
    .replace(/\r\n?/g, '\n')
    .replaceAll('\0', '\ufffd');
  const cuesAs = (
    form: 'WebVTT' | 'SRT' | 'TTML',
    cues: readonly ReadCue[],
    language: string | null,
  ): ReadFile => {
    if (cues.length > MOST_CUES) throw new AppError('words-too-large');
    const found = sorted(cues, told);
    if (found.length === 0) throw new AppError('words-empty');
    return { kind: 'cues', form, cues: found, language, told };
  };
  if (/^WEBVTT(?:[ \t\n]|$)/.test(text)) {
    return cuesAs('WebVTT', readWebVtt(text), languageIn(text.split('\n\n', 1)[0]!));
  }
  if (/^\s*<[\s\S]*<(?:\w+:)?tt[\s>]|^\s*<(?:\w+:)?tt[\s>]/.test(text.slice(0, 4_000))) {
    let read: ReturnType<typeof readTtml>;
    try {
      read = readTtml(text);
    } catch {
      throw new AppError('words-unreadable');
    }
    const named = languageSchema.safeParse(read.language);
    return cuesAs('TTML', read.cues, named.success ? named.data : null);
  }
  if (text.split('\n').some((line) => line.includes('-->') && readTimes(line))) {
    return cuesAs('SRT', readSrt(text), null);
  }
  const plain = cleanText(text).trim();
  if (plain === '') throw new AppError('words-empty');
  return { kind: 'text', text: plain, told };
};
