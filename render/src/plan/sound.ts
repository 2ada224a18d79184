import type { Film } from '@under-chalk/core/film/film';
import type { Track } from '@under-chalk/core/lesson/take';
import { FILM_FPS } from '@under-chalk/core/time/frames';
import { FADE_US, heardOf, type Heard as HeardFrames } from '@under-chalk/core/sound/heard';
import { AT_SPEED, sameRate, type Rate } from '@under-chalk/core/time/rate';
import { CLICK_US, NO_CLICKS, type ClicksOf } from '@under-chalk/core/pointer/click-sound';
import {
  NOISE_REDUCTION_VERSION,
  type NoiseReduction,
} from '@under-chalk/core/sound/noise-reduction/noise-reduction';
import { SOUND_PACKET } from '@under-chalk/core/sound/film-sound';
import type { SoundLevels } from '@under-chalk/core/sound/levelling';
import { trackSoundsIn, type TrackSoundOf } from '@under-chalk/core/sound/track-sound';
import { pointsBetween } from '@under-chalk/core/sound/ducking';
import { LIMITER_VERSION } from '@under-chalk/core/sound/limiter';
import type { Us } from '@under-chalk/core/time/us';
import { SOUND_ENCODER, SOUND_RATE } from '../ffmpeg/encoder';
import { CHUNK_FRAMES } from './chunks';

export const PACKET = SOUND_PACKET;

const SAMPLES_A_FRAME = SOUND_RATE / FILM_FPS;

/**
 * Length of a piece, in packets, and the grid of recorded time its borders lie on: four chunks of pictures, 10.7 s.
 * A frame of the picture is 1,600 samples; with packets of 1,024 it meets every 25,600 (16 frames, 25 packets),
 * and so does this grid.
 */
export const PIECE_PACKETS = (4 * CHUNK_FRAMES * SAMPLES_A_FRAME) / PACKET;

/**
 * Packets encoded before a piece and after it, and dropped: an encoder's packets depend on what came before (its
 * choice of windows, its rate) and on the samples that the next packet overlaps with.
 */
export const PRE_ROLL = 12;
export const POST_ROLL = 4;

/** A film's sound begins with a shorter piece, for nobody hears anything before it is made: 2.1 s. */
const FIRST_PACKETS = 100;

/** A piece shorter than this at the edge of a cut is joined to its neighbour. */
const LEAST_PACKETS = 8;

/** No piece is much longer than this, however the film is cut: it is mixed in memory. */
const MOST_PACKETS = 4 * PIECE_PACKETS;

const inSamples = (us: Us): number => Math.round((us * SOUND_RATE) / 1e6);

/** Length of the fade at either side of a cut, in samples. */
export const FADE = inSamples(FADE_US);

/** A sound track in a piece, and how it is heard. */
export interface HeardTrack {
  readonly track: Track;
  /** By how much it is louder than it was recorded, dB. */
  readonly gainDb: number;
  /** How its loudness changes besides, each by itself: from one recorded sample to the next in a straight line. */
  readonly envelopes: readonly (readonly { readonly at: number; readonly gain: number }[])[];
  /** The room is taken from under it. */
  readonly reduction: NoiseReduction | null;
}

/** Some recorded sound in a piece. All counts are samples; those of the recording at the rate that it is heard at. */
export interface SoundStretch {
  /** The tracks that are heard together. */
  readonly tracks: readonly HeardTrack[];
  /** Where it begins, from the beginning of what is encoded. */
  readonly at: number;
  /** Recorded sample that it begins with. */
  readonly from: number;
  readonly length: number;
  /** How fast it is heard, where it isn't as it was recorded. */
  readonly rate?: Rate;
  /** How much of the fade in came before it; {@link FADE}: all, or there is none. */
  readonly fadedIn: number;
  /** How much of the fade out comes after it; {@link FADE}: all, or there is none. */
  readonly fadesOutAfter: number;
  /** How long its fades are, where they aren't {@link FADE}. */
  readonly fades?: { readonly in: number; readonly out: number };
  /** Presses that are heard in it: the recorded sample that each begins with, which may be before, and how loud. */
  readonly clicks?: readonly { readonly at: number; readonly level: number }[];
}

