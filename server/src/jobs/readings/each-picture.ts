import type { Us } from '@under-chalk/core/time/us';
import { openPictures, picturesFrom, start, type MediaFile } from '@under-chalk/render';

/** Longest that ffmpeg may be silent, ms, and most of memory that it may ask for, bytes. */
export const READING_LIMITS = { quietMs: 60_000, memoryBytes: 4e9, background: true };

/** A track of pictures, and what its reader wants of them. */
export interface WantedPictures {
  readonly media: MediaFile;
  readonly durationUs: Us;
  /** Of ffmpeg; the last ones say size and form, so that a stream which changes them midway can't shift the bytes. */
  readonly filters: readonly string[];
  /** Of one picture in that form. */
  readonly bytes: number;
  /** Only those that stand by themselves are decoded. */
  readonly keysOnly?: boolean;
}

/**
 * Decodes a track of pictures from its beginning, in one thread and as quickly as it goes, for whoever only looks at them.
 *
 * @param onPicture told each with its number, from 0; its bytes are used for the next one
 * @throws FfmpegError, FfmpegTimeout; the signal's reason
 */
export const eachPicture = async (
  { media, durationUs, filters, bytes, keysOnly = false }: WantedPictures,
  onPicture: (picture: Uint8Array, index: number) => void,
  signal?: AbortSignal,
): Promise<void> => {
  const decoder = start(
    'ffmpeg',
    [
      ...['-threads', '1', '-skip_loop_filter', 'all', '-flags2', 'fast'],
      ...(keysOnly ? ['-skip_frame', 'nokey'] : []),
      ...[...openPictures(picturesFrom(media, durationUs, 0)), '-filter_threads', '1'],
      ...['-vf', filters.join(','), '-f', 'rawvideo', 'pipe:1'],
    ],
    signal,
    READING_LIMITS,
  );
  decoder.stdin.end();
  const picture = new Uint8Array(bytes);
  let [filled, index] = [0, 0];
  try {
    for await (const come of decoder.stdout as AsyncIterable<Buffer>) {
      for (let from = 0; from < come.length;) {
        const part = come.subarray(from, from + bytes - filled);
        picture.set(part, filled);
        from += part.length;
        filled += part.length;
        if (filled < bytes) continue;
        filled = 0;
        onPicture(picture, index++);
      }
    }
    await decoder.ended;
  } finally {
    decoder.kill();
  }
};
