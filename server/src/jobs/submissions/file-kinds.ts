import type { SubmissionKind } from '@under-chalk/core/submission/submission';
import { extname } from 'node:path';
import { HEAD_BYTES, kindOf } from '../materials/files/file-kind';

export { HEAD_BYTES };

/** What a file is that was handed in, and the ending it is given: the one it came with may say anything. */
export interface TakenKind {
  readonly kind: SubmissionKind;
  readonly ending: string;
}

/** Endings of office programs' files by how they begin: a ZIP archive (OOXML, ODF), or a compound file (MS-CFB). */
const ZIPPED = new Set(['.docx', '.xlsx', '.pptx', '.odt', '.ods', '.odp']);
const COMPOUND = new Set(['.doc', '.xls', '.ppt']);

const ascii = (head: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...head.subarray(from, to));

/** Files of the ISO base media format (ISO/IEC 14496-12), by their brand. */
const ofBrand = (brand: string): TakenKind | null => {
  if (/^(heic|heix|mif1|msf1)/.test(brand)) return { kind: 'picture', ending: '.heic' };
  if (/^avi[fs]/.test(brand)) return { kind: 'picture', ending: '.avif' };
  if (/^M4[AB] /.test(brand)) return { kind: 'sound', ending: '.m4a' };
  if (/^qt {2}/.test(brand)) return { kind: 'film', ending: '.mov' };
  return { kind: 'film', ending: '.mp4' };
};

const PICTURES: readonly (readonly [starts: string, ending: string])[] = [
  ['\u0089PNG', '.png'],
  ['\u00ff\u00d8\u00ff', '.jpg'],
  ['GIF8', '.gif'],
  ['RIFF', '.webp'],
];

const SOUNDS: readonly (readonly [starts: RegExp, ending: string])[] = [
  [/^ID3|^\u00ff[\u00fa\u00fb\u00f2\u00f3]/, '.mp3'],
  [/^OggS/, '.ogg'],
  [/^RIFF[^]{4}WAVE/, '.wav'],
  [/^fLaC/, '.flac'],
];

/** What a file is, by what it begins with; its name only tells texts and office programs' files apart. Null: none that is taken. */
export const takenKind = (head: Uint8Array, name: string): TakenKind | null => {
  const ending = extname(name).toLowerCase();
  const start = ascii(head, 0, 16);
  if (ascii(head, 4, 8) === 'ftyp') return ofBrand(ascii(head, 8, 12));
  if (start.startsWith('\u001aE\u00df\u00a3')) return { kind: 'film', ending: '.webm' };
  const sound = SOUNDS.find(([starts]) => starts.test(start));
  if (sound) return { kind: 'sound', ending: sound[1] };
  if (start.startsWith('PK\u0003\u0004') && ZIPPED.has(ending)) return { kind: 'document', ending };
  if (start.startsWith('\u00d0\u00cf\u0011\u00e0') && COMPOUND.has(ending))
    return { kind: 'document', ending };
  switch (kindOf(head, name)) {
    case 'pdf':
      return { kind: 'pdf', ending: '.pdf' };
    case 'picture':
      return {
        kind: 'picture',
        ending: PICTURES.find(([starts]) => start.startsWith(starts))?.[1] ?? '.avif',
      };
    case 'text':
      return { kind: 'text', ending: '.txt' };
    case 'markdown':
      return { kind: 'text', ending: '.md' };
    default:
      // Pages and drawings of the web may do things where they are opened.
      return null;
  }
};
