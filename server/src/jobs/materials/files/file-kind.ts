/** What a file is, by what it begins with; its name only tells Markdown from other text. */
export type FileKind = 'pdf' | 'picture' | 'svg' | 'page' | 'archive' | 'markdown' | 'text';

/** How much of a file tells what it is, bytes. */
export const HEAD_BYTES = 4_096;

const begins = (head: Uint8Array, ...bytes: readonly number[]) =>
  bytes.every((byte, at) => head[at] === byte);

const ascii = (head: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...head.subarray(from, to));

/** Whether bytes are UTF-8 without control characters, but for one that the end may have cut. */
const isText = (head: Uint8Array): boolean => {
  const text = new TextDecoder('utf-8').decode(head, { stream: true });
  return !/[\u0000-\u0008\u000e-\u001a\u001c-\u001f\ufffd]/.test(text);
};

/** What may stand before the element that says what a file is: where it was saved from, and the like. */
const BEFORE = /^(?:\s+|<\?xml[^>]*>|<!--[\s\S]*?-->|<!doctype svg[^>]*>)/i;
const PAGE = /^<(!doctype html|html)[\s>]/i;
const SVG = /^<svg[\s>]/i;
/** A page and what it shows in one file: MIME (RFC 2557). */
const ARCHIVE = /^([\w-]+:[^\n]*\n([ \t][^\n]*\n)*)*content-type:\s*multipart\/related/i;

/** One at a time: a pattern that takes any number of them could be made to try all ways of dividing them. */
const startOf = (text: string): string => {
  let start = text.replace(/^\ufeff/, '');
  for (let before = BEFORE.exec(start); before; before = BEFORE.exec(start)) {
    start = start.slice(before[0].length);
  }
  return start;
};

/** @returns null where it is none that can be shown */
export const kindOf = (head: Uint8Array, name: string): FileKind | null => {
  // ISO 32000-1, annex H: readers look for the header in the first kilobyte.
  if (ascii(head, 0, 1_024).includes('%PDF-')) return 'pdf';
  if (begins(head, 0x89, 0x50, 0x4e, 0x47) || begins(head, 0xff, 0xd8, 0xff)) return 'picture';
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WEBP') return 'picture';
  if (/^GIF8[79]a/.test(ascii(head, 0, 6))) return 'picture';
  if (ascii(head, 4, 8) === 'ftyp' && /avif|avis/.test(ascii(head, 8, 32))) return 'picture';
  const start = startOf(new TextDecoder().decode(head));
  // Pages are text in whatever encoding.
  if (PAGE.test(start)) return 'page';
  if (ARCHIVE.test(start)) return 'archive';
  if (!isText(head)) return null;
  if (SVG.test(start)) return 'svg';
  if (!/\.(txt|text|md|markdown)$/i.test(name)) return null;
  return /\.(md|markdown)$/i.test(name) ? 'markdown' : 'text';
};
