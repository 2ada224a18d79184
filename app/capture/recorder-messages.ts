import type { ErrorCode } from '@under-chalk/core/errors/errors';
import type { InkRecord } from '@under-chalk/core/ink/record';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { Level } from '@under-chalk/core/sound/level';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import type { HeardSound } from '@under-chalk/core/sound/voice-memory';
import type { Given } from './reading/given';
import type { Halted } from './sending/track-sender';
import type { KeptTake } from './store/piece-store';

/** A source handed to the recorder's worker: the frames or samples of one device, and what becomes of them. */
export interface SourceToRecord {
  readonly trackId: string;
  readonly kind: TrackKind;
  readonly given: Given;
}

/** What the page asks of the recorder's worker. */
export type ToRecorder =
  /** Reads the sources, so that their clocks are known when the take begins. Records nothing. */
  | {
      readonly do: 'open';
      readonly sources: readonly SourceToRecord[];
      /** The track of what is written by hand; null where nothing can be. */
      readonly inkTrackId: string | null;
    }
  /** From now on everything is recorded: kept in the browser, and sent to the server while it goes on. */
  | { readonly do: 'start'; readonly kept: KeptTake; readonly apiOrigin: string }
  /** Another source takes the place of the one a track is recorded from. */
  | { readonly do: 'replace'; readonly source: SourceToRecord }
  /** What was written by hand, with its times on the common clock. */
  | { readonly do: 'write'; readonly records: readonly InkRecord[] }
  | { readonly do: 'pause' }
  | { readonly do: 'resume' }
  | { readonly do: 'stop' }
  /** Asks for what has just been said. */
  | { readonly do: 'look-back'; readonly seconds: number };

/** Numbers that are shown while recording, several times a second. */
export interface RecorderFigures {
  /** Recorded time so far, µs. */
  readonly elapsedUs: number;
  /** Bytes that the server doesn't have yet. */
  readonly unsentBytes: number;
  /** Why sending is at a halt and being tried again; null while it goes on. */
  readonly halted: Halted | null;
  /** Whether what the server doesn't have lies in the browser's store, and not only in memory. */
  readonly keptHere: boolean;
  /** Frames that the encoder could not keep up with, and frames in all. */
  readonly droppedFrames: number;
  readonly frames: number;
}

/** The last seconds of a take: how they sounded, and the levels since its start. */
export interface LastSeconds {
  readonly sound: HeardSound;
  readonly levels: LevelLine;
  /** Recorded time when it was asked for, µs. */
  readonly atUs: number;
}

/**
 * How an encoder that failed was followed:
 * - `again`: by one of the same settings
 * - `simpler`: by one of simpler settings
 * - `gone`: by none; nothing more of this track can be recorded
 */
export type Recovery = 'again' | 'simpler' | 'gone';

/** What the worker tells the page. */
export type FromRecorder =
  /** The clocks of all sources are known. */
  | { readonly is: 'ready' }
  | { readonly is: 'first'; readonly trackId: string }
  | { readonly is: 'figures'; readonly figures: RecorderFigures }
  | { readonly is: 'level'; readonly level: Level }
  | { readonly is: 'ended'; readonly kind: TrackKind }
  /** An encoder failed, and this is how it was followed. The take goes on. */
  | { readonly is: 'recovered'; readonly kind: TrackKind; readonly recovery: Recovery }
  | { readonly is: 'last-seconds'; readonly last: LastSeconds }
  /** The browser has no more room: the take must end here. */
  | { readonly is: 'store-full' }
  | { readonly is: 'broke'; readonly problem: ErrorCode; readonly detail: string }
  /** The take has ended and every byte is in the browser's store, though not yet on the server. */
  | { readonly is: 'kept-here'; readonly durationUs: number; readonly packets: Packets }
  | { readonly is: 'all-sent'; readonly durationUs: number; readonly packets: Packets };

/** Encoded pictures and blocks of sound in each track: what must be there in the end, whatever happens between. */
export type Packets = Readonly<Partial<Record<TrackKind, number>>>;
