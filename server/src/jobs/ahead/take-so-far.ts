import { inkTrackOf, type InkTrack } from '@under-chalk/core/ink/ink-track';
import { PAGE_PX } from '@under-chalk/core/ink/page';
import { readInk } from '@under-chalk/core/ink/record';
import { mediumOf } from '@under-chalk/core/lesson/medium';
import type { Id, Take, Track } from '@under-chalk/core/lesson/take';
import type { Us } from '@under-chalk/core/time/us';
import type { FootageMark } from '@under-chalk/render';
import { readFile, rm } from 'node:fs/promises';
import type { MediaStore } from '../../store/media-store';
import { marksOfInk } from '../readings/footage-marks';
import { isSeen } from '../ingest/ingest-ink';
import { probe } from '../ingest/probe';
import { isPlayable } from '../ingest/ingest-picture';
import { writeSlice, type FootageSoFar } from '../ingest/footage-so-far';

/** A take that is being recorded, as far as it has come: as if it had been stopped there. */
export interface TakeSoFar {
  readonly take: Take;
  readonly ink: ReadonlyMap<Id, InkTrack>;
  readonly marks: ReadonlyMap<Id, readonly FootageMark[]>;
}

/** Where all of some tracks has come; null where one of them isn't known of. */
const comeOf = (
  tracks: readonly { readonly id: Id }[],
  footage: ReadonlyMap<Id, FootageSoFar>,
): Us | null => {
  const ends = tracks.map(({ id }) => footage.get(id)?.fragments.at(-1)?.untilUs ?? 0);
  return ends.length > 0 && !ends.includes(0) ? Math.min(...ends) : null;
};

/**
 * A take as far as it has come.
 *
 * @param take one that is being recorded
 * @param footage what has come of its tracks of pictures and sound
 * @returns null where too little of it is known, or its pictures will have to be encoded anew
 */
export const takeSoFar = async (
  take: Take,
  footage: ReadonlyMap<Id, FootageSoFar>,
  media: MediaStore,
  signal: AbortSignal,
): Promise<TakeSoFar | null> => {
  const of = (medium: 'picture' | 'sound') =>
    take.tracks.filter(({ kind }) => mediumOf(kind) === medium);
  const [pictures, sounds] = [of('picture'), of('sound')];
  const durationUs = comeOf(pictures.length > 0 ? pictures : sounds, footage);
  if (durationUs === null) return null;
  const [ink, marks] = [new Map<Id, InkTrack>(), new Map<Id, readonly FootageMark[]>()];
  const tracks: Track[] = [];
  for (const track of take.tracks) {
    const sofar = { ...track, durationUs, digest: '' };
    const medium = mediumOf(track.kind);
    if (medium === 'sound') tracks.push({ ...sofar, widthPx: 0, heightPx: 0 });
    else if (medium === 'picture') {
      const come = footage.get(track.id)!;
      const slice = await writeSlice(come, 0, 0, media.draft());
      const { video } = await probe(slice, signal).finally(() => rm(slice.path, { force: true }));
      if (!video || !isPlayable(video)) return null;
      tracks.push({ ...sofar, widthPx: video.widthPx, heightPx: video.heightPx });
      marks.set(track.id, come.fragments);
    } else {
      const text = await readFile(media.incoming(track.id), 'utf8').catch(() => '');
      const { records } = readInk(text);
      if (!records.some(isSeen)) continue;
      tracks.push({ ...sofar, ...PAGE_PX });
      ink.set(track.id, inkTrackOf(records));
      marks.set(track.id, marksOfInk(records, durationUs));
    }
  }
  return { take: { ...take, state: 'ready', durationUs, tracks }, ink, marks };
};
