import { FILM_FPS, frameToUs } from '@under-chalk/core/time/frames';
import { toSecondsText } from '@under-chalk/core/time/us';
import { run } from '../ffmpeg/run';

/** Of the sound: it comes in packets of 1024 samples, and the last one may stick out or be cut. */
const LENGTH_TOLERANCE_S = 0.05;
/** What is decoded at either end, frames. */
const END_FRAMES = FILM_FPS;

/** A film that came out otherwise than planned. It is not shown to anybody. */
export class FilmCheckError extends Error {
  constructor(what: string) {
    super(`the film came out wrong: ${what}`);
    this.name = 'FilmCheckError';
  }
}

const LIMITS = { deadlineMs: 120_000 };
const open = ['-protocol_whitelist', 'file', '-f', 'mov'];

/**
 * Decodes picture and sound from several places on, as strictly as ffmpeg can, in one process.
 *
 * @param starts frames of the film
 * @param frames how many from each
 * @returns frames decoded from each
 */
const decodeFrom = async (
  path: string,
  starts: readonly number[],
  frames: number,
  signal?: AbortSignal,
): Promise<number[]> => {
  const seconds = toSecondsText(frameToUs(frames));
  const listed = await run(
    'ffmpeg',
    [
      ...['-xerror', '-err_detect', 'explode'],
      ...starts.flatMap((frame) => [
        ...[...open, '-ss', toSecondsText(frameToUs(frame)), '-t', seconds, '-i', path],
      ]),
      ...starts.flatMap((_, input) => ['-map', `${input}:v:0`]),
      ...['-f', 'framecrc', 'pipe:1'],
      ...starts.flatMap((_, input) => ['-map', `${input}:a:0`]),
      ...['-f', 'null', '-'],
    ],
    signal,
    LIMITS,
  );
  const lines = listed.toString('latin1').split('\n');
  return starts.map((_, stream) => lines.filter((line) => line.startsWith(`${stream},`)).length);
};

/**
 * Checks a finished film: picture and sound as long as planned, to the frame, and decodable at both ends.
 *
 * @throws FilmCheckError what is wrong with it
 */
export const checkFilm = async (
  path: string,
  frames: number,
  signal?: AbortSignal,
): Promise<void> => {
  const told = await run(
    'ffprobe',
    [
      ...['-v', 'error', ...open],
      ...['-show_entries', 'stream=codec_type,nb_frames,duration', '-of', 'json', path],
    ],
    signal,
    LIMITS,
  );
  const { streams } = JSON.parse(told.toString('utf8')) as {
    streams: { codec_type: string; nb_frames?: string; duration?: string }[];
  };
  const picture = streams.find((stream) => stream.codec_type === 'video');
  const sound = streams.find((stream) => stream.codec_type === 'audio');
  if (Number(picture?.nb_frames) !== frames) {
    throw new FilmCheckError(`${picture?.nb_frames ?? 'no'} frames of ${frames}`);
  }
  const planned = frames / FILM_FPS;
  const off = Math.abs(Number(sound?.duration) - planned);
  if (!(off <= LENGTH_TOLERANCE_S)) {
    throw new FilmCheckError(`${sound?.duration ?? 'no'} s of sound of ${planned.toFixed(3)}`);
  }
  const shown = Math.min(END_FRAMES, frames);
  const ends = [0, frames - shown];
  const decoded = await decodeFrom(path, ends, shown, signal).catch((error: unknown) => {
    if (signal?.aborted) throw error;
    throw new FilmCheckError(`its beginning or its end can't be decoded (${String(error)})`);
  });
  for (const [end, count] of decoded.entries()) {
    if (count < shown - 1)
      throw new FilmCheckError(`${count} of ${shown} frames from ${ends[end]}`);
  }
};
