import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { mkdir, open, rename, rm } from 'node:fs/promises';
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

/** Files of office programs stand beside the PDF that is made of them. */
const OFFICE = '.office';
const OFFICE_ENDINGS = new Set(['.pptx', '.ppt', '.odp', '.docx', '.doc', '.odt']);
/** How they begin: as a ZIP archive (OOXML, ODF), or as a compound file (MS-CFB). */
const OFFICE_HEADS = ['504b0304', 'd0cf11e0'];

/** The file of an office program that a material was brought in as; null where it is none. */
export const officeFile = ({ materials }: Places, content: string): string | null => {
  const path = join(materials, content + OFFICE);
  return existsSync(path) ? path : null;
};

/** Where the PDF goes that is made of it. */
export const pdfOfOffice = ({ materials }: Places, content: string): string =>
  join(materials, content);

const formOf = async (path: string, name: string): Promise<string> => {
  const ending = extname(name).toLowerCase();
  if (!OFFICE_ENDINGS.has(ending)) return FORMS[ending] ?? '';
  const file = await open(path, 'r');
  try {
    const { buffer } = await file.read(Buffer.alloc(4), 0, 4, 0);
    return OFFICE_HEADS.includes(buffer.toString('hex')) ? OFFICE : '';
  } finally {
    await file.close();
  }
};

/** Where the file of a material is that can be opened, by its content; null where there is none. */
export const materialFile = ({ materials }: Places, content: string): string | null =>
  ['', ...MEANT].map((end) => join(materials, content + end)).find((path) => existsSync(path)) ??
  null;

/**
 * Takes a file that came in among the materials.
 *
 * @param name as it was called; tells Markdown from plain text, and one office program's file from another's
 * @returns its content: SHA-256, hexadecimal, of the bytes and of how text is meant
 */
export const keepMaterial = async (
  { materials }: Places,
  incoming: string,
  name: string,
): Promise<string> => {
  const end = await formOf(incoming, name);
  const hash = createHash('sha256').update(`${end}\n`);
  for await (const bytes of createReadStream(incoming)) hash.update(bytes as Buffer);
  const content = hash.digest('hex');
  await mkdir(materials, { recursive: true });
  await rename(incoming, join(materials, content + end));
  await forceToDisk(materials);
  return content;
};

export const forgetMaterial = async (places: Places, content: string): Promise<void> => {
  for (const path of [materialFile(places, content), officeFile(places, content)]) {
    if (path) await rm(path, { force: true });
  }
};
