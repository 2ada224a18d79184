import type { ErrorCode } from '@under-chalk/core/errors/errors';

/** What a page of a material shows, and says. */
export interface MaterialFile {
  /** Shapes of its pages, width over height. */
  readonly aspects: readonly number[];
  /** What a page says. @param page from 0 */
  words(page: number): Promise<string>;
  /** A page as an encoded picture. @param widthPx how wide it should be; less where it would be too high */
  paint(page: number, widthPx: number, format: PictureFormat): Promise<Uint8Array>;
}

/** `webp` to be looked at; `png` to be made into a film. */
export type PictureFormat = 'webp' | 'png';

/** Largest picture of a page that is made, px in all. */
export const MOST_PX = 16_000_000;
/** Most that is kept of what a page says, characters. */
export const MOST_WORDS = 20_000;
/** Shapes outside of this are shown as if they were at its edge. */
const [NARROWEST, WIDEST] = [0.01, 100];

export const aspectOf = (width: number, height: number): number =>
  Math.min(WIDEST, Math.max(NARROWEST, width / height));

/** How wide a page of a shape may be painted, px: never more in all than may be. */
export const paintableWidth = (widthPx: number, aspect: number): number =>
  Math.max(1, Math.floor(Math.min(widthPx, Math.sqrt(MOST_PX * aspect))));

/** Why a file can't be shown. */
export class Unreadable extends Error {
  readonly code: ErrorCode;
  constructor(code: ErrorCode, detail = '') {
    super(`${code}: ${detail}`);
    this.name = 'Unreadable';
    this.code = code;
  }
}

/** What the process that reads materials is asked. */
export type Question =
  /** What opens most files is loaded before there is one. */
  | { readonly ask: 'warm' }
  | { readonly ask: 'open'; readonly path: string; readonly name: string }
  | { readonly ask: 'words'; readonly page: number }
  | {
      readonly ask: 'paint';
      readonly page: number;
      readonly widthPx: number;
      /** The file to write; the end of its name says the format. */
      readonly format: PictureFormat;
      readonly out: string;
    };

/** What it answers. */
export interface Answers {
  readonly warm: null;
  readonly open: { readonly aspects: readonly number[]; readonly dark: boolean };
  readonly words: string;
  readonly paint: null;
}

export type ToReader = Question & { readonly id: number };
export type FromReader =
  | { readonly id: number; readonly answer: Answers[keyof Answers] }
  | { readonly id: number; readonly code: ErrorCode; readonly detail: string };
