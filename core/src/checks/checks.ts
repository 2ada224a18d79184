import type { NewStudent } from '../class/class';
import type { Film } from '../film/film';
import { NO_INK, type InkOf } from '../ink/changed-track';
import { cardPlaceOf } from '../lesson/title-card';
import { isHeardAt } from '../lesson/speed';
import { trackOf } from '../lesson/take';
import { comingTakes, takeNames } from '../lesson/take-names';
import { megabytes, type Destination } from '../destination/destination';
import { gauge } from '../destination/gauge';
import { levellingIn, NOT_MEASURED, type LoudnessOf } from '../sound/levelling';
import { ZONE_BORDERS } from '../sound/level';
import type { LevelLine } from '../sound/level-line';
import { noiseIn, noiseInWords } from '../sound/noise-reduction/noise-reduction';
import { heardOf, takesHeard } from '../sound/heard';
import { noiseReductionOf } from '../sound/track-sound';
import { at } from '../time/timeline';
import { frameToUs } from '../time/frames';
import { formatSpoken, type Us } from '../time/us';
import { LEVEL_STEP_US } from '../sound/level-line';
import { speechIn } from '../sound/phrases';
import { intersect, totalOf, type TimeRange } from '../time/ranges';
import { doubtsOf } from '../words/checks';
import { cuesIn, languagesOf } from '../words/cue';
import { filmCuesOf } from '../words/film-cues';
import { languageName } from '../words/language';
import { speechOfFilm } from '../words/roughly';
import type { Check } from './check';
import { coverCheck, type CoverLooks } from './cover-check';
import { deadAirCheck } from './dead-air';
import { faceCheck } from './face';
import { flawChecks } from './flaws';
import { incompleteChecks } from './incomplete';
import { licenceCheck } from './licence';
import { namedCheck } from './named';
import { UNSEEN, type PicturesSeen } from './pictures-seen';
import { smallTextCheck } from './small-text';
import { titleCheck } from './title';
import { tooLoudCheck } from './too-loud';

export type { Check, Mend } from './check';

/** Captions stand for what is said so near to them, µs; and for all of it from this share on. */
const NEAR_CAPTION_US = 1_000_000;
const COVERED = 0.95;

const TO_TIDY = { words: 'To Tidy', step: 'tidy' } as const;
const TO_RECORD = { words: 'To Record', step: 'record' } as const;
const TO_WORDS = { words: 'To Words', step: 'words' } as const;

/** Share of a span's steps that are as loud as speech. */
const loudShare = (film: Film, levels: ReadonlyMap<string, LevelLine>): number => {
  let loud = 0;
  let all = 0;
  const { muted } = film.lesson.decisions;
  for (const span of film.spans) {
    // What isn’t meant to be heard isn’t missing.
    if (cardPlaceOf(span.take) || !isHeardAt(span.rate)) continue;
    const line = levels.get(span.take.id);
    const first = Math.floor(frameToUs(span.startFrame) / LEVEL_STEP_US);
    const last = Math.ceil(frameToUs(span.endFrame) / LEVEL_STEP_US);
    for (let step = first; step < last; step++) {
      if (at(muted, span.take.id, step * LEVEL_STEP_US)) continue;
      all++;
      if (line && step < line.length && line[step]! - 100 > ZONE_BORDERS.quietDbfs) loud++;
    }
  }
  return all > 0 ? loud / all : 0;
};

/** Why there is nothing in the film. */
const nothingYet = (film: Film): string =>
  comingTakes(film.lesson).length > 0
    ? 'What was recorded is being made ready; it is not in the film yet.'
    : 'There is nothing in the film yet.';

/** What was recorded with the devices that are only for practising is said, and not kept from anybody. */
const practiceCheck = (film: Film): Check[] => {
  const ids = new Set(film.spans.flatMap(({ take }) => (take.practice ? [take.id] : [])));
  if (ids.size === 0) return [];
  const names = [...takeNames(film.lesson)].flatMap(([id, name]) => (ids.has(id) ? [name] : []));
  const sentence = `${names.join(', ')} ${names.length === 1 ? 'was' : 'were'} recorded with practice devices.`;
  return [{ id: 'practice', verdict: 'look', sentence }];
};

