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
  // What a stream is taken for that doesn't say: processed media do.
  ...['-colorspace', 'bt709'],
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

/**
 * The cubic of D. P. Mitchell and A. N. Netravali (“Reconstruction Filters in Computer Graphics”, SIGGRAPH 1988), B and C.
 * A canvas enlarges with 1/3 and 1/3; what is made smaller is kept a little sharper.
 */
const cubic = (b: number, c: number): string => `filter=bicubic:param_a=${b}:param_b=${c}`;
const SMALLER = cubic(0, 0.6);
const LARGER = cubic(0.333333, 0.333333);

/** The film's colours for zimg, which rounds exactly in a sixth to a half of the time that swscale takes to do so. */
const FILM_COLOURS = 'matrix=709:range=limited';

/** How pictures become those of a film. */
export interface Scaling {
  /** Size of the result, pixels; even. */
  readonly to: { readonly width: number; readonly height: number };
  /** A part of the picture, as options of ffmpeg's `crop`. */
  readonly crop?: string | null;
  readonly isLarger?: boolean;
}

/** Filters from decoded pictures to the colours of the film: BT.709, limited range, 4:2:0. */
export const toFilm = ({ to, crop = null, isLarger = false }: Scaling): string => {
  const cubicOf = isLarger ? LARGER : SMALLER;
  // zimg takes no odd number of pixels where chroma is subsampled: a part may have one.
  const part = crop === null ? '' : `zscale=${SMALLER},format=yuv444p,crop=${crop},`;
  return `${part}zscale=w=${to.width}:h=${to.height}:${cubicOf}:${FILM_COLOURS},format=yuv420p`;
};

/** Filters from decoded pictures to RGBA of full range. The size is given because a stream can change it midway. */
export const toRgba = ({ width, height }: Scaling['to']): string =>
  `zscale=w=${width}:h=${height}:${SMALLER}:matrix=gbr:range=full,format=gbrp,format=rgba`;

/** Filters from RGBA to the colours of the film, opaque or with its alpha. */
export const rgbaToFilm = (format: 'yuv420p' | 'yuva420p'): string =>
  `format=${format === 'yuv420p' ? 'gbrp' : 'gbrap'},zscale=${SMALLER}:${FILM_COLOURS},format=${format}`;
