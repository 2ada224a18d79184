import { TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { isPicture, type TrackKind } from '@under-chalk/core/lesson/take';
import { isDiskFull, openOptions, run, type MediaFile } from '@under-chalk/render';
import { mkdir, open, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Folders } from '../config';
import type { SettledTrack, TakeStore } from '../store/take-store';
import { forgetBytes } from '../store/track-bytes';
import { containerOf } from './container';
import { measureLevels } from './level-line';
import { packetTimes, probe, type Facts } from './probe';
import { copyWholeFragments } from './whole-fragments';

/** Where the bytes of a track come in, and where they are once settled. */
export const incomingPath = (folders: Folders, trackId: string) => join(folders.incoming, trackId);
export const mediaPath = (folders: Folders, trackId: string) =>
  join(folders.media, `${trackId}.mp4`);
export const levelsPath = (folders: Folders, takeId: string) =>
  join(folders.media, `${takeId}.levels`);

/** Settled media is always an MP4 of one stream. */
export const mediaFile = (folders: Folders, trackId: string): MediaFile => ({
  path: mediaPath(folders, trackId),
  demuxer: 'mov',
});

/** Further apart than this, key frames make seeking in the preview too slow. */
const LONGEST_KEY_GAP_US = 4_000_000;

/** Makes a file with one stream of another, timestamps kept: they are recorded time. */
const extract = async (
  source: MediaFile,
  stream: number,
  codec: readonly string[],
  out: string,
  signal: AbortSignal,
): Promise<void> => {
  const draft = `${out}.draft`;
  try {
    await run(
      'ffmpeg',
      [
        ...openOptions(source),
        '-copyts',
        '-i',
        source.path,
        '-map',
        `0:${stream}`,
        '-map_metadata',
        '-1',
        ...codec,
        '-avoid_negative_ts',
        'disabled',
        '-movflags',
        '+faststart',
        '-f',
        'mp4',
        draft,
      ],
      signal,
    );
    const file = await open(draft, 'r');
    await file.sync();
    await file.close();
    await rename(draft, out);
  } finally {
    await rm(draft, { force: true });
  }
};

/** 8-bit 4:2:0, limited or full range (browsers encode drawn pictures in full range). */
const PLAYABLE = ['yuv420p', 'yuvj420p'];

/**
 * What was recorded is copied as it is. The last packet of a fragmented file comes without a length, and one
 * that has none falls out of the copy's edit list, or not, as the milliseconds are rounded.
 *
 * @param lastSeconds what it is given
 */
const copyOf = (lastSeconds: number) => [
  ...['-c', 'copy'],
  ...['-bsf', `setts=duration=if(DURATION\\,DURATION\\,${lastSeconds}/TB)`],
];
const COPY_PICTURE = copyOf(1 / 30);
const COPY_SOUND = copyOf(0.02);
/** For footage that browsers can't be relied on to play, or that can't be sought in: near to lossless. */
const AS_H264 = [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '17', '-pix_fmt', 'yuv420p', '-g', '30'],
  ...['-fps_mode', 'passthrough', '-enc_time_base', '-1'],
];
const AS_AAC = ['-c:a', 'aac', '-b:a', '192k'];

const settlePicture = async (
  source: MediaFile,
  facts: NonNullable<Facts['video']>,
  out: string,
  signal: AbortSignal,
): Promise<{ durationUs: number }> => {
  const playable = facts.codec === 'h264' && PLAYABLE.includes(facts.pixelFormat) && !facts.rotated;
  if (playable) {
    await extract(source, facts.index, COPY_PICTURE, out, signal);
    const times = await packetTimes({ path: out, demuxer: 'mov' });
    if (times.longestKeyGapUs <= LONGEST_KEY_GAP_US) return { durationUs: times.endUs };
  }
  await extract(source, facts.index, AS_H264, out, signal);
  return { durationUs: (await packetTimes({ path: out, demuxer: 'mov' })).endUs };
};

const settleSound = async (
  source: MediaFile,
  facts: NonNullable<Facts['sound']>,
  out: string,
  signal: AbortSignal,
): Promise<{ durationUs: number }> => {
  const playable = facts.codec === 'aac' || facts.codec === 'opus' || facts.codec === 'mp3';
  await extract(source, facts.index, playable ? COPY_SOUND : AS_AAC, out, signal);
  return { durationUs: (await packetTimes({ path: out, demuxer: 'mov' })).endUs };
};