/** Whether the file is as small as its place wants it. */
const bytesCheck = ({ name, mostBytes }: Destination, bytes: Known['bytes']): Check[] => {
  if (mostBytes === null || bytes === null) return [];
  const size = `${bytes.made ? '' : 'about '}${megabytes(bytes.count)}`;
  const most = megabytes(mostBytes);
  if (bytes.count <= mostBytes) {
    return [
      { id: 'bytes', verdict: 'good', sentence: `Its file has ${size}; “${name}” takes ${most}.` },
    ];
  }
  return [
    {
      id: 'bytes',
      // What is only reckoned can come out smaller.
      verdict: bytes.made ? 'stop' : 'look',
      sentence: `Its file has ${size}, and “${name}” takes ${most}: its file can be made to fit when it is there.`,
    },
  ];
};

/** Of what is said in a film, the share that captions are there for: within a second of it. 1 where nothing is. */
const captionedShare = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  cues: readonly TimeRange[],
): number => {
  const spoken = speechOfFilm(film, (takeId) => {
    const line = levels.get(takeId);
    return line ? speechIn(line) : [];
  });
  const near = cues.map(({ startUs, endUs }) => ({
    startUs: startUs - NEAR_CAPTION_US,
    endUs: endUs + NEAR_CAPTION_US,
  }));
  const all = totalOf(spoken);
  return all === 0 ? 1 : totalOf(intersect(spoken, near)) / all;
};

/** Where the room that somebody spoke in is heard, and nothing is done about it. */
const roomChecks = (film: Film, levels: ReadonlyMap<string, LevelLine>): Check[] => {
  const names = takeNames(film.lesson);
  return [...takesHeard(film)].flatMap((take): Check[] => {
    const line = levels.get(take.id);
    const room = line && trackOf(take, 'voice') ? noiseIn(line) : null;
    const found = room && noiseInWords(room);
    if (!found || noiseReductionOf(film.lesson.decisions, take.id)) return [];
    const sentence = `In ${names.get(take.id)?.toLocaleLowerCase() ?? 'a take'} ${found}.`;
    const act = { do: 'reduce-noise', takeId: take.id, reduction: 'gently' } as const;
    return [
      { id: 'room', verdict: 'look', sentence, mend: { words: 'Take it down', acts: [act] } },
    ];
  });
};

/** Whether whoever can't hear it, or doesn't know the words, can read along. */
const captionsCheck = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  { name, captionsRequired }: Destination,
): Check => {
  const { cues, language: spoken } = film.lesson.decisions;
  const own = filmCuesOf(film, cuesIn(cues, spoken));
  if (own.length === 0) {
    return {
      id: 'captions',
      verdict: captionsRequired ? 'stop' : 'look',
      sentence: captionsRequired
        ? `“${name}” takes no film without captions, and this one has none.`
        : 'It has no captions: who can’t hear it can’t follow.',
      mend: TO_WORDS,
    };
  }
  const share = captionedShare(film, levels, own);
  if (share < COVERED) {
    const sentence = `Captions are there for ${Math.floor(share * 100)} % of what is said.`;
    return {
      ...{ id: 'captions', verdict: captionsRequired ? 'stop' : 'look', sentence },
      mend: TO_WORDS,
    };
  }
  const drafts = own.filter(({ cue }) => cue.draft).length;
  if (drafts > 0) {
    const many = drafts === 1 ? 'One caption is' : `${drafts} captions are`;
    const sentence = `${many} a machine’s draft that nobody has looked at.`;
    return { id: 'captions', verdict: 'look', sentence, mend: TO_WORDS };
  }
  const hard = doubtsOf(own).filter((doubts) => doubts.length > 0).length;
  if (hard > 0) {
    const many = hard === 1 ? 'One caption is' : `${hard} captions are`;
    const sentence = `${many} hard to read in time.`;
    return { id: 'captions', verdict: 'look', sentence, mend: TO_WORDS };
  }
  const names = languagesOf(cues, spoken).map((language) => languageName(language));
  return {
    id: 'captions',
    verdict: 'good',
    sentence: `There are captions for all that is said, in ${names.join(', ')}.`,
  };
};

