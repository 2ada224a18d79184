import { PREVIEW_PX, type PreviewSheet } from '@under-chalk/core/stream/preview-sheet';
import { run } from '../ffmpeg/run';

/** An hour takes ten seconds or so. */
const LIMITS = { deadlineMs: 600_000, memoryBytes: 4e9, background: true };

/**
 * Makes the sheet of small pictures of a finished film: a JPEG. Of the film, only the frames that stand by themselves are decoded.
 *
 * @throws FfmpegError; the signal's reason
 */
export const makePreviews = async (
  film: string,
  { everyUs, columns, rows }: PreviewSheet,
  out: string,
  signal?: AbortSignal,
): Promise<void> => {
  const rate = `1000000/${Math.round(everyUs)}`;
  await run(
    'ffmpeg',
    [
      ...['-protocol_whitelist', 'file', '-skip_frame', 'nokey', '-f', 'mov', '-i', film],
      ...['-map', '0:v:0', '-frames:v', '1', '-vf'],
      `fps=fps=${rate}:start_time=0:round=up,scale=${PREVIEW_PX}:-2:flags=area,tile=${columns}x${rows}`,
      ...['-q:v', '5', '-f', 'mjpeg', out],
    ],
    signal,
    LIMITS,
  );
};