/** Settles whatever streams of a kind-wanted list a file has. The first of a kind found wins. */
const settleFile = async (
  folders: Folders,
  incoming: string,
  wanted: readonly { id: string; kind: TrackKind }[],
  signal: AbortSignal,
): Promise<SettledTrack[]> => {
  const demuxer = await containerOf(incoming);
  const torn = join(folders.media, `${wanted[0]!.id}.torn`);
  const path = demuxer === 'mov' && (await copyWholeFragments(incoming, torn)) ? torn : incoming;
  try {
    return await settleStreams(folders, { path, demuxer }, wanted, signal);
  } finally {
    await rm(torn, { force: true });
  }
};

const settleStreams = async (
  folders: Folders,
  source: MediaFile,
  wanted: readonly { id: string; kind: TrackKind }[],
  signal: AbortSignal,
): Promise<SettledTrack[]> => {
  const facts = await probe(source);
  const settled: SettledTrack[] = [];
  for (const { id, kind } of wanted) {
    const out = mediaPath(folders, id);
    if (isPicture(kind) && facts.video) {
      const { durationUs } = await settlePicture(source, facts.video, out, signal);
      if (durationUs <= 0) continue;
      const { widthPx, heightPx } = facts.video;
      settled.push({ id, kind, durationUs, widthPx, heightPx, bytes: (await stat(out)).size });
    } else if (!isPicture(kind) && facts.sound) {
      const { durationUs } = await settleSound(source, facts.sound, out, signal);
      if (durationUs <= 0) continue;
      const bytes = (await stat(out)).size;
      settled.push({ id, kind, durationUs, widthPx: 0, heightPx: 0, bytes });
    }
  }
  return settled;
};

/**
 * Makes a take playable from the bytes that have come: checks them, puts an index to each track,
 * measures lengths and levels. What can't be read is left out; if nothing can, the take is unusable
 * and says why. The bytes that came in are kept for a take that was cut short (more may come) and for
 * a film that was brought in (it is the teacher's own).
 *
 * @param log told what went wrong with a track
 * @param signal breaks it off; the take then stays in `settling`
 */
export const settleTake = async (
  store: TakeStore,
  folders: Folders,
  takeId: string,
  log: (message: string, error: unknown) => void,
  signal: AbortSignal,
): Promise<void> => {
  await mkdir(folders.media, { recursive: true });
  const take = await store.get(takeId);
  // Settled meanwhile: what had come in of it may be gone by now.
  if (take.state !== 'settling') return;
  const declared = await store.tracksOf(takeId);
  // A film that was brought in is one file; its sound becomes a track of its own.
  const files =
    take.source === 'film'
      ? [
          {
            incoming: incomingPath(folders, declared[0]!.id),
            tracks: [
              { id: declared[0]!.id, kind: 'surface' as const },
              { id: `${declared[0]!.id.slice(0, 58)}-voice`, kind: 'voice' as const },
            ],
          },
        ]
      : declared.map((track) => ({ incoming: incomingPath(folders, track.id), tracks: [track] }));

  const settled: SettledTrack[] = [];
  let problem: ErrorCode = take.source === 'film' ? 'film-unreadable' : 'take-empty';
  for (const { incoming, tracks } of files) {
    try {
      settled.push(...(await settleFile(folders, incoming, tracks, signal)));
    } catch (error) {
      // Neither says anything about the footage: it stays as it is and is settled later.
      const full = (error as NodeJS.ErrnoException).code === 'ENOSPC' || isDiskFull(error);
      if (signal.aborted || full) throw error;
      log(`take ${takeId}: ${tracks[0]!.kind} can't be read`, error);
      if (take.source === 'film' && error instanceof TellableError) problem = error.code;
    }
  }
  if (settled.length === 0) {
    await store.unusable(takeId, problem);
    return;
  }
  const voice =
    settled.find((track) => track.kind === 'voice') ??
    settled.find((track) => track.kind === 'computer-sound');
  if (voice) {
    await writeFile(levelsPath(folders, takeId), await measureLevels(mediaFile(folders, voice.id)));
  }
  const durationUs = Math.max(...settled.map((track) => track.durationUs));
  await store.settled(takeId, durationUs, settled);
  if (take.source !== 'film' && !take.cutShort && settled.length === declared.length) {
    await Promise.all(declared.map((track) => forgetBytes(folders.incoming, track.id)));
  }
};
