import { newTakeSchema } from '@under-chalk/core/contract/takes';
import { idSchema, usSchema, type Id } from '@under-chalk/core/lesson/take';
import * as z from 'zod';

/** A take of which this browser still holds something that the server may not have. */
export const keptTakeSchema = z.object({
  lessonId: idSchema,
  lessonTitle: z.string(),
  /** What the server is told when the take is made there. */
  take: newTakeSchema,
  startedAt: z.string(),
  /** Recorded time when this was last written, µs. */
  recordedUs: usSchema,
  /** The stop button was pressed: nothing more will come. */
  stopped: z.boolean(),
});
export type KeptTake = z.infer<typeof keptTakeSchema>;

/** A run of bytes of a track, by where it stands in the track's file. */
export interface PieceFacts {
  readonly from: number;
  readonly size: number;
}

/** The browser has no more room for this page. */
export class StoreFullError extends Error {
  constructor(cause: unknown) {
    super('the browser’s store is full', { cause });
    this.name = 'StoreFullError';
  }
}

/** Whether an error of the browser's means that there is no room (Storage §7: QuotaExceededError). */
export const isFull = (error: unknown): boolean =>
  error instanceof Error && error.name === 'QuotaExceededError';

/**
 * The browser's own store of what is being recorded. When {@link PieceStore.write} resolves, the piece
 * outlives the tab, the browser's process and (once flushed by the system) a power cut.
 */
export interface PieceStore {
  /** Writes down what a take is, whole or not at all. @throws StoreFullError */
  keep(take: KeptTake): Promise<void>;
  /** A take as it was last noted; null when there is nothing of it (any more). */
  take(takeId: Id): Promise<KeptTake | null>;
  /** Every take there is something of, oldest first. */
  takes(): Promise<KeptTake[]>;
  /** Lets go of a take and all its pieces. */
  forget(takeId: Id): Promise<void>;
  /**
   * Sees to it that room is set aside, once for all takes, so that a store that gets full can still take in
   * the end of a take.
   *
   * @throws StoreFullError
   */
  reserve(bytes: number): Promise<void>;
  /** Gives the room back that was set aside, to be written into; that there is none is no error. */
  useReserve(): Promise<void>;
  /** @throws StoreFullError and nothing of the piece stays */
  write(takeId: Id, trackId: Id, from: number, bytes: Uint8Array<ArrayBuffer>): Promise<void>;
  /** The pieces of a track, in order. */
  pieces(takeId: Id, trackId: Id): Promise<PieceFacts[]>;
  read(takeId: Id, trackId: Id, piece: PieceFacts): Promise<Uint8Array<ArrayBuffer>>;
  /** Lets go of pieces: the server has them on its disk. Those that are gone already are no error. */
  free(takeId: Id, trackId: Id, pieces: readonly PieceFacts[]): Promise<void>;
}
