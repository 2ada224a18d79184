import { FILM_FPS, frameToUs } from '@under-chalk/core/time/frames';
import type { Rate } from '@under-chalk/core/time/rate';
import { toSecondsText, US_PER_SECOND, type Us } from '@under-chalk/core/time/us';
import { openOptions, seekTo, type MediaFile } from './run';

/**
 * Pictures of a track from a frame on. A track can end before its take: then its last picture is held, and
 * from a frame after that nothing else is read.
 */
export interface PicturesFrom {
  readonly media: MediaFile;
  /** Frame of recorded time whose picture comes first; no later than the track's last. */
  readonly frame: number;
  /** Where they don't go by as they were recorded: how fast, and the step of that rate's lattice that comes first. */
  readonly speed?: { readonly rate: Rate; readonly step: number };
}

/** Where a track's pictures are opened for a frame of recorded time. */
export const picturesFrom = (
  media: MediaFile,
  durationUs: Us,
  startFrame: number,
  speed?: PicturesFrom['speed'],
): PicturesFrom => {
  // A frame that is still whole: what is shorter than one, nothing may be decoded for.
  const last = Math.max(0, Math.floor((durationUs * FILM_FPS) / US_PER_SECOND) - 1);
  return { media, frame: Math.min(startFrame, last), ...(speed ? { speed } : {}) };
};

/**
 * Options that open a picture track shortly before a frame. Timestamps are kept (they are recorded
 * time), and the decoder starts at the key frame before, without dropping what comes between: the
 * picture on show at the first frame may have begun long before it.
 */
export const openPictures = ({ media, frame }: PicturesFrom): string[] => [
  ...openOptions(media),
  ...(frame > 0 ? seekTo(frameToUs(frame)) : []),
  '-noaccurate_seek',
  '-copyts',
  '-an',
  '-i',
  media.path,
];

/**
 * Filters that make recorded frames, one after another, go by at a speed: step by step of its lattice (`core/time/rate`).
 * From where the lattice stands at the first frame, recorded frame n is shown from step ceil((n × film − into) / recorded) on.
 */
const atSpeed = ({ rate, step }: { readonly rate: Rate; readonly step: number }): string[] => {
  const { recorded, film } = rate;
  const into = (step * recorded) % film;
  const stepOf = (n: string) => `ceil((${n}*${film}-${into})/${recorded})`;
  return [
    // Of those that come at one step, the last; what is slower has one for each.
    ...(recorded > film
      ? [
          `select='eq(n,floor((${stepOf('n')}*${recorded}+${into})/${film}))'`,
          `setpts=N/${FILM_FPS}/TB`,
        ]
      : [`setpts='${stepOf('N')}/${FILM_FPS}/TB'`, `fps=${FILM_FPS}`]),
  ];
};

/**
 * Filters that turn a picture track of any rate into exactly the frames asked for: each shows the last
 * picture that had started by its middle (as the preview does), so that pictures are as often early as
 * late; the first is held back to the start and the last on to the end.
 */
export const framesFilter = ({ frame, speed }: PicturesFrom, frames: number): string =>
  [
    `fps=${FILM_FPS}:round=near:start_time=${toSecondsText(frameToUs(frame))}`,
    ...(speed ? atSpeed(speed) : []),
    `tpad=stop=-1:stop_mode=clone`,
    `trim=end_frame=${frames}`,
    `setpts=N/${FILM_FPS}/TB`,
  ].join(',');

/** How pictures are scaled. Without rounding exactly, a change of colours is off by 4 of 255. */
export const SCALING = 'flags=bicubic+accurate_rnd+full_chroma_int';

/** Scaling to the colours of the film: BT.709, limited range. */
export const FILM_COLOURS = `${SCALING}:out_color_matrix=bt709:out_range=tv`;
