import { FILM_FPS, frameToUs } from '@under-chalk/core/time/frames';
import { toSecondsText } from '@under-chalk/core/time/us';
import { openOptions, type MediaFile } from './run';

/**
 * Options that open a picture track shortly before a frame. Timestamps are kept (they are recorded
 * time), and the decoder starts at the key frame before, without dropping what comes between: the
 * picture on show at the first frame may have begun long before it.
 */
export const openPictures = (media: MediaFile, startFrame: number): string[] => [
  ...openOptions(media),
  ...(startFrame > 0 ? ['-ss', toSecondsText(frameToUs(startFrame))] : []),
  '-noaccurate_seek',
  '-copyts',
  '-an',
  '-i',
  media.path,
];

/**
 * Filters that turn a picture track of any rate into exactly the frames asked for: each shows the last
 * picture that had started by its middle (as the preview does), so that pictures are as often early as
 * late; the first is held back to the start and the last on to the end.
 */
export const framesFilter = (startFrame: number, frames: number): string =>
  [
    `fps=${FILM_FPS}:round=near:start_time=${toSecondsText(frameToUs(startFrame))}`,
    `tpad=stop=-1:stop_mode=clone`,
    `trim=end_frame=${frames}`,
    `setpts=N/${FILM_FPS}/TB`,
  ].join(',');

/** Conversion to the colours of the film: BT.709, limited range. */
export const FILM_COLOURS = 'out_color_matrix=bt709:out_range=tv';
