import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { Folders } from '../config';
import { forceToDisk } from './force-to-disk';

/** Ends of names that say how typed text is meant; of all else the bytes tell. */
const MEANT = ['.md', '.txt'] as const;
const FORMS: Readonly<Record<string, (typeof MEANT)[number]>> = {
  '.md': '.md',
  '.markdown': '.md',
  '.txt': '.txt',
  '.text': '.txt',
};

type Places = Pick<Folders, 'materials'>;

/** Where the file of a material is, by its content; null where there is none. */
export const materialFile = ({ materials }: Places, content: string): string | null =>
  ['', ...MEANT].map((end) => join(materials, content + end)).find((path) => existsSync(path)) ??
  null;

/**
 * Takes a file that came in among the materials.
 *
 * @param name as it was called; tells Markdown from plain text, and nothing else
 * @returns its content: SHA-256, hexadecimal, of the bytes and of how text is meant
 */
export const keepMaterial = async (
  { materials }: Places,
  incoming: string,
  name: string,
): Promise<string> => {
  const end = FORMS[extname(name).toLowerCase()] ?? '';
  const hash = createHash('sha256').update(`${end}\n`);
  for await (const bytes of createReadStream(incoming)) hash.update(bytes as Buffer);
  const content = hash.digest('hex');
  await mkdir(materials, { recursive: true });
  await rename(incoming, join(materials, content + end));
  await forceToDisk(materials);
  return content;
};

export const forgetMaterial = async (places: Places, content: string): Promise<void> => {
  const path = materialFile(places, content);
  if (path) await rm(path, { force: true });
};
