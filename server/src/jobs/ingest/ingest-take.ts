import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import { LONGEST_TAKE_US, type TrackKind } from '@under-chalk/core/lesson/take';
import { FfmpegTimeout, type MediaFile } from '@under-chalk/render';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Log } from '../../log';
import { writeSynced } from '../../store/force-to-disk';
import type { IngestedElsewhere, IngestedTrack, TakeStore } from '../../store/take-store';
import type { MediaStore } from '../../store/media-store';
import { keepLoudness } from '../readings/loudness';
import { keepMarks } from '../readings/footage-marks';
import { foreignFile } from './container';
import type { EarlyCopies } from './early-copies';
import { filmed } from './media';
import { isForLater, ingestAsItIs, ingestEarly, type Outcome, type Wanted } from './ingest-copy';
import { ingestInk } from './ingest-ink';
import { COUNT_LIMITS, inspect, type Facts, type Inspected } from './probe';
import { readableFiles, removeCopies } from './recorded-file';
import { budgetOf, type Budget, type Ingest } from './ingest';

/** Shifts of less than this are left as they are: what stands before the beginning then is a packet or two. */
const LEAST_SHIFT_US = 50_000;

/**
 * Where a film begins: its first picture or sound, whichever comes first. Sound that comes before the
 * picture by a packet or two is what its decoder wants to warm up, and not heard.
 */
const originOf = ({ video, sound }: Facts): number => {
  const picture = video?.startUs ?? sound?.startUs ?? 0;
  const first = Math.min(picture, sound?.startUs ?? picture);
  const begins = picture - first < LEAST_SHIFT_US ? picture : first;
  return Math.abs(begins) >= LEAST_SHIFT_US ? begins : 0;
};

/** SHA-256 of a file, hexadecimal. */
const digestOf = async (path: string, signal: AbortSignal): Promise<string> => {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash, { signal });
  return hash.digest('hex');
};

/** Whether the take is processed again because of an error, and none of its tracks is left out for it. */
const isForNextTry = (error: unknown, signal: AbortSignal, triesAgain: boolean): boolean =>
  isForLater(error, signal) || (triesAgain && error instanceof FfmpegTimeout);

const ingestStream = async (
  inputs: readonly MediaFile[],
  inspected: readonly Inspected[],
  { id, kind }: Wanted,
  store: MediaStore,
  ingest: Omit<Ingest, 'lengthUs'>,
  budget: Budget,
): Promise<Outcome> => {
  const none: Outcome = { kind, track: null, problem: null, levels: null, complete: true };
  const { signal, originUs, foreign } = ingest;
  const { facts } = inspected[0]!;
  const out = store.media(id);
  const medium = filmed(kind);
  const stream = medium.streamOf(facts);
  if (!stream) return none;
  const packets = inspected.map(({ timesOf }) => timesOf(stream.index));
  let longestUs: number | null = null;
  // Looked at before anything is made: how much there is to do, and not every container can hold all times.
  if (foreign || inputs.length > 1) {
    for (const came of packets) {
      const endUs = came.endUs - originUs;
      if (endUs > LONGEST_TAKE_US) throw new AppError('take-too-long', `${endUs} µs`);
      longestUs = Math.max(longestUs ?? 0, endUs);
      budget.allow(came.count, stream.pixels);
    }
  }
  const made = await medium.ingest(inputs, facts, out, { ...ingest, lengthUs: longestUs });
  if (!made) return { ...none, problem: medium.unreadable, complete: false };
  if (made.endUs > LONGEST_TAKE_US) throw new AppError('take-too-long', `${made.endUs} µs`);
  if (made.endUs <= 0) return { ...none, complete: false };
  const track: IngestedTrack = {
    id,
    kind,
    durationUs: made.endUs,
    widthPx: made.widthPx,
    heightPx: made.heightPx,
    bytes: (await stat(out.path)).size,
    digest: await digestOf(out.path, signal),
  };
  // Of a film what came in is kept anyway.
  const complete = !foreign && inputs.length === 1 && packets[0]!.count === made.count;
  return { kind, track, problem: null, levels: made.levels, complete };
};

