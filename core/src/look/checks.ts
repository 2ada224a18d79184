import type { Film } from '../film/film';
import { cardPlaceOf } from '../lesson/card';
import { isHeardAt } from '../lesson/speed';
import { trackOf } from '../lesson/take';
import { comingTakes, takeNames } from '../lesson/take-names';
import { megabytes, type Destination } from '../destination/destination';
import { gauge } from '../destination/gauge';
import { levellingIn, NOT_MEASURED, type LoudnessOf } from '../sound/levelling';
import { ZONE_BORDERS } from '../sound/level';
import type { LevelLine } from '../sound/level-line';
import { heardOf } from '../sound/heard';
import { at } from '../time/timeline';
import { frameToUs } from '../time/frames';
import { formatSpoken, type Us } from '../time/us';
import { LEVEL_STEP_US } from '../sound/level-line';
import { speechIn } from '../sound/beats';
import { intersect, totalOf, type TimeRange } from '../time/ranges';
import { doubtsOf } from '../words/checks';
import { cuesIn, languagesOf } from '../words/cue';
import { filmCuesOf } from '../words/film-cues';
import { languageName } from '../words/language';
import { speechOfFilm } from '../words/roughly';

/** One line of the last look. */
export interface Check {
  readonly id:
    'title' | 'length' | 'sound' | 'loudness' | 'picture' | 'bytes' | 'captions' | 'practice';
  readonly verdict: 'good' | 'look' | 'stop';
  readonly sentence: string;
}

/** Captions stand for what is said so near to them, µs; and for all of it from this share on. */
const NEAR_CAPTION_US = 1_000_000;
const COVERED = 0.95;

/** Share of a span's steps that are as loud as speech. */
const loudShare = (film: Film, levels: ReadonlyMap<string, LevelLine>): number => {
  let loud = 0;
  let all = 0;
  const { silenced } = film.lesson.decisions;
  for (const span of film.spans) {
    // What isn’t meant to be heard isn’t missing.
    if (cardPlaceOf(span.take) || !isHeardAt(span.rate)) continue;
    const line = levels.get(span.take.id);
    const first = Math.floor(frameToUs(span.startFrame) / LEVEL_STEP_US);
    const last = Math.ceil(frameToUs(span.endFrame) / LEVEL_STEP_US);
    for (let step = first; step < last; step++) {
      if (at(silenced, span.take.id, step * LEVEL_STEP_US)) continue;
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
const bytesCheck = (
  { name, mostBytes }: Destination,
  bytes: { readonly count: number; readonly made: boolean },
): Check[] => {
  if (mostBytes === null) return [];
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
      sentence: `Its file has ${size}, and “${name}” takes ${most}: hand it out in a smaller size, or make it shorter.`,
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

/** Whether whoever can't hear it, or doesn't know the words, can read along. */
const captionsCheck = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  { name, captionsRequired }: Destination,
): Check => {
  const { cues, spoken } = film.lesson.decisions;
  const own = filmCuesOf(film, cuesIn(cues, spoken));
  if (own.length === 0) {
    return {
      id: 'captions',
      verdict: captionsRequired ? 'stop' : 'look',
      sentence: captionsRequired
        ? `“${name}” takes no film without captions, and this one has none.`
        : 'It has no captions: who can’t hear it can’t follow.',
    };
  }
  const share = captionedShare(film, levels, own);
  if (share < COVERED) {
    const sentence = `Captions are there for ${Math.floor(share * 100)} % of what is said.`;
    return { id: 'captions', verdict: captionsRequired ? 'stop' : 'look', sentence };
  }
  const drafts = own.filter(({ cue }) => cue.draft).length;
  if (drafts > 0) {
    const many = drafts === 1 ? 'One caption is' : `${drafts} captions are`;
    const sentence = `${many} a machine’s draft that nobody has looked at.`;
    return { id: 'captions', verdict: 'look', sentence };
  }
  const hard = doubtsOf(own).filter((doubts) => doubts.length > 0).length;
  if (hard > 0) {
    const many = hard === 1 ? 'One caption is' : `${hard} captions are`;
    return { id: 'captions', verdict: 'look', sentence: `${many} hard to read in time.` };
  }
  const names = languagesOf(cues, spoken).map((language) => languageName(language));
  return {
    id: 'captions',
    verdict: 'good',
    sentence: `There are captions for all that is said, in ${names.join(', ')}.`,
  };
};

/**
 * What can be told of a film before it is watched.
 *
 * @param destination where it goes, with that place's limits
 * @param attentionUs where attention usually ends, µs
 * @param bytes of its file: of the one that has been made, or what it is likely to have
 * @param levels level lines of its takes, by take; a take without one has no sound
 * @param loudnessOf how loud its sound tracks are, as far as that has been measured
 */
export const checksOf = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  destination: Destination,
  attentionUs: Us,
  bytes: { readonly count: number; readonly made: boolean },
  loudnessOf: LoudnessOf = NOT_MEASURED,
): Check[] => {
  const { plan } = film.lesson.decisions;
  const read = gauge(film.durationUs, destination, attentionUs);
  const sounding = heardOf(film).some(
    ({ span }) => trackOf(span.take, 'voice') ?? trackOf(span.take, 'computer-sound'),
  );
  const share = loudShare(film, levels);
  const picture = film.spans.some((span) => span.take.tracks.some((track) => track.widthPx > 0));
  return [
    plan.title === ''
      ? {
          id: 'title',
          verdict: 'look',
          sentence: 'It has no title: students see a film without a name.',
        }
      : { id: 'title', verdict: 'good', sentence: `It is called “${plan.title}”.` },
    read.state === 'empty'
      ? { id: 'length', verdict: 'stop', sentence: nothingYet(film) }
      : read.state === 'too-long' || read.state === 'too-short'
        ? {
            id: 'length',
            verdict: 'stop',
            sentence: `${formatSpoken(film.durationUs)} is ${read.state === 'too-long' ? 'too long' : 'too short'} for “${destination.name}”.`,
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
      ? { id: 'sound', verdict: 'stop', sentence: 'There is no sound in it.' }
      : share < 0.05
        ? { id: 'sound', verdict: 'stop', sentence: 'The sound is as good as silent.' }
        : { id: 'sound', verdict: 'good', sentence: 'There is sound, and it can be heard.' },
    ...levellingIn(film, loudnessOf).map(({ sentence, isRight }): Check => ({
      id: 'loudness',
      verdict: isRight ? 'good' : 'look',
      sentence,
    })),
    picture
      ? { id: 'picture', verdict: 'good', sentence: 'There is a picture.' }
      : {
          id: 'picture',
          verdict: 'look',
          sentence: 'There is no picture: students see the title only.',
        },
    ...practiceCheck(film),
    ...(film.frames > 0 ? bytesCheck(destination, bytes) : []),
    ...(film.frames > 0 ? [captionsCheck(film, levels, destination)] : []),
  ];
};
