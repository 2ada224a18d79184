import type { Film } from '../film/film';
import { takeOf, type Lesson } from '../lesson/lesson';
import { trackOf, type Take, type Track } from '../lesson/take';
import { lay, ofTake } from '../time/timeline';
import type { NoiseReduction } from './noise-reduction/noise-reduction';
import { takesHeard } from './heard';
import type { SoundLevels } from './levelling';
import { changedOver, NOT_HEARD_DB } from './gains';
import type { LoudnessPoint } from './ducking';

/** How a sound track is heard in a film. */
export interface TrackSound {
  /** By how much it is louder than it was recorded, dB. */
  readonly gainDb: number;
  /** How its loudness changes over recorded time: each by itself, all together. */
  readonly envelopes: readonly (readonly LoudnessPoint[])[];
  /** The room is taken from under it; null: it is heard as it was recorded. */
  readonly reduction: NoiseReduction | null;
}

/** Tells how the tracks of a take are heard; `over`: spoken over another take. */
export type TrackSoundOf = (track: Track, take: Take, over: boolean) => TrackSound;

/** How a take's voice is cleaned; null: not at all. */
export const noiseReductionOf = (
  { noiseReduction }: Pick<Lesson['decisions'], 'noiseReduction'>,
  takeId: string,
): NoiseReduction | null => noiseReduction.find((one) => one.takeId === takeId)?.reduction ?? null;

/** Stretches of a take over which another voice is heard. */
const spokenOverIn = (lesson: Lesson, takeId: string) =>
  ofTake(lesson.decisions.voiceOvers, takeId).filter(({ by }) => {
    const take = takeOf(lesson, by.takeId);
    return take?.state === 'ready' && trackOf(take, 'voice') !== undefined;
  });

/**
 * How sound tracks are heard in a lesson's film: in the export and in the preview alike.
 *
 * @param levels null where nothing has been measured: all are as loud as they were recorded
 */
export const trackSoundsIn = (lesson: Lesson, levels: SoundLevels | null): TrackSoundOf => {
  const { decisions } = lesson;
  const known = new Map<string, TrackSound>();
  const changed = (kind: 'voice' | 'computer-sound', takeId: string, over: boolean) => {
    let timeline = decisions.gains[kind];
    if (kind === 'voice' && !over) {
      for (const { startUs, endUs } of spokenOverIn(lesson, takeId))
        timeline = lay(timeline, { takeId, startUs, endUs, db: NOT_HEARD_DB });
    }
    return changedOver(timeline, takeId);
  };
  const find = (track: Track, take: Take, over: boolean): TrackSound => {
    const { kind } = track;
    const lowered = kind === 'computer-sound' && levels ? levels.loweredOf(take) : [];
    const louder =
      kind === 'voice' || kind === 'computer-sound' ? changed(kind, take.id, over) : [];
    return {
      gainDb: levels?.gainOf(track, take.id) ?? 0,
      envelopes: [lowered, louder].filter((points) => points.length > 0),
      reduction: kind === 'voice' ? noiseReductionOf(decisions, take.id) : null,
    };
  };
  return (track, take, over) => {
    const name = `${track.id} ${over}`;
    let sound = known.get(name);
    if (!sound) {
      sound = find(track, take, over);
      known.set(name, sound);
    }
    return sound;
  };
};

/** The voices of a film from under which the room is taken. */
export const noiseReducedIn = (
  film: Film,
): { readonly track: Track; readonly reduction: NoiseReduction }[] =>
  [...takesHeard(film)].flatMap((take) => {
    const track = trackOf(take, 'voice');
    const reduction = noiseReductionOf(film.lesson.decisions, take.id);
    return track && reduction ? [{ track, reduction }] : [];
  });