/** What is known of a film besides itself. */
export interface Known {
  /** Level lines of its takes, by take; a take without one has no sound. */
  readonly levels: ReadonlyMap<string, LevelLine>;
  /** Where it goes, with that place's limits. */
  readonly destination: Destination;
  /** Where attention usually ends, µs. */
  readonly attentionUs: Us;
  /** Of its file: of the one that has been made, or what it is likely to have; null: nobody knows yet. */
  readonly bytes: { readonly count: number; readonly made: boolean } | null;
  /** How loud its sound tracks are, as far as that has been measured. */
  readonly loudnessOf?: LoudnessOf;
  /** What is written on its takes, as far as it has come. */
  readonly inkOf?: InkOf;
  readonly cover?: CoverLooks;
  /** What its pictures look like to who watches it, as far as they have been read. */
  readonly pictures?: PicturesSeen;
  /** Who is in the class that it is for. */
  readonly students?: readonly NewStudent[];
}

/** What can be told of a film before it is watched; each line with a way to mend it, and the place that it is about. */
export const checksOf = (
  film: Film,
  {
    levels,
    destination,
    attentionUs,
    bytes,
    loudnessOf = NOT_MEASURED,
    inkOf = NO_INK,
    cover = null,
    pictures = UNSEEN,
    students = [],
  }: Known,
): Check[] => {
  const { plan } = film.lesson.decisions;
  const read = gauge(film.durationUs, destination, attentionUs);
  const sounding = heardOf(film).some(
    ({ take }) => trackOf(take, 'voice') ?? trackOf(take, 'computer-sound'),
  );
  const share = loudShare(film, levels);
  const picture = film.spans.some((span) => span.take.tracks.some((track) => track.widthPx > 0));
  return [
    titleCheck(plan.title),
    read.state === 'empty'
      ? { id: 'length', verdict: 'stop', sentence: nothingYet(film) }
      : read.state === 'too-long' || read.state === 'too-short'
        ? {
            id: 'length',
            verdict: 'stop',
            sentence: `${formatSpoken(film.durationUs)} is ${read.state === 'too-long' ? 'too long' : 'too short'} for “${destination.name}”.`,
            mend: read.state === 'too-long' ? TO_TIDY : TO_RECORD,
          }
        : read.state === 'past-attention'
          ? {
              id: 'length',
              verdict: 'look',
              sentence: `${formatSpoken(film.durationUs)} is past where attention usually ends.`,
            }
          : {
              id: 'length',
              verdict: 'good',
              sentence: `${formatSpoken(film.durationUs)} fits “${destination.name}”.`,
            },
    !sounding
      ? { id: 'sound', verdict: 'stop', sentence: 'There is no sound in it.', mend: TO_RECORD }
      : share < 0.05
        ? {
            ...{ id: 'sound', verdict: 'stop', sentence: 'The sound is as good as silent.' },
            mend: TO_RECORD,
          }
        : { id: 'sound', verdict: 'good', sentence: 'There is sound, and it can be heard.' },
    ...incompleteChecks(film),
    ...levellingIn(film, loudnessOf).map(({ sentence, isRight }): Check => ({
      id: 'loudness',
      verdict: isRight ? 'good' : 'look',
      sentence,
    })),
    ...tooLoudCheck(film, levels),
    ...roomChecks(film, levels),
    ...deadAirCheck(film, levels, inkOf),
    picture
      ? { id: 'picture', verdict: 'good', sentence: 'There is a picture.' }
      : {
          id: 'picture',
          verdict: 'look',
          sentence: 'There is no picture: students see the title only.',
        },
    ...flawChecks(film.lesson, pictures),
    ...smallTextCheck(pictures),
    ...namedCheck(film, pictures, students),
    ...coverCheck(film, cover),
    ...licenceCheck(film),
    ...faceCheck(film, inkOf),
    ...practiceCheck(film),
    ...(film.frames > 0 ? bytesCheck(destination, bytes) : []),
    ...(film.frames > 0 ? [captionsCheck(film, levels, destination)] : []),
  ];
};
