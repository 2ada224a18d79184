import { readPictures } from './picture-on-request';
import type { Reading } from './reading';
import { readSound } from './sound-by-worklet';

/** Whether this browser gives the frames and samples of a track by itself (MediaStreamTrack Insertable Media Processing). */
const hasProcessor = () => typeof MediaStreamTrackProcessor !== 'undefined';

/** Whether this browser can read tracks at all, in one way or the other. */
export const canReadTracks = (): boolean =>
  hasProcessor() || (typeof VideoFrame !== 'undefined' && typeof AudioWorkletNode !== 'undefined');

/**
 * Blocks of sound (of 10 ms) that wait for a worker that is held up; the browser's own ten are a tenth of a
 * second, and the rest of what was said would be thrown away. Frames are not piled up: a camera lends few.
 */
const SOUND_BLOCKS = 500;

/** Begins to read a track; its frames or samples come on the other side from now on. */
export const readTrack = (track: MediaStreamTrack): Reading => {
  if (!hasProcessor()) return track.kind === 'video' ? readPictures(track) : readSound(track);
  const processor = new MediaStreamTrackProcessor({
    track: track as MediaStreamVideoTrack,
    ...(track.kind === 'audio' ? { maxBufferSize: SOUND_BLOCKS } : {}),
  });
  const readable = processor.readable as ReadableStream<VideoFrame>;
  return { given: { readable }, transfer: [readable], close: () => undefined };
};