const ingestEvents = async (
  incoming: string,
  { id, kind }: Wanted,
  store: MediaStore,
): Promise<Outcome> => {
  const made = await ingestInk(incoming, store.ink(id));
  if (!made || made === 'nothing') {
    return { kind, track: null, problem: null, levels: null, complete: made === 'nothing' };
  }
  const { complete, marks, ...facts } = made;
  return { kind, track: { id, kind, ...facts }, problem: null, levels: null, marks, complete };
};

/** Processes the wanted streams of a file, each by itself: one that can't be read leaves the others whole. */
const ingestFile = async (
  incoming: string,
  wanted: readonly Wanted[],
  store: MediaStore,
  foreign: boolean,
  elsewhere: IngestedElsewhere | null,
  early: EarlyCopies,
  signal: AbortSignal,
  tell: (kind: TrackKind, share: number) => void,
  log: Log,
  triesAgain: boolean,
): Promise<Outcome[]> => {
  const { draft } = store;
  const [first] = wanted;
  if (first && mediumOf(first.kind) === 'events')
    return [await ingestEvents(incoming, first, store)];
  const digest = first && elsewhere?.digests.get(first.id);
  if (first && digest !== undefined) {
    const { limits } = budgetOf((await stat(incoming)).size, false);
    const shared = { signal, foreign, originUs: 0, draft, limits, lengthUs: null };
    const tellOne = (share: number) => tell(first.kind, share);
    const outcome = await ingestAsItIs(digest, first, store, { ...shared, tell: tellOne });
    if (outcome) return [outcome];
  }
  const begun = first && early.take(first.id);
  if (begun) {
    const { limits } = budgetOf((await stat(incoming)).size, foreign);
    const shared = { signal, foreign, originUs: 0, draft, limits, lengthUs: null };
    const outcome = await ingestEarly(begun, first, store, { ...shared, tell: () => undefined });
    if (outcome) return [outcome];
  }
  const file = await foreignFile(incoming);
  const inputs: MediaFile[] =
    file.demuxer === 'mov' && !foreign ? await readableFiles(file, draft) : [file];
  try {
    const budget = budgetOf((await stat(incoming)).size, foreign);
    const { limits } = budget;
    const inspected: Inspected[] = [];
    for (const input of inputs) {
      inspected.push(await inspect(input, signal, limits(COUNT_LIMITS)));
    }
    const originUs = foreign ? originOf(inspected[0]!.facts) : 0;
    const outcomes: Outcome[] = [];
    for (const one of wanted) {
      try {
        const tellOne = (share: number) => tell(one.kind, share);
        const ingest = { signal, foreign, originUs, draft, limits, tell: tellOne };
        outcomes.push(await ingestStream(inputs, inspected, one, store, ingest, budget));
      } catch (error) {
        const tooLong = error instanceof AppError && error.code === 'take-too-long';
        if (isForNextTry(error, signal, triesAgain) || tooLong) throw error;
        log.warn(`the ${one.kind} can't be read`, error);
        const problem =
          error instanceof FfmpegTimeout ? 'footage-too-slow' : filmed(one.kind).unreadable;
        outcomes.push({ kind: one.kind, track: null, problem, levels: null, complete: false });
      }
    }
    return outcomes;
  } finally {
    await removeCopies(incoming, inputs);
  }
};

/** About how much longer it takes to make a second of picture than one of sound. */
const WORK = { picture: 8, sound: 1, events: 0 };

/** How much of a take is made, of what is told of its tracks: what is made of one is still to be checked. */
const shareOf = (kinds: readonly TrackKind[], onProgress: (share: number) => void) => {
  const work = new Map(kinds.map((kind) => [kind, WORK[mediumOf(kind)]]));
  const all = [...work.values()].reduce((sum, one) => sum + one, 0);
  const done = new Map<TrackKind, number>();
  return (kind: TrackKind, share: number): void => {
    done.set(kind, (work.get(kind) ?? 0) * share);
    onProgress((0.99 * [...done.values()].reduce((sum, one) => sum + one, 0)) / all);
  };
};

const problemOf = (error: unknown, foreign: boolean): ErrorCode => {
  if (error instanceof AppError) return error.code;
  if (error instanceof FfmpegTimeout) return 'footage-too-slow';
  return foreign ? 'film-unreadable' : 'take-unreadable';
};

