import { contentAt, headerAt } from '@under-chalk/core/mp4/box';
import { fragmentOf, type Sample } from '@under-chalk/core/mp4/fragments';
import { sampleTablesIn, type SampleTable } from '@under-chalk/core/mp4/sample-table';
import { aacEntry, trackHead } from '@under-chalk/core/mp4/track-head';
import {
  FRAME_TICKS,
  PICTURE_TIMESCALE,
  type PictureSegment,
  type SoundSegment,
} from '@under-chalk/core/stream/segments';
import { open, type FileHandle } from 'node:fs/promises';
import { ADTS_HEADER, adtsPackets } from '../film/adts';
import { boxesOf } from '../ffmpeg/box-walk';
import { SOUND_CHANNELS, SOUND_RATE } from '../ffmpeg/encoder';
import { PACKET } from '../plan/sound';

/** Segments of a film as they are sent (fragmented MP4), of the pieces that it is made of or of the finished file. */

type Bytes = Uint8Array<ArrayBuffer>;

/** Frames one after another; only the first of them stands by itself: GOPs are closed, and as long as a chunk. */
const pictureFragment = (parts: readonly Uint8Array[], { chunk, frame }: PictureSegment): Bytes => {
  const at = (index: number) => (frame + index) * FRAME_TICKS;
  const samples = parts.map((bytes, index): Sample => ({
    bytes,
    at: at(index),
    duration: FRAME_TICKS,
    key: index === 0,
  }));
  return fragmentOf(chunk + 1, samples, at(parts.length));
};

const soundFragment = (
  packets: readonly Uint8Array[],
  { sample }: SoundSegment,
  number: number,
): Bytes => {
  const at = (index: number) => sample + index * PACKET;
  const samples = packets.map((bytes, index): Sample => ({
    bytes,
    at: at(index),
    duration: PACKET,
    key: true,
  }));
  return fragmentOf(number + 1, samples, at(packets.length));
};

const partsOf = (file: Uint8Array, { offsets, sizes }: SampleTable): Uint8Array[] =>
  Array.from(sizes, (size, index) => file.subarray(offsets[index], offsets[index]! + size));

const pictureTableIn = (moov: Uint8Array): SampleTable => {
  const table = sampleTablesIn(moov).find(({ handler }) => handler === 'vide');
  if (!table) throw new RangeError('no pictures');
  return table;
};

/** The table of the pictures in a file that is held whole. */
const pictureTableOf = (file: Uint8Array): SampleTable => {
  const moov = contentAt(file, 'moov');
  if (!moov) throw new RangeError('no moov');
  return pictureTableIn(moov);
};

/** What comes before segments of pictures, by the table of any that were encoded as they are. */
export const pictureHead = ({ entry }: Pick<SampleTable, 'entry'>): Bytes =>
  trackHead({ medium: 'picture', timescale: PICTURE_TIMESCALE, entry });

/** What comes before the segments of sound. */
export const soundHead = (): Bytes =>
  trackHead({
    ...{ medium: 'sound', timescale: SOUND_RATE },
    entry: aacEntry(SOUND_RATE, SOUND_CHANNELS),
  });

/** A segment of pictures, of the chunk that it is. @throws RangeError where that has another number of frames */
export const segmentOfChunk = (chunk: Uint8Array, segment: PictureSegment): Bytes => {
  const parts = partsOf(chunk, pictureTableOf(chunk));
  if (parts.length !== segment.frames) throw new RangeError(`${parts.length} frames in a chunk`);
  return pictureFragment(parts, segment);
};

/** A segment of sound, of the piece that it is a part of. @throws RangeError where that has too few packets */
export const segmentOfPiece = (piece: Buffer, segment: SoundSegment, number: number): Bytes => {
  const { inPiece, packets } = segment;
  const all = adtsPackets(piece).slice(inPiece, inPiece + packets);
  if (all.length !== packets) throw new RangeError(`${all.length} packets of ${packets}`);
  return soundFragment(
    all.map((packet) => packet.subarray(ADTS_HEADER)),
    segment,
    number,
  );
};

/** Where pictures and sound lie in a finished film. */
export interface FilmIndex {
  readonly path: string;
  readonly pictures: SampleTable;
  /** Null in a film of another width, whose sound is the first one's. */
  readonly sound: SampleTable | null;
}

/** Its index stands before its pictures (`faststart`) and is some MB long in the longest. */
const MOST_INDEX_BYTES = 256 << 20;

const readAt = async (file: FileHandle, at: number, length: number): Promise<Uint8Array> => {
  const bytes = new Uint8Array(length);
  const { bytesRead } = await file.read(bytes, 0, length, at);
  if (bytesRead !== length) throw new RangeError(`a film that ends ${length - bytesRead} B early`);
  return bytes;
};

/** Reads the index of a finished film. @throws RangeError where it isn't one; ENOENT */
export const readFilmIndex = async (path: string): Promise<FilmIndex> => {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    for await (const { name, at, length, headerBytes } of boxesOf(file, size)) {
      if (name !== 'moov' || length > MOST_INDEX_BYTES) continue;
      const moov = await readAt(file, at + headerBytes, length - headerBytes);
      const sound = sampleTablesIn(moov).find(({ handler }) => handler === 'soun') ?? null;
      return { path, pictures: pictureTableIn(moov), sound };
    }
    throw new RangeError('a film without an index');
  } finally {
    await file.close();
  }
};

/** Samples of a track, read in as few pieces as they lie in. */
const readSamples = async (
  path: string,
  { offsets, sizes }: SampleTable,
  first: number,
  count: number,
): Promise<Uint8Array[]> => {
  if (first + count > sizes.length) throw new RangeError(`${sizes.length} samples in a film`);
  const file = await open(path, 'r');
  try {
    const parts: Uint8Array[] = [];
    for (let from = first; from < first + count;) {
      let to = from + 1;
      let end = offsets[from]! + sizes[from]!;
      while (to < first + count && offsets[to] === end) end += sizes[to++]!;
      const run = await readAt(file, offsets[from]!, end - offsets[from]!);
      for (let at = from; at < to; at++) {
        const begins = offsets[at]! - offsets[from]!;
        parts.push(run.subarray(begins, begins + sizes[at]!));
      }
      from = to;
    }
    return parts;
  } finally {
    await file.close();
  }
};

/** A segment of pictures out of a finished film. @throws RangeError, ENOENT */
export const pictureSegmentIn = async (film: FilmIndex, segment: PictureSegment): Promise<Bytes> =>
  pictureFragment(
    await readSamples(film.path, film.pictures, segment.frame, segment.frames),
    segment,
  );

/** A segment of sound out of a finished film, whose first packet is the film's first. @throws RangeError, ENOENT */
export const soundSegmentIn = async (
  film: FilmIndex,
  segment: SoundSegment,
  number: number,
): Promise<Bytes> => {
  if (!film.sound) throw new RangeError('no sound');
  const packets = await readSamples(film.path, film.sound, segment.packet, segment.packets);
  return soundFragment(packets, segment, number);
};

/** Of a head of pictures: what they are encoded with, as RFC 6381 has it (ISO/IEC 14496-15 §5.3.3.1). */
export const codecOf = ({ entry }: SampleTable): string => {
  // A visual sample entry is 78 bytes long without its boxes (ISO/IEC 14496-12 §12.1.3).
  const avcC = contentAt(entry.subarray(8 + 78), 'avcC');
  const name = headerAt(entry, 0)?.name ?? 'avc1';
  const hex = [...(avcC ?? []).slice(1, 4)].map((byte) => byte.toString(16).padStart(2, '0'));
  return `${name}.${hex.join('')}`;
};
