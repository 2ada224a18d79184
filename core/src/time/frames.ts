import { US_PER_SECOND, type Us } from './us';

/** Pictures a second in every film. Takes may have been recorded at any rate. */
export const FILM_FPS = 30;

/** Start of the numbered frame on a grid of {@link FILM_FPS}, in µs. */
export const frameToUs = (frame: number): Us => Math.round((frame * US_PER_SECOND) / FILM_FPS);

/** The frame on show at a time: the last one that has started. Tolerates the rounding of {@link frameToUs}. */
export const frameAt = (us: Us): number => Math.floor(((us + 0.5) * FILM_FPS) / US_PER_SECOND);

/** A time counted in frames; a fraction between two. */
export const inFrames = (us: Us): number => (us * FILM_FPS) / US_PER_SECOND;

/** The frame border nearest to a time. */
export const nearestFrame = (us: Us): number => Math.round(inFrames(us));

/** Samples before the start of the numbered film frame, at a sample rate in Hz. */
export const frameToSample = (frame: number, sampleRate: number): number =>
  Math.round((frame * sampleRate) / FILM_FPS);

/** Half a frame, µs: a film's frame shows the picture that is on show in its middle. */
export const HALF_FRAME_US: Us = Math.round(US_PER_SECOND / FILM_FPS / 2);
