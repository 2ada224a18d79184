import { filmOf } from '../film/film';
import { FIRST_CARD } from '../lesson/title-card';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { openTimeline } from './opentimelineio';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const one = takeOfLength('take-one', s(20));
const two = takeOfLength('take-two', s(10), ['camera', 'voice']);
const topics = [{ id: 'point-one', text: 'The rule', show: '', words: '', rank: 0 }];

/** As another program reads it. */
const read = (value: object) => JSON.parse(JSON.stringify(value));

it('has takes as clips with their ranges, gaps where a take has no such track, speeds and chapters', () => {
  const film = filmOf(
    lessonOf([one, two], {
      cuts: [{ takeId: 'take-one', startUs: s(5), endUs: s(8) }],
      speeds: [{ takeId: 'take-one', startUs: s(10), endUs: s(14), speed: 200 }],
      titleCards: { opening: FIRST_CARD, closing: null },
      topics,
      topicsDone: [{ topicId: 'point-one', takeId: 'take-one', atUs: s(9) }],
    }),
  );
  const { OTIO_SCHEMA, tracks } = read(openTimeline(film));
  expect([OTIO_SCHEMA, tracks.OTIO_SCHEMA]).toEqual(['Timeline.1', 'Stack.1']);
  expect(
    tracks.children.map(({ name, kind }: { name: string; kind: string }) => [name, kind]),
  ).toEqual([
    ['Surface', 'Video'],
    ['Camera', 'Video'],
    ['Voice', 'Audio'],
  ]);
  for (const { children } of tracks.children) {
    const frames = children.map((one: any) => one.source_range.duration.value);
    expect(frames.reduce((sum: number, count: number) => sum + count, 0)).toBe(film.frames);
  }
  const [surface, , voice] = tracks.children;
  expect(
    surface.children.map((clip: any) => [clip.OTIO_SCHEMA, clip.source_range.start_time.value]),
  ).toEqual([
    ['Gap.1', 0],
    ['Clip.1', 0],
    ['Clip.1', 240],
    ['Clip.1', 300],
    ['Clip.1', 420],
    ['Gap.1', 0],
  ]);
  // Four seconds in two of the film.
  expect(surface.children[3].source_range.duration).toEqual({
    ...{ OTIO_SCHEMA: 'RationalTime.1', rate: 30, value: 60 },
  });
  expect(surface.children[3].effects).toEqual([
    expect.objectContaining({ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 2 }),
  ]);
  expect(voice.children.at(-1).media_reference).toMatchObject({
    OTIO_SCHEMA: 'ExternalReference.1',
    target_url: 'media/take-two-voice.mp4',
    available_range: { duration: { value: 300 } },
  });
  expect(surface.markers).toEqual([
    expect.objectContaining({ OTIO_SCHEMA: 'Marker.2', name: 'The rule' }),
  ]);
});
