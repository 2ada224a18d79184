import type { ErrorCode } from '@under-chalk/core/errors/errors';
import { LONGEST_TAKE_US, type TrackKind } from '@under-chalk/core/lesson/take';
import type { LevelLine } from '@under-chalk/core/sound/level-line';
import type { Loudness } from '@under-chalk/core/sound/levelling';
import { isDiskFull, type FootageMark, type MediaFile } from '@under-chalk/render';
import { constants, copyFile, rename, rm, stat } from 'node:fs/promises';
import type { MediaStore } from '../../store/media-store';
import type { IngestedTrack } from '../../store/take-store';
import type { EarlyCopying } from './early-copy';
import { LEVEL_LIMITS, measureLevels } from './level-line';
import { filmed, MEDIA } from './media';
import { COUNT_LIMITS, inspect, LOOK_LIMITS, probe } from './probe';
import type { Ingest } from './ingest';

/** A stream that was wanted of a file, and what became of it. */
export interface Outcome {
  readonly kind: TrackKind;
  readonly track: IngestedTrack | null;
  /** Why there is no track; null where there is one, or the file has no such stream. */
  readonly problem: ErrorCode | null;
  readonly levels: LevelLine | null;
  /** How loud it is, where that was measured while it came in. */
  readonly loudness?: Loudness | null;
  /** What it is known by up to each of many times, where that was taken while it came in. */
  readonly marks?: readonly FootageMark[];
  /** Everything that had come in is in it: what came in is not needed any more. */
  readonly complete: boolean;
}

export interface Wanted {
  readonly id: string;
  readonly kind: TrackKind;
}

/** Whether an error says nothing about the footage: it stays as it is and is processed later. */
export const isForLater = (error: unknown, signal: AbortSignal) =>
  signal.aborted || isDiskFull(error);

/** Makes a track of what was copied while it came in. Null when it has to be made anew. */
export const ingestEarly = async (
  early: EarlyCopying,
  { id, kind }: Wanted,
  store: MediaStore,
  ingest: Ingest,
): Promise<Outcome | null> => {
  const copy = await early.finish(ingest.signal);
  ingest.signal.throwIfAborted();
  if (!copy) return null;
  const { signal, limits } = ingest;
  try {
    const facts = await probe(copy.media, signal, limits(LOOK_LIMITS));
    const made = await filmed(kind).ingestCopy(copy, facts, ingest);
    if (!made || made.endUs <= 0 || made.endUs > LONGEST_TAKE_US) return null;
    const { widthPx, heightPx, levels, endUs: durationUs } = made;
    const [out, { size: bytes }] = [store.media(id), await stat(copy.media.path)];
    await rename(copy.media.path, out.path);
    const track = { id, kind, durationUs, widthPx, heightPx, bytes, digest: copy.digest };
    // Every whole fragment is in it; of one that was torn more may come.
    const complete = copy.wholeBytes === (await stat(store.incoming(id))).size;
    const { loudness, marks } = copy;
    return { kind, track, problem: null, levels, loudness, marks, complete };
  } catch (error) {
    if (isForLater(error, signal)) throw error;
    return null;
  } finally {
    await rm(copy.media.path, { force: true });
  }
};

/**
 * Makes a track of a file that was processed elsewhere: the very bytes, if they can be used as they are. Null when they have
 * to be made anew.
 */
export const ingestAsItIs = async (
  digest: string,
  { id, kind }: Wanted,
  store: MediaStore,
  ingest: Ingest,
): Promise<Outcome | null> => {
  const { signal, limits } = ingest;
  const came: MediaFile = { path: store.incoming(id), demuxer: 'mov' };
  const draft = store.draft();
  try {
    const { facts, timesOf } = await inspect(came, signal, limits(COUNT_LIMITS));
    const medium = filmed(kind);
    const other = medium === MEDIA.picture ? facts.sound : facts.video;
    if (other || medium.streamOf(facts)?.index !== 0) return null;
    const times = timesOf(0);
    if (times.count === 0 || times.endUs <= 0 || times.endUs > LONGEST_TAKE_US) return null;
    const isSound = medium === MEDIA.sound;
    const levels = isSound ? await measureLevels(came, signal, limits(LEVEL_LIMITS)) : null;
    const { size: bytes } = await stat(came.path);
    const none = { loudness: null, marks: [] };
    const copy = { media: came, times, levels, wholeBytes: bytes, digest, ...none };
    const made = await medium.ingestCopy(copy, facts, ingest);
    if (!made) return null;
    await copyFile(came.path, draft, constants.COPYFILE_FICLONE);
    await rename(draft, store.media(id).path);
    const { widthPx, heightPx, endUs: durationUs } = made;
    const track = { id, kind, durationUs, widthPx, heightPx, bytes, digest };
    return { kind, track, problem: null, levels: made.levels, complete: true };
  } catch (error) {
    if (isForLater(error, signal)) throw error;
    return null;
  } finally {
    await rm(draft, { force: true });
  }
};
