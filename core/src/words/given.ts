import type { Chapter } from '../film/chapters';
import type { Film } from '../film/film';
import { escapedHtml } from '../text/html';
import { formatClock } from '../time/us';
import type { ReadDescription } from './audio-description';
import { cuesIn, languagesOf } from './cue';
import { filmCuesOf } from './film-cues';
import { writeSrt, writeWebVtt } from './files/web-vtt';
import { isRightToLeft } from './language';
import { readCuesOf, type ReadWords } from './read-cue';
import { transcriptOf } from './transcript';

/** All words of a film that are given to others, the spoken language first. What was cut is not among them. */
export const readWordsOf = (film: Film): ReadWords[] => {
  const { cues, language: spoken } = film.lesson.decisions;
  return languagesOf(cues, spoken)
    .map((language) => ({
      language,
      cues: readCuesOf(filmCuesOf(film, cuesIn(cues, language))),
    }))
    .filter((words) => words.cues.length > 0);
};

/** Forms that the words of a film are given in. */
export const FORMS = {
  vtt: 'text/vtt',
  srt: 'application/x-subrip',
  txt: 'text/plain',
  html: 'text/html',
} as const;
export type Form = keyof typeof FORMS;

/** What stands round the words of a film. */
export interface About {
  readonly title: string;
  readonly chapters: readonly Chapter[];
  /** What is seen, in the language that is spoken: it stands in that transcript too. */
  readonly described?: readonly ReadDescription[];
  /** The address that a time leads to, seconds; absent: times lead nowhere. */
  readonly addressAt?: (seconds: number) => string;
}

const plainTranscript = ({ cues }: ReadWords, { title, chapters, described }: About): string =>
  [
    ...(title ? [title, '='.repeat(Math.min(72, [...title].length)), ''] : []),
    ...transcriptOf(cues, chapters, described).flatMap((part) => [
      ...(part.title === null ? [] : [part.title, '-'.repeat([...part.title].length), '']),
      ...part.paragraphs.flatMap(({ startUs, text }) => [`[${formatClock(startUs)}] ${text}`, '']),
    ]),
  ].join('\n');

const htmlTranscript = ({ cues, language }: ReadWords, about: About): string => {
  const { title, chapters, addressAt, described } = about;
  const time = (us: number) => {
    const clock = formatClock(us);
    const href = addressAt?.(Math.floor(us / 1e6));
    return href ? `<a href="${escapedHtml(href)}">${clock}</a>` : `<span>${clock}</span>`;
  };
  const body = transcriptOf(cues, chapters, described).flatMap((part) => [
    ...(part.title === null ? [] : [`<h2>${escapedHtml(part.title)}</h2>`]),
    ...part.paragraphs.map(({ startUs, text }) => `<p>${time(startUs)} ${escapedHtml(text)}</p>`),
  ]);
  return [
    '<!doctype html>',
    `<html lang="${escapedHtml(language)}"${isRightToLeft(language) ? ' dir="rtl"' : ''}>`,
    '<head><meta charset="utf-8" /><meta name="viewport" content="width=device-width" />',
    `<title>${escapedHtml(title)}</title>`,
    '<style>body{font:1.1rem/1.5 Georgia,serif;max-width:40rem;margin:2rem auto;padding:0 1rem;color:#232c31;background:#faf6ee}a,span{font:0.9rem ui-monospace,monospace}</style></head>',
    `<body><h1>${escapedHtml(title)}</h1>`,
    ...body,
    '</body></html>',
    '',
  ].join('\n');
};

/** The words of a film in one of the forms, as text. */
export const wordsAs = (form: Form, words: ReadWords, about: About): string => {
  switch (form) {
    case 'vtt':
      return writeWebVtt(words.cues, words.language);
    case 'srt':
      return writeSrt(words.cues);
    case 'txt':
      return plainTranscript(words, about);
    case 'html':
      return htmlTranscript(words, about);
  }
};
