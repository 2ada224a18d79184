import type { Given } from './given';
import { readPictures } from './picture-on-request';
import { readSound } from './sound-by-worklet';

/** A track being read. */
export interface Reading {
  readonly given: Given;
  /** What must be handed over with it, and not copied. */
  readonly transfer: Transferable[];
  close(): void;
}

/** Whether this browser gives the frames and samples of a track by itself (MediaStreamTrack Insertable Media Processing). */
const hasProcessor = () => typeof MediaStreamTrackProcessor !== 'undefined';

/** Whether this browser can read tracks at all, in one way or the other. */
export const canReadTracks = (): boolean =>
  hasProcessor() || (typeof VideoFrame !== 'undefined' && typeof AudioWorkletNode !== 'undefined');

/** Begins to read a track; its frames or samples come on the other side from now on. */
export const readTrack = (track: MediaStreamTrack): Reading => {
  if (!hasProcessor()) return track.kind === 'video' ? readPictures(track) : readSound(track);
  const processor = new MediaStreamTrackProcessor({ track: track as MediaStreamVideoTrack });
  const readable = processor.readable as ReadableStream<VideoFrame>;
  return { given: { readable }, transfer: [readable], close: () => undefined };
};
