import type { Decisions } from '../edit/decisions';
import type { Film } from '../film/film';
import { ofMedium } from '../lesson/medium';
import { takeNames } from '../lesson/take-names';
import type { Id, Track } from '../lesson/take';
import { fromDbfs } from './level';

/** Integrated loudness (EBU R 128, ITU-R BS.1770-4) that voices are brought to, LUFS. */
export const TARGET_LUFS = -16;
/** What the computer plays is brought down to this, and never up: it goes with a voice. LUFS. */
const BESIDE_LUFS = -20;
/** No voice is brought up by more than this, for the room comes along, nor down by more; dB. */
const MOST_UP_DB = 24;
const MOST_DOWN_DB = 20;

/** What was measured of a sound track: a reading, kept beside it with what it was measured of. */
export interface Loudness {
  /** Integrated, LUFS; null where nothing in it is loud enough to be measured. */
  readonly lufs: number | null;
}

/** The loudness of tracks, as far as it has been measured. */
export type LoudnessOf = (trackId: Id) => Loudness | null;

/** Nothing has been measured: everything stays as it was recorded. */
export const NOT_MEASURED: LoudnessOf = () => null;

/** By how much sound tracks are louder in a film than they were recorded, dB. */
export type GainOf = (track: Pick<Track, 'id' | 'kind'>) => number;

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

/** By how much each track of a lesson is louder than it was recorded; null where all stay as they were. */
export const gainsIn = (
  { levelled }: Pick<Decisions, 'levelled'>,
  loudnessOf: LoudnessOf,
): GainOf | null => {
  if (!levelled) return null;
  return (track) => {
    const loudness = loudnessOf(track.id);
    return loudness ? gainFor(track, loudness) : 0;
  };
};

/** The factor that a gain in dB is. */
export const factorOf = (db: number): number => (db === 0 ? 1 : fromDbfs(db));

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

/** What is done about the loudness of a film, in a sentence for each voice in it; none where nothing has been measured. */
export const levellingInWords = (film: Film, loudnessOf: LoudnessOf): string[] => {
  const { lesson } = film;
  const gainOf = gainsIn(lesson.decisions, loudnessOf);
  const names = takeNames(lesson);
  const takes = new Map(film.spans.map(({ take }) => [take.id, take]));
  return [...takes.values()].flatMap((take) =>
    ofMedium(take.tracks, 'sound').flatMap((track) => {
      const loudness = track.kind === 'voice' ? loudnessOf(track.id) : null;
      if (!loudness || loudness.lufs === null) return [];
      const name = names.get(take.id) ?? 'It';
      const was = `${name} was ${loudnessInWords(loudness.lufs)} (${loudness.lufs.toFixed(1)} LUFS)`;
      const db = gainOf?.(track) ?? 0;
      if (!gainOf || Math.abs(db) < 0.5) return [`${was}, and is left as it was.`];
      const by = `${Math.abs(db).toFixed(0)} dB`;
      const now = loudness.lufs + db;
      return [
        `${was}, and is brought ${db > 0 ? 'up' : 'down'} by ${by}, to ${now.toFixed(1)} LUFS.`,
      ];
    }),
  );
};
