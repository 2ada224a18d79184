import { chaptersOf } from '../film/chapters';
import type { Film } from '../film/film';
import { recordedFrameIn, type Span } from '../film/span';
import { cardPlaceOf } from '../lesson/title-card';
import { trackOf, type Track, type TrackKind } from '../lesson/take';
import { takeNames } from '../lesson/take-names';
import { FILM_FPS, inFrames, nearestFrame } from '../time/frames';
import { AT_SPEED, sameRate } from '../time/rate';

// The names and fields are those of OpenTimelineIO’s serialized data (its documentation, “Serialized Data Documentation”).

const rational = (value: number) => ({
  OTIO_SCHEMA: 'RationalTime.1',
  rate: FILM_FPS,
  value,
});
const range = (start: number, frames: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: rational(start),
  duration: rational(frames),
});

/** Tracks of a timeline, the lowest picture first. */
const TRACKS: readonly {
  readonly kind: TrackKind;
  readonly name: string;
  readonly of: 'Video' | 'Audio';
}[] = [
  { kind: 'surface', name: 'Surface', of: 'Video' },
  { kind: 'camera', name: 'Camera', of: 'Video' },
  { kind: 'voice', name: 'Voice', of: 'Audio' },
  { kind: 'computer-sound', name: 'Computer sound', of: 'Audio' },
];

const gap = (frames: number) => ({
  ...{ OTIO_SCHEMA: 'Gap.1', name: '', metadata: {}, effects: [], markers: [] },
  source_range: range(0, frames),
});

/** The file that a track is in, beside the timeline. */
export const mediaName = ({ id }: Pick<Track, 'id'>): string => `media/${id}.mp4`;

const clip = (span: Span, track: Track, name: string) => {
  const { recorded, film } = span.rate;
  return {
    ...{ OTIO_SCHEMA: 'Clip.1', name, metadata: {}, markers: [] },
    // As long as it is shown; the warp says how much of the recording that is.
    source_range: range(recordedFrameIn(span, span.filmFrame), span.frames),
    effects: sameRate(span.rate, AT_SPEED)
      ? []
      : [
          {
            ...{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', metadata: {} },
            ...{ effect_name: 'LinearTimeWarp', time_scalar: recorded / film },
          },
        ],
    media_reference: {
      ...{ OTIO_SCHEMA: 'ExternalReference.1', name: '', metadata: {} },
      available_range: range(0, Math.floor(inFrames(track.durationUs))),
      target_url: mediaName(track),
    },
  };
};

/** The same as the text of a file. */
export const openTimelineText = (film: Film): string =>
  `${JSON.stringify(openTimeline(film), null, 2)}\n`;

/**
 * A film's cut list for other programs, as an OpenTimelineIO timeline: takes as clips with their ranges, speeds as time
 * effects, chapters as markers. What is laid over the picture isn't in it.
 *
 * @returns a plain value, to be written as JSON
 */
export const openTimeline = (film: Film): object => {
  const { lesson, spans } = film;
  const names = takeNames(lesson);
  const used = TRACKS.filter(({ kind }) => spans.some(({ take }) => trackOf(take, kind)));
  const chapters = chaptersOf(film).map(({ title, startUs }) => ({
    ...{ OTIO_SCHEMA: 'Marker.2', name: title, metadata: {}, color: 'GREEN' },
    marked_range: range(nearestFrame(startUs), 0),
  }));
  const tracks = used.map(({ kind, name, of }, index) => ({
    ...{ OTIO_SCHEMA: 'Track.1', name, kind: of, metadata: {}, effects: [] },
    source_range: null,
    markers: index === 0 ? chapters : [],
    children: spans.map((span) => {
      const track = cardPlaceOf(span.take) ? undefined : trackOf(span.take, kind);
      return track ? clip(span, track, names.get(span.take.id) ?? '') : gap(span.frames);
    }),
  }));
  return {
    ...{ OTIO_SCHEMA: 'Timeline.1', name: lesson.decisions.plan.title, metadata: {} },
    global_start_time: null,
    tracks: {
      ...{ OTIO_SCHEMA: 'Stack.1', name: 'tracks', metadata: {}, effects: [], markers: [] },
      ...{ source_range: null, children: tracks },
    },
  };
};
