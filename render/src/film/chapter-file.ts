import type { Chapter } from '@under-chalk/core/film/chapters';

/** Characters that mean something in FFMETADATA1 are written after a backslash (ffmpeg-formats, "Metadata 1"). */
const quoted = (text: string): string => text.replace(/[=;#\\\n]/g, (mark) => `\\${mark}`);

/** Chapters in the text form that ffmpeg reads; times in µs. */
export const chapterFile = (chapters: readonly Chapter[]): string =>
  [
    ';FFMETADATA1',
    ...chapters.flatMap(({ title, startUs, endUs }) => [
      '[CHAPTER]',
      'TIMEBASE=1/1000000',
      `START=${startUs}`,
      `END=${endUs}`,
      `title=${quoted(title)}`,
    ]),
    '',
  ].join('\n');