/** A piece of a film's sound, as a plain value: whoever has the footage can make it. */
export interface SoundPiece {
  /** Packets that are kept. */
  readonly packets: number;
  /** Packets that are encoded before those, and dropped. */
  readonly preRoll: number;
  readonly stretches: readonly SoundStretch[];
  /** What would be too loud is brought down (`sound/limiter`). */
  readonly limited?: true;
}

/** Raise when the same piece comes out differently. */
export const SOUND_VERSION = 5;

/** Everything that a piece depends on, as canonical text. Equal text, equal sound. */
export const soundText = ({ packets, preRoll, stretches, limited }: SoundPiece): string =>
  JSON.stringify([
    ...(limited ? ['limited', LIMITER_VERSION] : []),
    SOUND_VERSION,
    SOUND_ENCODER,
    packets,
    preRoll,
    stretches.map(({ tracks, ...stretch }) => ({
      ...stretch,
      tracks: tracks.map(({ track: { id, digest, durationUs }, reduction, ...how }) => [
        ...[id, digest, durationUs, how],
        ...(reduction ? [reduction, NOISE_REDUCTION_VERSION] : []),
      ]),
    })),
  ]);

/** Something as it is heard. Counts are samples of the film; half open. */
interface Heard extends Pick<HeardFrames, 'take' | 'tracks' | 'over' | 'rate'> {
  readonly startSample: number;
  readonly endSample: number;
  /** From recorded samples, at the rate that they are heard at, to samples of the film: whole packets. */
  readonly shift: number;
  /** 0: there is none. */
  readonly fadeIn: number;
  readonly fadeOut: number;
}

/**
 * Where everything is heard. A sound lies on the packets of its recording, so that its packets are the same
 * wherever it comes to stand: it is moved by up to half a packet (10.7 ms, a third of a frame) against its
 * picture, each by itself. What would then lie outside of what is kept is silent.
 */
const heardIn = (film: Film): Heard[] =>
  heardOf(film).map(({ step, filmFrame, frames, fadeInUs, fadeOutUs, ...of }) => {
    const begins = filmFrame * SAMPLES_A_FRAME;
    const from = step * SAMPLES_A_FRAME;
    const length = frames * SAMPLES_A_FRAME;
    const shift = Math.round((begins - from) / PACKET) * PACKET;
    return {
      ...{ ...of, shift },
      startSample: Math.max(begins, from + shift),
      endSample: Math.min(begins + length, from + length + shift),
      ...{ fadeIn: inSamples(fadeInUs), fadeOut: inSamples(fadeOutUs) },
    };
  });

/** Packets of the film at which pieces begin; the first and the one after the last included. */
const bordersOf = (film: Film, heard: readonly Heard[]): number[] => {
  const packets = Math.ceil((film.frames * SAMPLES_A_FRAME) / PACKET);
  const borders = [0];
  for (const { startSample, endSample, shift, over } of heard) {
    // What is spoken over it has a grid of its own, and begins and ends with another's.
    if (over) continue;
    const moved = shift / PACKET;
    const first = Math.ceil(startSample / PACKET) - moved + LEAST_PACKETS;
    const last = Math.floor(endSample / PACKET) - moved - LEAST_PACKETS;
    const start = Math.ceil(first / PIECE_PACKETS) * PIECE_PACKETS;
    for (let border = start; border <= last; border += PIECE_PACKETS) borders.push(border + moved);
    // Where the grid lies in nothing but what was cut out.
    const middle = Math.floor((startSample + endSample) / 2 / PACKET);
    if (middle - borders.at(-1)! > MOST_PACKETS) borders.push(middle);
  }
  const first = Math.min(borders[1] ?? packets, packets);
  if (first >= FIRST_PACKETS + LEAST_PACKETS) borders.splice(1, 0, FIRST_PACKETS);
  return [...borders, packets].flatMap((border, index, all) => {
    const more: number[] = [];
    // Where nothing is heard for long: in what goes by too fast for a voice.
    const from = all[index - 1] ?? border;
    for (let at = from + MOST_PACKETS; border - at > MOST_PACKETS; at += MOST_PACKETS)
      more.push(at);
    return [...more, border];
  });
};

