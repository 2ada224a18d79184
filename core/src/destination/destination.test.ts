import { NEW_FRAME } from '../lesson/frame';
import {
  destinationOf as find,
  destinationSchema,
  FIRST_DESTINATIONS,
  limitsInWords,
} from './destination';
import { gauge } from './gauge';
import { filmLikes, knownBytes, likelyBytes, sizeOf } from './picture-size';
import { lessonOf, takeOfLength } from '../testing/lessons';

const s = (seconds: number) => seconds * 1_000_000;
const destinationOf = (id: string) => find(FIRST_DESTINATIONS, id);
const note = destinationOf('three-minute-note');

describe('destinations', () => {
  it('says its limits in words', () => {
    expect(limitsInWords(note)).toBe('5 s to 3 min · up to 60 MB');
    expect(limitsInWords(destinationOf('anywhere'))).toBe('no limit');
  });
  it('gives one without limits for an id it does not know', () =>
    expect(destinationOf('gone').mostUs).toBeNull());
  it('has different ids', () =>
    expect(new Set(FIRST_DESTINATIONS.map(({ id }) => id)).size).toBe(FIRST_DESTINATIONS.length));
  it('says that captions are required, and a least length alone', () => {
    expect(limitsInWords(destinationOf('course-film'))).toContain('captions required');
    expect(limitsInWords({ ...note, mostUs: null, mostBytes: null })).toBe('at least 5 s');
  });
  it('refuses one whose most is no longer than its least', () =>
    expect(destinationSchema.safeParse({ ...note, leastUs: s(200) }).success).toBe(false));
});

describe('the gauge', () => {
  it('tells what fits from what does not', () => {
    expect(gauge(0, note).state).toBe('empty');
    expect(gauge(s(2), note).state).toBe('too-short');
    expect(gauge(s(180), note).state).toBe('fits');
    expect(gauge(s(181), note).state).toBe('too-long');
    expect(gauge(s(301), destinationOf('course-film')).state).toBe('past-attention');
  });
  it('counts down to the limit and past it', () => {
    expect(gauge(s(100), note).leftUs).toBe(s(80));
    expect(gauge(s(200), note).leftUs).toBe(-s(20));
    expect(gauge(s(100), destinationOf('anywhere')).leftUs).toBeNull();
  });
  it('keeps every mark on the line, also when it is far too long', () => {
    const long = gauge(s(900), note);
    expect(long.used).toBe(1);
    expect(long.limit).toBeCloseTo(0.2);
    expect(long.attention).toBeCloseTo(1 / 3);
  });
  it('marks attention where the teacher has set it', () => {
    expect(gauge(s(100), note, s(90)).state).toBe('past-attention');
    expect(gauge(s(100), note, s(120)).attention).toBeCloseTo(120 / 198);
  });
  it('leaves out an attention mark that lies past the line', () =>
    expect(gauge(s(10), note).attention).toBeNull());
});

const HD = { widthPx: 1280, heightPx: 720 };

describe('picture size', () => {
  const lesson = lessonOf([takeOfLength('take-one', s(10), ['surface', 'camera'])]);
  it('is even and in the shape of the frame', () => {
    expect(sizeOf(lesson, '720p')).toEqual({ widthPx: 1280, heightPx: 720 });
    const tall = {
      ...lesson,
      decisions: { ...lesson.decisions, frame: { ...NEW_FRAME, shape: '9:16' as const } },
    };
    expect(sizeOf(tall, '1080p')).toEqual({ widthPx: 1080, heightPx: 1920 });
  });
  it('as recorded shows the largest track pixel for pixel', () =>
    expect(sizeOf(lesson, 'as-recorded')).toEqual({ widthPx: 1280, heightPx: 720 }));
  it('is as recorded where it is finest, and guessed to take more', () => {
    const finest = sizeOf(lesson, 'finest');
    expect(finest).toEqual({ widthPx: 1280, heightPx: 720, finer: true });
    expect(likelyBytes(finest, s(60))).toBeGreaterThan(1.3 * likelyBytes(HD, s(60)));
    // Known by what a usual one took.
    const before = { size: HD, bytes: 3_000_000, filmUs: s(60) };
    expect(likelyBytes(finest, s(60), { before })).toBeGreaterThan(3_500_000);
    expect(likelyBytes(finest, s(60), { before: { ...before, size: finest } })).toBe(3_000_000);
  });
  it('is guessed by what is there of a film already, rather than by another', () => {
    const done = { state: 'done', size: '720p', bytes: 3_000_000, filmUs: s(60) } as const;
    const sofar = { size: '720p', bytes: 5_000_000, filmUs: s(60) } as const;
    expect(likelyBytes(HD, s(60), filmLikes(lesson, [done], sofar))).toBe(5_000_000);
    expect(knownBytes(HD, s(60), filmLikes(lesson, [done], sofar))).toBe(5_000_000);
    // Nothing of it is there: no number is better than one that is wrong by several times.
    expect(knownBytes(HD, s(60), filmLikes(lesson, []))).toBeNull();
  });
  it('guesses bytes in proportion to length', () =>
    expect(likelyBytes(HD, s(120))).toBe(2 * likelyBytes(HD, s(60))));
  it('guesses by the film that was made last, where there is one', () => {
    const done = { state: 'done', size: '720p', bytes: 3_000_000, filmUs: s(60) } as const;
    const { before } = filmLikes(lesson, [{ ...done, state: 'making', bytes: 0 }, done]);
    expect(likelyBytes(HD, s(60), { before })).toBe(3_000_000);
    expect(likelyBytes(HD, s(120), { before })).toBe(6_000_000);
    const large = likelyBytes({ widthPx: 1920, heightPx: 1080 }, s(60), { before });
    expect(large).toBeGreaterThan(3_000_000);
    expect(large).toBeLessThan(2.25 * 3_000_000);
  });
  it('guesses less of what is only drawn', () => {
    const drawn = lessonOf([takeOfLength('take-one', s(10), ['ink', 'voice'])]);
    expect(likelyBytes(HD, s(60), filmLikes(drawn, []))).toBeLessThan(likelyBytes(HD, s(60)) / 2);
  });
});
