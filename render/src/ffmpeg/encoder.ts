import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { Track } from '@under-chalk/core/lesson/take';
import { FILM_SOUND_RATE } from '@under-chalk/core/sound/film-sound';
import type { Limits } from './limited';
import { FILM_FPS } from '@under-chalk/core/time/frames';

/**
 * Settings of the picture's encoder: H.264 High, 4:2:0, closed GOPs as long as a chunk, and every parameter that comes to
 * stand in the stream's headers fixed, so that chunks join by copying. Part of every chunk's key.
 */
export const VIDEO_ENCODER: readonly string[] = [
  '-c:v',
  'libx264',
  '-preset',
  'veryfast',
  '-crf',
  '21',
  '-profile:v',
  'high',
  '-level:v',
  '5.1',
  '-pix_fmt',
  'yuv420p',
  '-g',
  '80',
  // Neither B-frames nor weights: they cost a quarter of the time, and save next to nothing of what lessons show.
  '-bf',
  '0',
  '-weightp',
  'none',
  '-flags',
  '+cgop',
  '-threads',
  '1',
  '-r',
  String(FILM_FPS),
  '-fps_mode',
  'cfr',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-colorspace',
  'bt709',
  '-color_range',
  'tv',
  '-video_track_timescale',
  '30000',
];

/**
 * For what is drawn and mostly stands: there is no movement to be searched for, and nothing to be foreseen. Nothing of it
 * comes to stand in the stream's headers, so that these chunks join with all others.
 */
const DRAWN: readonly string[] = [
  '-x264-params',
  'subme=0:me=dia:mbtree=0:rc-lookahead=0:scenecut=0',
];

/** What is kept finer: so much that nobody sees what was lost, in about one and a half times the bits. */
const FINER_CRF = '17';

/** Settings of the encoder for pictures of some size. */
export const videoEncoderFor = ({ finer }: Pick<SizePx, 'finer'>): readonly string[] =>
  finer
    ? VIDEO_ENCODER.map((one, at) => (VIDEO_ENCODER[at - 1] === '-crf' ? FINER_CRF : one))
    : VIDEO_ENCODER;

/** Settings for a chunk of some size that shows some tracks. */
export const encoderFor = (tracks: readonly Track[], size: SizePx): readonly string[] => [
  ...videoEncoderFor(size),
  ...(ofMedium(tracks, 'picture').length > 0 ? [] : DRAWN),
];

/** A chunk is a few seconds: one that takes this long stands still. */
export const CHUNK_LIMITS: Limits = { deadlineMs: 600_000, memoryBytes: 8e9 };
/** A piece of sound is some seconds too; finding its place in a long recording may take a while. */
export const SOUND_LIMITS: Limits = { deadlineMs: 600_000 };

/** Sound of a film: AAC, 48 kHz, stereo. */
export const SOUND_RATE = FILM_SOUND_RATE;
export const SOUND_CHANNELS = 2;
/** At this rate the fast way to choose quantizers is the better one too (ffmpeg's own documentation), in a third of the time. */
export const SOUND_ENCODER: readonly string[] = [
  ...['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', '160k'],
];
