import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { NEW_DECISIONS } from '../edit/decisions';
import type { Plan } from '../lesson/plan';
import type { TrackKind } from '../lesson/take';
import { destinationOf, FIRST_DESTINATIONS } from '../destination/destination';
import { ATTENTION_US } from '../destination/gauge';
import { checksOf, type Known } from './checks';

const verdicts = (
  seconds: number,
  plan: Partial<Plan>,
  dbfs: number,
  kinds: TrackKind[] = ['surface', 'voice'],
  bytes: Known['bytes'] = { count: 1_000_000, made: false },
  practice = false,
) => {
  const take = { ...takeOfLength('take-one', seconds * 1e6, kinds), practice };
  const film = filmOf(
    lessonOf(seconds > 0 ? [take] : [], { plan: { ...NEW_DECISIONS.plan, ...plan } }),
  );
  const place = destinationOf(FIRST_DESTINATIONS, film.lesson.decisions.plan.destinationId);
  const line = new Uint8Array(seconds * 50).fill(100 + dbfs);
  return Object.fromEntries(
    checksOf(film, {
      levels: new Map([['take-one', line]]),
      ...{ destination: place, attentionUs: ATTENTION_US, bytes },
    }).map((check) => [check.id, check.verdict]),
  );
};

it('finds a good film good, but for captions', () =>
  expect(verdicts(60, { title: 'Tide heights' }, -20)).toEqual({
    captions: 'look',
    cover: 'good',
    licence: 'good',
    title: 'good',
    length: 'good',
    sound: 'good',
    picture: 'good',
  }));
it('sees what is missing', () => {
  expect(verdicts(60, {}, -70)).toMatchObject({ title: 'look', sound: 'stop' });
  expect(verdicts(0, { title: 'x' }, 0)).toMatchObject({ length: 'stop', sound: 'stop' });
  expect(verdicts(60, { title: 'x' }, -20, ['voice'])).toMatchObject({ picture: 'look' });
  expect(verdicts(60, { title: 'x' }, -20, ['surface'])).toMatchObject({ sound: 'stop' });
});
it('says what was only practised', () => {
  const practised = verdicts(60, { title: 'x' }, -20, undefined, undefined, true);
  expect(practised).toMatchObject({ practice: 'look' });
});
it('holds the length against the place', () => {
  const note = { title: 'x', destinationId: 'three-minute-note' };
  expect(verdicts(181, note, -20)).toMatchObject({ length: 'stop' });
  expect(verdicts(3, note, -20)).toMatchObject({ length: 'stop' });
  expect(verdicts(301, { title: 'x' }, -20)).toMatchObject({ length: 'look' });
});
it('holds the bytes against the place: reckoned ones can be wrong, made ones can’t', () => {
  const note = { title: 'x', destinationId: 'three-minute-note' };
  const bytes = (count: number, made: boolean) =>
    verdicts(60, note, -20, ['surface', 'voice'], { count, made }).bytes;
  expect(bytes(59_000_000, false)).toBe('good');
  expect(bytes(61_000_000, false)).toBe('look');
  expect(bytes(61_000_000, true)).toBe('stop');
  // Nothing is said while nobody knows.
  expect(verdicts(60, note, -20, ['surface', 'voice'], null)).not.toHaveProperty('bytes');
  expect(verdicts(60, { title: 'x' }, -20)).not.toHaveProperty('bytes');
});
it('says so where a place takes no film without captions', () =>
  expect(verdicts(60, { title: 'x', destinationId: 'course-film' }, -20)).toMatchObject({
    captions: 'stop',
  }));

describe('captions', () => {
  const lines = new Map([['take-one', Uint8Array.from({ length: 3_000 }, () => 80)]]);
  const check = (...ranges: [number, number, draft?: boolean][]) => {
    const cues = ranges.map(([from, to, draft = false], at) => ({
      language: 'en',
      cue: {
        ...{ id: `cue-${at}-checked`, takeId: 'take-one', text: 'what is said' },
        ...{ startUs: from * 1e6, endUs: to * 1e6, words: null, draft },
        timed: 'by-hand' as const,
      },
    }));
    const lesson = lessonOf([takeOfLength('take-one', 60_000_000, ['voice'])], { cues });
    const found = checksOf(filmOf(lesson), {
      ...{ levels: lines, destination: FIRST_DESTINATIONS[0]!, attentionUs: 300_000_000 },
      bytes: { count: 0, made: false },
    });
    const { verdict, sentence } = found.find(({ id }) => id === 'captions')!;
    return [verdict, sentence];
  };
  it('are missed, told when they leave out some of what is said or can’t be read, and fine', () => {
    expect(check()[0]).toBe('look');
    expect(check([0, 29])).toEqual(['look', 'Captions are there for 50 % of what is said.']);
    expect(check([0, 30, true], [31, 60])[1]).toContain('One caption is a machine’s draft');
    expect(check([0, 0.4], [1, 60])).toEqual(['look', 'One caption is hard to read in time.']);
    expect(check([0, 30], [31, 60])).toEqual([
      'good',
      'There are captions for all that is said, in English.',
    ]);
  });
});

it('says where the room is heard under a voice, until something is done about it', () => {
  const take = takeOfLength('take-one', 60_000_000, ['voice']);
  const line = (room: number) =>
    Uint8Array.from({ length: 3_000 }, (_, step) => (step % 50 < 15 ? 100 + room : 82));
  const told = (room: number, noiseReduction: { takeId: string; reduction: 'gently' }[] = []) =>
    checksOf(filmOf(lessonOf([take], { noiseReduction })), {
      levels: new Map([['take-one', line(room)]]),
      ...{ destination: FIRST_DESTINATIONS[0]!, attentionUs: 300_000_000 },
      bytes: { count: 1, made: false },
    }).filter(({ id }) => id === 'room');
  expect(told(-60)).toEqual([]);
  expect(told(-42)).toEqual([
    {
      id: 'room',
      verdict: 'look',
      sentence: 'In take 1 the room can be heard under the voice (24 dB below it).',
      mend: {
        words: 'Take it down',
        acts: [{ do: 'reduce-noise', takeId: 'take-one', reduction: 'gently' }],
      },
    },
  ]);
  expect(told(-42, [{ takeId: 'take-one', reduction: 'gently' }])).toEqual([]);
});
