import type { Plan } from './plan';

/** Most bytes of a name before its ending, in UTF-8: file systems take 255, and a browser may add a number. */
const MOST_BYTES = 200;

/** As much of a text from its beginning as has so many bytes; no sign is divided. */
const within = (text: string, bytes: number): string => {
  const encoder = new TextEncoder();
  let kept = '';
  let left = bytes;
  for (const sign of text) {
    left -= encoder.encode(sign).length;
    if (left < 0) break;
    kept += sign;
  }
  return kept;
};

/** Without what Windows, macOS or Linux refuse, and control characters. */
const cleanOf = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[<>:"/\\|?*\u0000-\u001f\u007f]/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[. ]+|[. ]+$/g, '');

/**
 * The name a file is saved under: a text, with what file systems refuse replaced by spaces, at most 200 bytes, never empty and
 * never a reserved name.
 */
export const fileNameOf = (title: string, extension: string): string => {
  const clean = within(cleanOf(title), MOST_BYTES).trim();
  const reserved = /^(con|prn|aux|nul|com\d|lpt\d)$/i.test(clean);
  return `${clean === '' || reserved ? 'Lesson' : clean}.${extension}`;
};

/** The name of what is made of a lesson: its goal, its class, and the week or unit. */
export const lessonFileName = (
  { title, className, unit }: Pick<Plan, 'title' | 'className' | 'unit'>,
  extension: string,
): string =>
  fileNameOf(
    [title, className, unit]
      .map((part) => cleanOf(part))
      .filter(Boolean)
      .join(' - '),
    extension,
  );
