import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import { videoEncoderFor } from '../ffmpeg/encoder';
import { run } from '../ffmpeg/run';

const LIMITS = { deadlineMs: 60_000, memoryBytes: 8e9 };

/**
 * Encodes a single picture as all chunks of a film of some size are: what describes them is known before any of them is
 * made.
 *
 * @param out the MP4 to write
 * @throws FfmpegError
 */
export const encodedStill = async (size: SizePx, out: string): Promise<void> => {
  const { widthPx, heightPx } = size;
  await run(
    'ffmpeg',
    [
      ...['-f', 'lavfi', '-i', `color=black:size=${widthPx}x${heightPx}:rate=${FILM_FPS}`],
      ...['-vf', 'setsar=1', '-frames:v', '1', ...videoEncoderFor(size), '-f', 'mp4', out],
    ],
    undefined,
    LIMITS,
  );
};

/** What names it: equal text, equal description. */
export const stillText = (size: SizePx): string =>
  JSON.stringify(['head', size.widthPx, size.heightPx, videoEncoderFor(size)]);