/** What of it is heard between two samples of the film; null when nothing is. */
const stretchIn = (
  one: Heard,
  from: number,
  to: number,
  clicksOf: ClicksOf,
  soundOf: TrackSoundOf,
): SoundStretch | null => {
  const start = Math.max(from, one.startSample);
  const end = Math.min(to, one.endSample);
  if (end <= start) return null;
  const [begins, length] = [start - one.shift, end - start];
  const { take, tracks, over, rate, fadeIn, fadeOut } = one;
  const inHeard = (us: Us) => Math.round((inSamples(us) * rate.film) / rate.recorded);
  const clicks = (over ? [] : clicksOf(take.id))
    .map(({ atUs, level }) => ({ at: inHeard(atUs), level }))
    .filter(({ at }) => at + inSamples(CLICK_US) > begins && at < begins + length);
  if (tracks.length === 0 && clicks.length === 0) return null;
  const inUs = (sample: number): Us => (sample * 1e6 * rate.recorded) / (SOUND_RATE * rate.film);
  const heardAs = (track: Track): HeardTrack => {
    const { gainDb, envelopes, reduction } = soundOf(track, take, over);
    const here = envelopes.map((points) =>
      pointsBetween(points, inUs(begins), inUs(begins + length)).map(({ atUs, gain }) => ({
        ...{ at: inHeard(atUs), gain },
      })),
    );
    const changes = here.filter((points) => points.some(({ gain }) => gain !== 1));
    return { track, gainDb, envelopes: changes, reduction };
  };
  return {
    tracks: tracks.map(heardAs),
    at: start - from,
    from: begins,
    length,
    ...(sameRate(rate, AT_SPEED) ? {} : { rate }),
    fadedIn: fadeIn > 0 ? Math.min(fadeIn, start - one.startSample) : FADE,
    fadesOutAfter: fadeOut > 0 ? Math.min(fadeOut, one.endSample - end) : FADE,
    ...(Math.max(fadeIn, fadeOut) > FADE
      ? { fades: { in: fadeIn || FADE, out: fadeOut || FADE } }
      : {}),
    ...(clicks.length > 0 ? { clicks } : {}),
  };
};

/**
 * Divides the sound of a film into pieces. Their borders lie on a grid of *recorded* time where packets of AAC
 * begin, so that a cut elsewhere moves no border here, and a piece that was made once fits again.
 *
 * @param clicksOf presses that are heard
 * @param levels how loud tracks are against how they were recorded; null: all are as they were
 */
export const planSound = (
  film: Film,
  clicksOf: ClicksOf = NO_CLICKS,
  levels: SoundLevels | null = null,
): SoundPiece[] => {
  const heard = heardIn(film);
  const borders = bordersOf(film, heard);
  const soundOf = trackSoundsIn(film.lesson, levels);
  // What is made louder can come to be too loud.
  const limited = levels !== null || film.lesson.decisions.gains.voice.length > 0;
  let next = 0;
  return borders.slice(0, -1).map((border, index) => {
    const end = borders[index + 1]!;
    // An encoder's first packet only opens the second (priming); the film's first is kept.
    const first = index === 0 ? border - 1 : border;
    const from = (border - PRE_ROLL) * PACKET;
    const to = (end + POST_ROLL) * PACKET;
    while (heard[next] && heard[next]!.endSample <= from) next++;
    const stretches: SoundStretch[] = [];
    for (let at = next; heard[at] && heard[at]!.startSample < to; at++) {
      const stretch = stretchIn(heard[at]!, from, to, clicksOf, soundOf);
      if (stretch) stretches.push(stretch);
    }
    const piece = { packets: end - first, preRoll: PRE_ROLL + first - border, stretches };
    return limited ? { ...piece, limited: true } : piece;
  });
};
