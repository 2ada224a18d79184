import type { Film } from '../film/film';
import { trackOf } from '../lesson/take';
import type { Destination } from '../place/destination';
import { gauge } from '../place/gauge';
import { ZONE_BORDERS } from '../sound/level';
import type { LevelLine } from '../sound/level-line';
import { frameToUs } from '../time/frames';
import { formatSpoken, type Us } from '../time/us';
import { LEVEL_STEP_US } from '../sound/level-line';

/** One line of the last look. */
export interface Check {
  readonly id: 'title' | 'length' | 'sound' | 'picture';
  readonly verdict: 'good' | 'look' | 'stop';
  readonly sentence: string;
}

/** Share of a span's steps that are as loud as speech. */
const loudShare = (film: Film, levels: ReadonlyMap<string, LevelLine>): number => {
  let loud = 0;
  let all = 0;
  for (const span of film.spans) {
    const line = levels.get(span.take.id);
    const first = Math.floor(frameToUs(span.startFrame) / LEVEL_STEP_US);
    const last = Math.ceil(frameToUs(span.endFrame) / LEVEL_STEP_US);
    all += last - first;
    if (!line) continue;
    for (let step = first; step < Math.min(last, line.length); step++) {
      if (line[step]! - 100 > ZONE_BORDERS.quietDbfs) loud++;
    }
  }
  return all > 0 ? loud / all : 0;
};

/**
 * What can be told of a film before it is watched.
 *
 * @param destination where it goes, with that place's limits
 * @param attentionUs where attention usually ends, µs
 * @param levels level lines of its takes, by take; a take without one has no sound
 */
export const checksOf = (
  film: Film,
  levels: ReadonlyMap<string, LevelLine>,
  destination: Destination,
  attentionUs: Us,
): Check[] => {
  const { plan } = film.lesson.decisions;
  const read = gauge(film.durationUs, destination, attentionUs);
  const sounding = film.spans.some(
    (span) => trackOf(span.take, 'voice') ?? trackOf(span.take, 'computer-sound'),
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
      ? { id: 'length', verdict: 'stop', sentence: 'There is nothing in the film yet.' }
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
    picture
      ? { id: 'picture', verdict: 'good', sentence: 'There is a picture.' }
      : {
          id: 'picture',
          verdict: 'look',
          sentence: 'There is no picture: students see the title only.',
        },
  ];
};
