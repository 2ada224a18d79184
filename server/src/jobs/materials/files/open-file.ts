import { open, readFile } from 'node:fs/promises';
import { MOST_MATERIAL_BYTES } from '@under-chalk/core/material/material';
import { Unreadable, type MaterialFile } from '../reading';

/** What a file is, by what it begins with; its name only tells Markdown from other text. */
export type FileKind = 'pdf' | 'picture' | 'svg' | 'markdown' | 'text';

const HEAD_BYTES = 4_096;

const begins = (head: Uint8Array, ...bytes: readonly number[]) =>
  bytes.every((byte, at) => head[at] === byte);

const ascii = (head: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...head.subarray(from, to));

/** Whether bytes are UTF-8 without control characters, but for one that the end may have cut. */
const isText = (head: Uint8Array): boolean => {
  const text = new TextDecoder('utf-8').decode(head, { stream: true });
  return !/[\u0000-\u0008\u000e-\u001a\u001c-\u001f\ufffd]/.test(text);
};

/** @returns null where it is none that can be shown */
export const kindOf = (head: Uint8Array, name: string): FileKind | null => {
  // ISO 32000-1, annex H: readers look for the header in the first kilobyte.
  if (ascii(head, 0, 1_024).includes('%PDF-')) return 'pdf';
  if (begins(head, 0x89, 0x50, 0x4e, 0x47) || begins(head, 0xff, 0xd8, 0xff)) return 'picture';
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WEBP') return 'picture';
  if (/^GIF8[79]a/.test(ascii(head, 0, 6))) return 'picture';
  if (ascii(head, 4, 8) === 'ftyp' && /avif|avis/.test(ascii(head, 8, 32))) return 'picture';
  if (!isText(head)) return null;
  const start = new TextDecoder()
    .decode(head)
    .replace(/^\ufeff/, '')
    .trimStart();
  if (/^(<\?xml[^>]*>|<!--[\s\S]*?-->|<!DOCTYPE svg[^>]*>|\s)*<svg[\s>]/i.test(start)) return 'svg';
  // Pages of the web are no text that anybody would read as such.
  if (/^(<\?xml[^>]*>|<!--[\s\S]*?-->|\s)*<(!doctype|html|[a-z]+[\s>])/i.test(start)) return null;
  if (!/\.(txt|text|md|markdown)$/i.test(name)) return null;
  return /\.(md|markdown)$/i.test(name) ? 'markdown' : 'text';
};

/** Loads what opens most of them. */
export const warm = async (): Promise<void> => (await import('./pdf')).warm();

/**
 * Opens a file that was brought in.
 *
 * @throws Unreadable
 */
export const openFile = async (path: string, name: string): Promise<MaterialFile> => {
  const file = await open(path, 'r');
  let head: Uint8Array;
  let size: number;
  try {
    ({ size } = await file.stat());
    const { buffer, bytesRead } = await file.read(new Uint8Array(HEAD_BYTES), 0, HEAD_BYTES, 0);
    head = buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
  if (size === 0) throw new Unreadable('file-empty');
  if (size > MOST_MATERIAL_BYTES) throw new Unreadable('material-too-heavy', `${size} bytes`);
  const kind = kindOf(head, name);
  // What opens each kind is loaded when there is one: the first page is waited for.
  const openPdf = async (data: Uint8Array) => (await import('./pdf')).openPdf(data);
  switch (kind) {
    case 'pdf':
      return openPdf(new Uint8Array(await readFile(path)));
    case 'picture':
      return (await import('./picture')).openPicture(path);
    case 'svg':
      return (await import('./svg')).openSvg(await readFile(path, 'utf8'));
    case 'markdown':
    case 'text': {
      const { textPdf } = await import('./text-pages');
      return openPdf(await textPdf(await readFile(path, 'utf8'), kind));
    }
    case null:
      throw new Unreadable('file-not-material');
  }
};
