import { US_PER_MS, type Us } from '../../time/us';
import type { ReadCue } from '../read-cue';
import { tidied, withCharacters, withoutTags } from './cue-text';

/** A time as WebVTT writes it (§4.3): `00:01:02.003`. */
const writtenTime = (us: Us, point = '.'): string => {
  const ms = Math.max(0, Math.round(us / US_PER_MS));
  const two = (value: number) => String(value).padStart(2, '0');
  const whole = Math.floor(ms / 1000);
  return `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}${point}${String(ms % 1000).padStart(3, '0')}`;
};

/** Text as it may stand in a cue: nothing in it is a mark, and no line of it ends the cue. */
const escaped = (text: string): string =>
  tidied(text).replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** Cues as a WebVTT file (W3C WebVTT, 2019). */
export const writeWebVtt = (cues: readonly ReadCue[], language: string): string =>
  [
    `WEBVTT\nLanguage: ${language}`,
    ...cues.map(
      ({ startUs, endUs, text }, index) =>
        `${index + 1}\n${writtenTime(startUs)} --> ${writtenTime(endUs)}\n${escaped(text)}`,
    ),
    '',
  ].join('\n\n');

/** Cues as a SubRip file: as most other programs take them. It has no marks for what its text means, so nothing is escaped. */
export const writeSrt = (cues: readonly ReadCue[]): string =>
  cues
    .map(
      ({ startUs, endUs, text }, index) =>
        `${index + 1}\r\n${writtenTime(startUs, ',')} --> ${writtenTime(endUs, ',')}\r\n${tidied(text).replaceAll('\n', '\r\n')}\r\n`,
    )
    .join('\r\n');

/** A time with two or three parts (WebVTT §6.3, collect a timestamp), a comma doing for the point; null where it is none. */
export const readTime = (text: string): Us | null => {
  const read = /^(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})(?:[.,](\d{1,3}))?$/.exec(text);
  if (!read) return null;
  const [, hours = '0', minutes = '0', seconds = '0', part = '0'] = read;
  if (Number(minutes) > 59 || Number(seconds) > 59) return null;
  const ms = Number(part.padEnd(3, '0'));
  return (Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds)) * 1_000_000 + ms * 1_000;
};

/** The line that says from when to when: `00:01.000 --> 00:02.000`, with whatever settings behind it. */
export const readTimes = (line: string): { startUs: Us; endUs: Us } | null => {
  const read = /^\s*([\d:.,]+)\s*-->\s*([\d:.,]+)(?:\s.*)?$/.exec(line);
  const startUs = read ? readTime(read[1]!) : null;
  const endUs = read ? readTime(read[2]!) : null;
  return startUs === null || endUs === null ? null : { startUs, endUs };
};

/**
 * Reads a WebVTT file as its parser does (§6.1): blocks of comments, styles and regions are passed over, and so is a cue whose
 * times can't be read. Of its marks only the words are kept.
 *
 * @param text begins with `WEBVTT`; lines end in `\n`
 */
export const readWebVtt = (text: string): ReadCue[] => {
  const lines = text.split('\n');
  const cues: ReadCue[] = [];
  let at = 0;
  // The header ends at the first empty line, or where a cue begins without one.
  while (at < lines.length && lines[at] !== '' && !lines[at]!.includes('-->')) at++;
  while (at < lines.length) {
    while (at < lines.length && lines[at] === '') at++;
    if (at >= lines.length) break;
    // An identifier, or the times at once.
    if (!lines[at]!.includes('-->')) at++;
    const times = at < lines.length && lines[at]!.includes('-->') ? readTimes(lines[at]!) : null;
    const said = at < lines.length && lines[at]!.includes('-->');
    if (said) at++;
    const words: string[] = [];
    while (at < lines.length && lines[at] !== '' && !lines[at]!.includes('-->')) {
      words.push(lines[at]!);
      at++;
    }
    const plain = tidied(withCharacters(withoutTags(words.join('\n'))));
    if (said && times && plain !== '') cues.push({ ...times, text: plain });
  }
  return cues;
};
