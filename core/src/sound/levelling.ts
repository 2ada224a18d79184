import * as z from 'zod';
import type { Decisions } from '../edit/decisions';
import type { Film } from '../film/film';
import { ofMedium } from '../lesson/medium';
import { takeNames } from '../lesson/take-names';
import type { Id, Track } from '../lesson/take';
import { fromDbfs } from './level';
import { duckedIn, type DuckedOf, type SpeechOf } from './ducking';

/** Integrated loudness (EBU R 128, ITU-R BS.1770-4) that voices are brought to, LUFS. */
export const TARGET_LUFS = -16;
/** What the computer plays is brought down to this, and never up: it goes with a voice. LUFS. */
const BESIDE_LUFS = -20;
/** No voice is brought up by more than this, for the room comes along, nor down by more; dB. */
const MOST_UP_DB = 30;
const MOST_DOWN_DB = 20;

/** What was measured of a sound track: a reading, kept beside it with what it was measured of. */
export interface Loudness {
  /** Integrated, LUFS; null where nothing in it is loud enough to be measured. */
  readonly lufs: number | null;
}

/** How a finished film came out. */
export const filmLoudnessSchema = z.object({
  /** Integrated, LUFS; null where nothing in it is loud enough to be measured. */
  lufs: z.number().nullable(),
  /** Its highest true peak (ITU-R BS.1770-4 annex 2), dBTP. */
  peakDbtp: z.number().nullable(),
});
export type FilmLoudness = z.infer<typeof filmLoudnessSchema>;

/** The loudness of tracks, as far as it has been measured. */
export type LoudnessOf = (trackId: Id) => Loudness | null;

/** Nothing has been measured: everything stays as it was recorded. */
export const NOT_MEASURED: LoudnessOf = () => null;

/** By how much sound tracks are louder in a film than they were recorded, dB. */
export type GainOf = (track: Pick<Track, 'id' | 'kind'>, takeId: Id) => number;

const round = (db: number): number => Math.round(db * 10) / 10;

/**
 * By how much a track is brought to the level of all. The same wherever it stands and whatever is cut out of it, so that a cut
 * makes no other sound anew, and the same from its beginning to its end, so that nothing pumps.
 *
 * @returns dB, in tenths
 */
export const gainFor = ({ kind }: Pick<Track, 'kind'>, { lufs }: Loudness): number => {
  if (lufs === null) return 0;
  if (kind === 'computer-sound') return round(Math.min(0, BESIDE_LUFS - lufs));
  return round(Math.max(-MOST_DOWN_DB, Math.min(MOST_UP_DB, TARGET_LUFS - lufs)));
};

/** By how much each track of a lesson is louder than it was recorded; null where nothing has been measured. */
export const gainsIn = (
  { unlevelled }: Pick<Decisions, 'unlevelled'>,
  loudnessOf: LoudnessOf,
): GainOf | null => {
  if (loudnessOf === NOT_MEASURED) return null;
  return (track, takeId) => {
    const loudness = unlevelled.includes(takeId) ? null : loudnessOf(track.id);
    return loudness ? gainFor(track, loudness) : 0;
  };
};

/** How loud the tracks of a film are against how they were recorded. */
export interface SoundLevels {
  readonly gainOf: GainOf;
  readonly loweredOf: DuckedOf;
}

/** How loud the tracks of a lesson's film are; null where nothing has been measured. */
export const levelsIn = (
  decisions: Pick<Decisions, 'unlevelled' | 'duckingDb'>,
  loudnessOf: LoudnessOf,
  speechOf: SpeechOf,
): SoundLevels | null => {
  const gainOf = gainsIn(decisions, loudnessOf);
  return gainOf && { gainOf, loweredOf: duckedIn(decisions, speechOf) };
};

/** The factor that a gain in dB is. */
export const factorOf = (db: number): number => (db === 0 ? 1 : fromDbfs(db));

const inDb = (db: number, unit: string): string => `${db.toFixed(1).replace('-', '−')} ${unit}`;

/** Loudness in figures: `−16.0 LUFS`. */
const inLufs = (lufs: number): string => inDb(lufs, 'LUFS');

/** How loud a voice is that was measured, in words. */
const loudnessInWords = (lufs: number): string =>
  lufs < -30
    ? 'very quiet'
    : lufs < -21
      ? 'quiet'
      : lufs <= -12
        ? 'about right'
        : lufs <= -8
          ? 'loud'
          : 'very loud';

/** What is done about how loud a take is. */
export interface Levelled {
  readonly sentence: string;
  /** It comes to the level of all. */
  readonly isRight: boolean;
}

/** Further than this from the level of all it is told, LU. */
const NEAR_LU = 1;

/** What is done about the loudness of a film, for each voice in it; none where nothing has been measured. */
export const levellingIn = (film: Film, loudnessOf: LoudnessOf): Levelled[] => {
  const { lesson } = film;
  const gainOf = gainsIn(lesson.decisions, loudnessOf);
  const names = takeNames(lesson);
  const takes = new Map(film.spans.map(({ take }) => [take.id, take]));
  return [...takes.values()].flatMap((take) =>
    ofMedium(take.tracks, 'sound').flatMap((track): Levelled[] => {
      const lufs = track.kind === 'voice' ? loudnessOf(track.id)?.lufs : null;
      if (lufs === null || lufs === undefined) return [];
      const name = names.get(take.id) ?? 'It';
      const was = `${name} was ${loudnessInWords(lufs)} (${inLufs(lufs)})`;
      const db = gainOf?.(track, take.id) ?? 0;
      const now = lufs + db;
      const isRight = Math.abs(now - TARGET_LUFS) <= NEAR_LU;
      if (Math.abs(db) < 0.5) return [{ sentence: `${was}, and stays so.`, isRight }];
      const by = `${db > 0 ? 'up' : 'down'} by ${Math.abs(db).toFixed(0)} dB`;
      return [{ sentence: `${was}; it is brought ${by}, to ${inLufs(now)}.`, isRight }];
    }),
  );
};

/** How loud a finished film came out, in a sentence; null where there is nothing to say. */
export const filmLoudnessInWords = ({ lufs, peakDbtp }: FilmLoudness): string | null => {
  if (lufs === null || peakDbtp === null) return null;
  const off = lufs - TARGET_LUFS;
  const how =
    Math.abs(off) <= NEAR_LU
      ? 'As loud as it should be'
      : off < 0
        ? 'Quieter than most films'
        : 'Louder than most films';
  return `${how}: ${inLufs(lufs)}, highest peak ${inDb(peakDbtp, 'dBTP')}.`;
};
