import { open, readFile } from 'node:fs/promises';
import { MOST_MATERIAL_BYTES } from '@under-chalk/core/material/material';
import { Unreadable, type MaterialFile } from '../reading';
import { HEAD_BYTES, kindOf, type FileKind } from './file-kind';
import { decodedPage } from './page-text';
import type { Block } from './setting';

type Typed = Extract<FileKind, 'page' | 'archive' | 'markdown' | 'text'>;

/** What is to be set of a file that is only words, or words and pictures. */
const blocksIn = async (bytes: Buffer, kind: Typed): Promise<Block[]> => {
  if (kind === 'markdown' || kind === 'text')
    return (await import('./text-pages')).blocksOfTyped(bytes.toString('utf8'), kind);
  const { blocksOfPage, dataAt } = await import('./web-page');
  if (kind === 'page') return blocksOfPage(decodedPage(bytes, null), dataAt);
  const { html, location, parts } = await (await import('./web-archive')).readArchive(bytes);
  const partAt = (address: string) =>
    parts.get(address) ?? parts.get(URL.parse(address, location)?.href ?? '') ?? null;
  return blocksOfPage(html, (address) => dataAt(address) ?? partAt(address));
};

/** Sets what has no pages of its own, and opens that. What its pictures show is said with their pages. */
const openSet = async (bytes: Buffer, kind: Typed): Promise<MaterialFile> => {
  const { pagesOf } = await import('./setting');
  const { pdf, shown } = await pagesOf(await blocksIn(bytes, kind));
  const opened = await (await import('./pdf')).openPdf(pdf);
  return {
    ...opened,
    words: async (page) => [await opened.words(page), ...(shown[page] ?? [])].join('\n').trim(),
  };
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
  switch (kind) {
    case 'pdf':
      return (await import('./pdf')).openPdf(new Uint8Array(await readFile(path)));
    case 'picture':
      return (await import('./picture')).openPicture(path);
    case 'svg':
      return (await import('./svg')).openSvg(await readFile(path, 'utf8'));
    case 'page':
    case 'archive':
    case 'markdown':
    case 'text':
      return openSet(await readFile(path), kind);
    case null:
      throw new Unreadable('file-not-material');
  }
};