/**
 * Makes a take playable from the bytes that have come: checks them, puts an index to each track,
 * measures lengths and levels. A stream that can't be read is left out, and the take says so; if nothing
 * can be read, the take is unusable and says why. The bytes that came in are let go of only when every
 * packet of them is in the media and that is on the disk; they are kept for a take that was cut short (more
 * may come) and for a film that was brought in (it is the teacher's own).
 *
 * @param early what was copied of it while it came in
 * @param onProgress told about how much of it is made, 0 to 1
 * @param log told what went wrong with a track
 * @param signal breaks it off; the take then stays in `processing`
 * @param triesAgain a track that takes too long is thrown, and not left out
 * @throws what says nothing about the footage: a full disk, or the signal's reason; FfmpegTimeout where it is tried again
 */
export const ingestTake = async (
  takes: TakeStore,
  media: MediaStore,
  early: EarlyCopies,
  takeId: string,
  onProgress: (share: number) => void,
  log: Log,
  signal: AbortSignal,
  triesAgain = false,
): Promise<void> => {
  await media.prepare();
  const take = await takes.get(takeId);
  // Processed meanwhile: what had come in of it may be gone by now.
  if (take.state !== 'processing') return;
  const declared = await takes.tracksOf(takeId);
  const elsewhere = await takes.ingestedElsewhere(takeId);
  const foreign = take.source === 'film' && !elsewhere;
  // A film that was brought in is one file; its sound becomes a track of its own.
  const film = declared.find((track) => track.kind === 'surface') ?? declared[0]!;
  const files = foreign
    ? [
        {
          incoming: media.incoming(film.id),
          tracks: [
            { id: film.id, kind: 'surface' as const },
            { id: `${film.id.slice(0, 58)}-voice`, kind: 'voice' as const },
          ],
        },
      ]
    : declared.map((track) => ({ incoming: media.incoming(track.id), tracks: [track] }));

  const outcomes: Outcome[] = [];
  let problem: ErrorCode | null = null;
  const come = files.filter(({ tracks }) => media.hasIncoming(tracks[0]!.id));
  const tell = shareOf(
    come.flatMap(({ tracks }) => tracks.map(({ kind }) => kind)),
    onProgress,
  );
  // Side by side; all have ended before anything is said of the take.
  const ended = await Promise.allSettled(
    come.map(({ incoming, tracks }) =>
      ingestFile(incoming, tracks, media, foreign, elsewhere, early, signal, tell, log, triesAgain),
    ),
  );
  for (const [index, one] of ended.entries()) {
    if (one.status === 'fulfilled') outcomes.push(...one.value);
    else {
      const error: unknown = one.reason;
      if (isForNextTry(error, signal, triesAgain)) throw error;
      log.warn(`take ${takeId}: ${come[index]!.tracks[0]!.kind} can't be read`, error);
      // Nothing has come of it: that is no damage.
      const empty = error instanceof AppError && error.code === 'file-empty' && !foreign;
      if (!empty) problem ??= problemOf(error, foreign);
    }
  }
  problem ??= outcomes.find((outcome) => outcome.problem)?.problem ?? null;
  const ingested = outcomes.flatMap(({ track }) => (track ? [track] : []));
  if (ingested.length === 0) {
    await takes.unusable(takeId, problem ?? (foreign ? 'film-unreadable' : 'take-empty'));
    return;
  }
  const voice =
    outcomes.find(({ kind, levels }) => kind === 'voice' && levels) ??
    outcomes.find(({ levels }) => levels);
  if (voice?.levels) await writeSynced(media.levels(takeId), voice.levels);
  for (const { track, loudness, marks } of outcomes) {
    if (track && loudness) await keepLoudness(media, track, loudness);
    if (track && marks) await keepMarks(media, track, marks);
  }
  await media.force();
  const durationUs = Math.max(...ingested.map((track) => track.durationUs));
  await takes.ingested(takeId, durationUs, ingested, problem ?? elsewhere?.problem ?? null);
  const whole = outcomes.length === declared.length && outcomes.every(({ complete }) => complete);
  // Of what was processed elsewhere no more can come.
  const all = elsewhere !== null || !take.cutShort;
  if (!foreign && all && whole && ingested.length === declared.length) {
    await Promise.all(declared.map((track) => media.forgetIncoming(track.id)));
  }
};
