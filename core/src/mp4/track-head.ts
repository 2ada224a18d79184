import { boxOf, joined, words } from './box';

/**
 * What comes before the fragments of a track that is streamed: a CMAF header (ISO/IEC 23000-19 §7.3.1), the `ftyp` and
 * `moov` of a file that has no samples of its own.
 */

/** A track as its head describes it. */
export interface HeadOf {
  readonly medium: 'picture' | 'sound';
  /** Ticks in a second. */
  readonly timescale: number;
  /** How samples are to be decoded: a whole sample entry (ISO/IEC 14496-12 §8.5.2). */
  readonly entry: Uint8Array;
}

const TRACK = 1;
/** Of a film: nobody reads it, for no time is told in it. */
const FILM_TIMESCALE = 1_000;
/** Fixed-point numbers (§8.2.2): 1 in 16.16, 1 in 8.8, 1 in 2.30. */
const ONE = 0x0001_0000;
const LOUD = 0x0100_0000;
const UNITY = [ONE, 0, 0, 0, ONE, 0, 0, 0, 0x4000_0000];
/** §8.3.2: enabled, in the film. */
const SHOWN = 0x0000_0003;
/** §8.4.2.3: `und`, three letters of five bits. */
const NO_LANGUAGE = 0x55c4_0000;

const letters = (text: string): Uint8Array =>
  Uint8Array.from(text, (letter) => letter.charCodeAt(0));

/** Width and height of a picture, where its sample entry has them (§12.1.3), as 16.16. */
const sizeIn = (entry: Uint8Array): number[] => {
  const view = new DataView(entry.buffer, entry.byteOffset, entry.length);
  return [view.getUint16(32) * ONE, view.getUint16(34) * ONE];
};

export const trackHead = ({ medium, timescale, entry }: HeadOf): Uint8Array<ArrayBuffer> => {
  const isPicture = medium === 'picture';
  const size = isPicture ? sizeIn(entry) : [0, 0];
  const empty = (name: string, numbers = 1) =>
    boxOf(name, words(0, ...new Array<number>(numbers).fill(0)));
  const stbl = boxOf(
    'stbl',
    boxOf('stsd', words(0, 1), entry),
    empty('stts'),
    empty('stsc'),
    empty('stsz', 2),
    empty('stco'),
  );
  const minf = boxOf(
    'minf',
    isPicture ? boxOf('vmhd', words(1, 0, 0)) : boxOf('smhd', words(0, 0)),
    // The data is in the same file (§8.7.2).
    boxOf('dinf', boxOf('dref', words(0, 1), boxOf('url ', words(1)))),
    stbl,
  );
  const handler = letters(isPicture ? 'vide' : 'soun');
  const mdia = boxOf(
    'mdia',
    boxOf('mdhd', words(0, 0, 0, timescale, 0, NO_LANGUAGE)),
    boxOf('hdlr', words(0, 0), handler, words(0, 0, 0), new Uint8Array(1)),
    minf,
  );
  const tkhd = boxOf(
    'tkhd',
    words(SHOWN, 0, 0, TRACK, 0, 0, 0, 0, 0, isPicture ? 0 : LOUD, ...UNITY, ...size),
  );
  return joined(
    boxOf('ftyp', letters('iso6'), words(1), letters('iso6cmfcmp41')),
    boxOf(
      'moov',
      boxOf(
        'mvhd',
        words(0, 0, 0, FILM_TIMESCALE, 0, ONE, LOUD, 0, 0, ...UNITY, 0, 0, 0, 0, 0, 0, TRACK + 1),
      ),
      boxOf('trak', tkhd, mdia),
      boxOf('mvex', boxOf('trex', words(0, TRACK, 1, 0, 0, 0))),
    ),
  );
};

/** Indices of sampling rates in AAC's own description (ISO/IEC 14496-3, table 1.18). */
const AAC_RATES: Readonly<Record<number, number>> = { 48_000: 3, 44_100: 4 };

/** Of MPEG-4 systems (ISO/IEC 14496-1 §7.2.6): a tag, a length below 128, content. */
const descriptor = (tag: number, ...content: readonly Uint8Array[]): Uint8Array => {
  const inside = joined(...content);
  return joined(Uint8Array.of(tag, inside.length), inside);
};

/**
 * The sample entry of AAC-LC (ISO/IEC 14496-14 §6.7).
 *
 * @param rate samples a second, 48,000 or 44,100
 */
export const aacEntry = (rate: number, channels: number): Uint8Array<ArrayBuffer> => {
  // Object type 2, the rate's index, channels (ISO/IEC 14496-3 §1.6.2.1).
  const config = (2 << 11) | (AAC_RATES[rate]! << 7) | (channels << 3);
  const about = descriptor(
    0x04,
    // Audio, upstream no; no buffer and no rates are told.
    Uint8Array.of(0x40, 0x15, 0, 0, 0),
    words(0, 0),
    descriptor(0x05, Uint8Array.of(config >> 8, config & 0xff)),
  );
  const esds = boxOf(
    'esds',
    words(0),
    descriptor(0x03, Uint8Array.of(0, 1, 0), about, descriptor(0x06, Uint8Array.of(2))),
  );
  const pairs = (first: number, second: number) => first * ONE + second;
  return boxOf('mp4a', words(0, pairs(0, 1), 0, 0, pairs(channels, 16), 0, rate * ONE), esds);
};
