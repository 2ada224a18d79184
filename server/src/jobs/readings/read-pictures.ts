import type { Track } from '@under-chalk/core/lesson/take';
import { PICTURE_VERSION, type PictureReading } from '@under-chalk/core/picture/reading';
import {
  PictureWatcher,
  WATCHED,
  WATCHED_BYTES,
  WATCHED_EVERY_US,
  type Look,
} from '@under-chalk/core/picture/watcher';
import { nearestFrame } from '@under-chalk/core/time/frames';
import { US_PER_SECOND } from '@under-chalk/core/time/us';
import { framesFilter, openPictures, picturesFrom, run, type MediaFile } from '@under-chalk/render';
import { eachPicture, READING_LIMITS } from './each-picture';
import { openTextReader, readSizeOf, type TextReader } from './text-reader';
import type { TrackWork } from './track-readings';

/** So many different looks of a track are read at most: those that stand longest. */
const MOST_LOOKS = 120;
/** How much of the whole work it is to watch the pictures go by. */
const WATCHING_SHARE = 0.4;

/** What was read of a track. */
export interface KeptPictures extends PictureReading {
  readonly of: string;
}

/** Shows a watcher a track's pictures, one a second. */
const watch = async (
  watcher: PictureWatcher,
  media: MediaFile,
  track: Track,
  { keysOnly, onSecond }: { keysOnly: boolean; onSecond: (second: number) => void },
  signal: AbortSignal | undefined,
): Promise<void> => {
  const { widthPx, heightPx } = WATCHED;
  const filters = [
    `fps=${US_PER_SECOND / WATCHED_EVERY_US}:start_time=0:round=up`,
    `scale=${widthPx}:${heightPx}:flags=area`,
    'format=yuv444p',
  ];
  await eachPicture(
    { media, durationUs: track.durationUs, filters, bytes: WATCHED_BYTES, keysOnly },
    (planes, second) => {
      watcher.next(planes, second * WATCHED_EVERY_US);
      onSecond(second + 1);
    },
    signal,
  );
};

/** What can be read in a look of a track. */
const readLook = async (
  reader: TextReader,
  media: MediaFile,
  track: Track,
  { atUs }: Look,
  signal: AbortSignal | undefined,
) => {
  const { widthPx, heightPx } = readSizeOf(track.widthPx / track.heightPx);
  const from = picturesFrom(media, track.durationUs, nearestFrame(atUs));
  const filters = [framesFilter(from, 1), `scale=${widthPx}:${heightPx}`, 'format=gray'];
  const picture = await run(
    'ffmpeg',
    [
      ...['-threads', '1', ...openPictures(from), '-vf', filters.join(','), '-frames:v', '1'],
      ...['-f', 'image2pipe', '-c:v', 'pgm', 'pipe:1'],
    ],
    signal,
    READING_LIMITS,
  );
  return reader.read(picture, widthPx, heightPx);
};

/**
 * Reads a track of pictures: watches it go by for what wasn't meant, and of a surface reads what stands for long enough.
 *
 * In what came as a file whole pictures may lie far apart, and all are decoded; our recorders put one each second, and only those are.
 *
 * @param onProgress told how much has been done, 0 to 1
 * @param signal ends it
 * @throws FfmpegError, FfmpegTimeout when the pictures can't be read
 */
export const readPictures = async (
  { media, track, isForeign }: TrackWork,
  onProgress: (share: number) => void = () => undefined,
  signal?: AbortSignal,
): Promise<KeptPictures> => {
  const watcher = new PictureWatcher(track.kind === 'camera');
  const seconds = Math.max(1, track.durationUs / WATCHED_EVERY_US);
  const onSecond = (second: number) => onProgress(Math.min(1, second / seconds) * WATCHING_SHARE);
  await watch(watcher, media, track, { keysOnly: !isForeign, onSecond }, signal);
  const { flaws, looks } = watcher.finish(track.durationUs, MOST_LOOKS);
  const read: PictureReading['texts'][number][] = [];
  if (looks.length > 0) {
    const reader = await openTextReader();
    try {
      for (const [index, look] of looks.entries()) {
        signal?.throwIfAborted();
        const shown = await readLook(reader, media, track, look, signal);
        if (shown.length > 0)
          read.push(...look.stretches.map((stretch) => ({ ...stretch, shown })));
        onProgress(WATCHING_SHARE + ((1 - WATCHING_SHARE) * (index + 1)) / looks.length);
      }
    } finally {
      reader.close();
    }
  }
  const texts = read.sort((a, b) => a.startUs - b.startUs);
  return { version: PICTURE_VERSION, of: track.digest, texts, flaws };
};
