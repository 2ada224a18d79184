import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import { run } from '../ffmpeg/run';

/** Shorter side of the picture for slow lines, px. */
const SHORT_PX = 360;
/** An hour takes some minutes. */
const LIMITS = { deadlineMs: 6 * 3_600_000, memoryBytes: 8e9, background: true };

/**
 * What it is encoded with: what moves takes no more than a slow line carries beside the sound, and frames come in the order
 * in which they are shown.
 */
const RENDITION_ENCODER = [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '27'],
  ...['-maxrate', '220k', '-bufsize', '330k', '-profile:v', 'main', '-level:v', '3.1'],
  ...['-pix_fmt', 'yuv420p', '-bf', '0', '-sc_threshold', '0', '-g', '100000', '-threads', '1'],
  ...['-forced-idr', '1', '-video_track_timescale', '30000'],
];

export const renditionSizeOf = ({ widthPx, heightPx }: SizePx): SizePx => {
  const scale = SHORT_PX / Math.min(widthPx, heightPx);
  const even = (px: number) => Math.max(2, Math.round((px * scale) / 2) * 2);
  return { widthPx: even(widthPx), heightPx: even(heightPx) };
};

/**
 * Makes the pictures of a finished film once more, narrower and with few bits, for slow lines. Its segments begin at the
 * same frames.
 *
 * @param starts frames at which segments begin, in order
 * @param out the MP4 to write, without sound
 * @throws FfmpegError; the signal's reason
 */
export const makeRendition = async (
  film: string,
  size: SizePx,
  starts: readonly number[],
  out: string,
  signal?: AbortSignal,
): Promise<void> => {
  const { widthPx, heightPx } = renditionSizeOf(size);
  // A little early: the first frame from then on is the one, whether times are rounded to frames or not.
  const keys = starts.map((frame) => Math.max(0, (frame - 0.25) / FILM_FPS).toFixed(5));
  await run(
    'ffmpeg',
    [
      ...['-protocol_whitelist', 'file', '-f', 'mov', '-i', film, '-map', '0:v:0'],
      ...['-vf', `scale=${widthPx}:${heightPx}:flags=bicubic,setsar=1`, ...RENDITION_ENCODER],
      ...['-force_key_frames', keys.join(','), '-map_metadata', '-1', '-map_chapters', '-1'],
      ...['-movflags', '+faststart', '-f', 'mp4', out],
    ],
    signal,
    LIMITS,
  );
};
