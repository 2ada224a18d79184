import { lessonOf, takeOfLength } from '../testing/lessons';
import { fromDbfs } from './level';
import { gainAt, duckedIn, duckedUnder, pointsBetween } from './ducking';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const LOW = fromDbfs(-10);

it('goes down before somebody speaks, stays down while they do, and comes up after', () => {
  const points = duckedUnder([{ startUs: s(4), endUs: s(6) }], 10);
  expect(gainAt(points, s(3.7))).toBe(1);
  expect(gainAt(points, s(3.9))).toBeLessThan(0.9);
  for (const at of [4, 5, 5.99]) expect(gainAt(points, s(at))).toBeCloseTo(LOW);
  expect(gainAt(points, s(6.3))).toBeGreaterThan(LOW + 0.1);
  expect(gainAt(points, s(6.7))).toBe(1);
});

it('doesn’t come up in a pause that is too short for it, and is down at the beginning where somebody speaks at once', () => {
  const speech = [
    { startUs: s(0.1), endUs: s(2) },
    { startUs: s(2.5), endUs: s(4) },
    { startUs: s(8), endUs: s(9) },
  ];
  const points = duckedUnder(speech, 10);
  for (const at of [0, 0.1, 2.2, 3.9]) expect(gainAt(points, s(at))).toBeCloseTo(LOW);
  expect(gainAt(points, s(6))).toBe(1);
  expect(points.map(({ atUs }) => atUs)).toEqual(
    [...points.map(({ atUs }) => atUs)].sort((a, b) => a - b),
  );
});

it('is as loud between two times by the points that matter there as by all', () => {
  const speech = Array.from({ length: 9 }, (_, at) => ({
    startUs: s(2 + at * 4),
    endUs: s(3.2 + at * 4),
  }));
  const points = duckedUnder(speech, 6);
  for (let from = 0; from < 38; from += 0.37) {
    const some = pointsBetween(points, s(from), s(from + 1.1));
    for (const into of [0, 0.3, 0.7, 1.1]) {
      expect(gainAt(some, s(from + into))).toBeCloseTo(gainAt(points, s(from + into)), 9);
    }
    expect(some.length).toBeLessThan(8);
  }
});

it('is only for what the computer plays under a voice, and by as much as is wanted', () => {
  const both = takeOfLength('take-both', s(9), ['surface', 'voice', 'computer-sound']);
  const alone = takeOfLength('take-alone', s(9), ['surface', 'computer-sound']);
  const speechOf = () => [{ startUs: s(2), endUs: s(4) }];
  const { decisions } = lessonOf([both, alone]);
  expect(duckedIn(decisions, speechOf)(both)).toHaveLength(4);
  expect(duckedIn(decisions, speechOf)(alone)).toEqual([]);
  expect(duckedIn({ ...decisions, duckingDb: 0 }, speechOf)(both)).toEqual([]);
});
