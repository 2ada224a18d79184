import type { ErrorCode } from '@under-chalk/core/errors/errors';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { Level } from '@under-chalk/core/sound/level';

/** A source handed to the recorder's worker: the frames or samples of one device, and what becomes of them. */
export interface SourceToRecord {
  readonly trackId: string;
  readonly kind: TrackKind;
  readonly readable: ReadableStream<VideoFrame> | ReadableStream<AudioData>;
}

/** What the page asks of the recorder's worker. */
export type ToRecorder =
  /** Reads the sources, so that their clocks are known when the take begins. Records nothing. */
  | { readonly do: 'open'; readonly sources: readonly SourceToRecord[] }
  /** The take exists on the server: from now on everything is recorded. */
  | { readonly do: 'start'; readonly takeId: string; readonly apiOrigin: string }
  | { readonly do: 'pause' }
  | { readonly do: 'resume' }
  | { readonly do: 'stop' };

/** Numbers that are shown while recording, several times a second. */
export interface RecorderFigures {
  /** Recorded time so far, µs. */
  readonly elapsedUs: number;
  /** Bytes that the server doesn't have yet. */
  readonly unsentBytes: number;
  /** Whether sending is at a halt and being tried again. */
  readonly offline: boolean;
  /** Frames that the encoder could not keep up with, and frames in all. */
  readonly droppedFrames: number;
  readonly frames: number;
}

/** What the worker tells the page. */
export type FromRecorder =
  /** The clocks of all sources are known. */
  | { readonly is: 'ready' }
  | { readonly is: 'first'; readonly trackId: string }
  | { readonly is: 'figures'; readonly figures: RecorderFigures }
  | { readonly is: 'level'; readonly level: Level }
  | { readonly is: 'ended'; readonly kind: TrackKind }
  | { readonly is: 'broke'; readonly problem: ErrorCode; readonly detail: string }
  | { readonly is: 'all-sent'; readonly durationUs: number };
