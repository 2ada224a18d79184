import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { heardOf, takesHeard } from './heard';
import { changedOver, dbInWords, NOT_HEARD_DB } from './gains';
import { voiceOverOf } from './voice-over';
import { noiseReducedIn, trackSoundsIn } from './track-sound';
import { gainAt } from './ducking';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(20), ['surface', 'voice', 'computer-sound']);
const anew = takeOfLength('take-anew', s(6), ['voice']);
const stretch = (from: number, to: number) => ({ takeId: take.id, startUs: s(from), endUs: s(to) });
const by = (sinceS: number, fromS = 0) => ({
  takeId: anew.id,
  fromUs: s(fromS),
  sinceUs: s(sinceS),
});
const lesson = (decisions: Parameters<typeof lessonOf>[1] = {}) =>
  lessonOf([take, anew], { excluded: [anew.id], ...decisions });
const over = (decisions: Parameters<typeof lessonOf>[1]) =>
  voiceOverOf(filmOf(lesson(decisions))).map(({ startFrame, filmFrame, frames }) => [
    ...[filmFrame / 30, frames / 30, startFrame / 30],
  ]);

describe('levels of stretches', () => {
  const levels = (...all: [number, number, number][]) =>
    changedOver(
      all.map(([from, to, db]) => ({ ...stretch(from, to), db })),
      take.id,
    );

  it('change at the borders of the stretch, within some milliseconds, and nowhere else', () => {
    const points = levels([4, 6, -6], [6, 7, NOT_HEARD_DB], [9, 10, 6]);
    const at = (seconds: number) => gainAt(points, s(seconds));
    expect(at(3.98)).toBe(1);
    expect(at(4.02)).toBeCloseTo(0.501, 3);
    expect(at(5.98)).toBeCloseTo(0.501, 3);
    expect(at(6.02)).toBe(0);
    expect(at(7.02)).toBe(1);
    expect(at(8)).toBe(1);
    expect(at(9.5)).toBeCloseTo(1.995, 3);
    expect(at(11)).toBe(1);
    expect(points.map(({ atUs }) => atUs)).toEqual(
      points.map(({ atUs }) => atUs).sort((a, b) => a - b),
    );
  });

  it('begin so where the take begins with one, and are none where there are none', () => {
    expect(gainAt(levels([0, 2, -6]), 0)).toBeCloseTo(0.501, 3);
    expect(levels()).toEqual([]);
  });

  it('are for one of the two, and told in words', () => {
    const decisions = {
      gains: { voice: [{ ...stretch(4, 6), db: 3 }], 'computer-sound': [] },
    };
    const soundOf = trackSoundsIn(lesson(decisions), null);
    const [, voice, computer] = take.tracks;
    expect(soundOf(voice!, take, false).envelopes).toHaveLength(1);
    expect(soundOf(computer!, take, false).envelopes).toEqual([]);
    expect([-60, -12, -6, -3, 3, 9].map(dbInWords)).toEqual([
      ...['silent', 'much quieter', 'quieter', 'a little quieter', 'a little louder'],
      'much louder',
    ]);
  });
});

describe('what is spoken over', () => {
  it('is heard while that is on show, and ends with it or by itself', () => {
    expect(over({ voiceOvers: [{ ...stretch(4, 8), by: by(4) }] })).toEqual([[4, 4, 0]]);
    expect(over({ voiceOvers: [{ ...stretch(4, 15), by: by(4) }] })).toEqual([[4, 6, 0]]);
  });

  it('runs on over a cut in what is seen, and leaves out what was cut out of it', () => {
    const voiceOvers = [{ ...stretch(4, 9), by: by(4) }];
    expect(over({ voiceOvers, cuts: [stretch(5, 6)] })).toEqual([[4, 4, 0]]);
    const own = { takeId: anew.id, startUs: s(1), endUs: s(2) };
    expect(over({ voiceOvers, cuts: [own] })).toEqual([
      [4, 1, 0],
      [5, 4, 2],
    ]);
  });

  it('has its voice in place of the other, whose computer is heard as before', () => {
    const of = lesson({ voiceOvers: [{ ...stretch(4, 8), by: by(4) }] });
    const soundOf = trackSoundsIn(of, null);
    const [, voice, computer] = take.tracks;
    const [points] = soundOf(voice!, take, false).envelopes;
    expect([3.9, 6, 8.1].map((at) => gainAt(points!, s(at)))).toEqual([1, 0, 1]);
    expect(soundOf(computer!, take, false).envelopes).toEqual([]);
    expect(soundOf(anew.tracks[0]!, anew, true).envelopes).toEqual([]);
    const film = filmOf(of);
    expect(heardOf(film).map(({ take: { id }, over: is }) => [id, is])).toEqual([
      ['take-one', false],
      ['take-anew', true],
    ]);
    expect([...takesHeard(film)].map(({ id }) => id)).toEqual(['take-one', 'take-anew']);
  });

  it('is silent where that is muted', () => {
    const of = lesson({
      voiceOvers: [{ ...stretch(4, 8), by: by(4) }],
      muted: [stretch(5, 6)],
    });
    const heard = heardOf(filmOf(of)).filter((one) => one.over);
    expect(
      heard.map(({ filmFrame, frames, step }) => [filmFrame / 30, frames / 30, step / 30]),
    ).toEqual([
      [4, 1, 0],
      [6, 2, 2],
    ]);
  });

  it('lets the first voice be heard where there is no other', () => {
    const of = lessonOf([take, { ...anew, state: 'processing' }], {
      voiceOvers: [{ ...stretch(4, 8), by: by(4) }],
    });
    expect(voiceOverOf(filmOf(of))).toEqual([]);
    expect(trackSoundsIn(of, null)(take.tracks[1]!, take, false).envelopes).toEqual([]);
  });
});

it('the room is taken from under voices alone, and those that are spoken over are among them', () => {
  const noiseReduction = [take, anew].map(({ id }) => ({
    takeId: id,
    reduction: 'gently' as const,
  }));
  const of = lesson({ noiseReduction, voiceOvers: [{ ...stretch(4, 8), by: by(4) }] });
  expect(noiseReducedIn(filmOf(of)).map(({ track }) => track.kind)).toEqual(['voice', 'voice']);
  const soundOf = trackSoundsIn(of, null);
  expect(take.tracks.map((track) => soundOf(track, take, false).reduction)).toEqual([
    ...[null, 'gently', null],
  ]);
});
