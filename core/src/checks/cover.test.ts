import { filmOf } from '../film/film';
import { inkTrackOf } from '../ink/ink-track';
import type { Pen } from '../ink/pen';
import type { InkRecord } from '../ink/record';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { BLANK, coverTimes, FULL_ENOUGH, looksOf, proposed, takenOf } from './cover-choice';

const s = (seconds: number) => Math.round(seconds * 1_000_000);

describe('how a picture looks', () => {
  const [WIDE, HIGH] = [320, 180];
  const looks = (at: (x: number, y: number) => number) => {
    const pixels = new Uint8ClampedArray(WIDE * HIGH * 4).fill(255);
    for (let y = 0; y < HIGH; y++) {
      for (let x = 0; x < WIDE; x++) {
        for (let channel = 0; channel < 3; channel++)
          pixels[(y * WIDE + x) * 4 + channel] = at(x, y);
      }
    }
    return looksOf(pixels, WIDE, HIGH);
  };
  const picture = (at: (x: number, y: number) => number) => looks(at).full;
  it('is nothing of an even picture, dark or light, and next to nothing of one that only fades', () => {
    expect([picture(() => 0), picture(() => 255)]).toEqual([0, 0]);
    expect(picture((x) => (x / WIDE) * 255)).toBeLessThan(BLANK);
  });
  it('is little of a board with one line on it, enough of a page of writing, and all of a picture of lines', () => {
    const line = picture((x, y) => (y === 90 && x > 100 && x < 180 ? 255 : 20));
    expect(line).toBeGreaterThan(BLANK);
    expect(line).toBeLessThan(FULL_ENOUGH);
    expect(picture((x, y) => (y % 16 < 2 && x < 250 ? 20 : 240))).toBeGreaterThan(FULL_ENOUGH);
    expect(picture((x) => (x % 4 < 2 ? 0 : 255))).toBe(1);
  });
  it('is sharp where edges are steep, and not where they are smeared', () => {
    const crisp = looks((x) => (x % 32 < 12 ? 20 : 240));
    // The same, smeared over eight px.
    const smeared = looks((x) => 130 + 110 * Math.max(-1, Math.min(1, ((x % 32) - 12) / 4)));
    expect(crisp.sharp).toBe(1);
    expect(smeared.sharp).toBeLessThan(0.4);
    expect(looks(() => 20)).toMatchObject({ full: 0, sharp: 0 });
    expect(looks((x) => (x < WIDE / 2 ? 20 : 240)).lights.slice(7, 9)).toEqual([20, 240]);
  });
});

it('shows a board when most is written on it', () => {
  const pen: Pen = { tool: 'pen', colour: 'main', width: 0.004, stays: 'wiped' };
  const stroke = (id: string, at: number): InkRecord[] => [
    { at: s(at), do: 'begin', stroke: id, pen },
    { at: s(at), do: 'draw', stroke: id, samples: [[0, 0.2, 0.2, 0.5]] },
    { at: s(at) + 10_000, do: 'end', stroke: id },
  ];
  const ink = inkTrackOf([
    ...stroke('stroke-one', 10),
    ...stroke('stroke-two', 30),
    ...stroke('stroke-three', 40),
    { at: s(50), do: 'wipe', strokes: ['stroke-one', 'stroke-two', 'stroke-three'] },
  ]);
  const film = filmOf(lessonOf([takeOfLength('take-one', s(60))]));
  const [first] = coverTimes(film, () => ink);
  expect(first! / 1e6).toBeGreaterThan(40);
  expect(first! / 1e6).toBeLessThan(50);
  // Where nothing is written: a third into it first.
  expect(coverTimes(film, () => null)[0]).toBe(s(20));
});

it('proposes what is full and sharp, the best first, each moment once, and nothing blank', () => {
  const at = (second: number, full: number, sharp: number, light = second) => ({
    ...{ filmUs: s(second), full, sharp, lights: [light, light + 10] },
  });
  const moments = [
    ...[at(5, 0.005, 1), at(20, 0.3, 0.9), at(21, 0.3, 0.8), at(40, 0.3, 0.3), at(60, 0.9, 0.95)],
  ];
  expect(proposed(moments, s(100), 6).map(({ filmUs }) => filmUs / 1e6)).toEqual([60, 20, 40]);
  expect(proposed(moments, s(100), 1)).toHaveLength(1);
  expect(proposed([at(5, 0, 0)], s(100), 6)).toEqual([]);
  // What looks like a better one, however far from it.
  const alike = [at(20, 0.3, 0.9, 100), at(80, 0.2, 0.9, 101), at(90, 0.2, 0.9, 120)];
  expect(proposed(alike, s(100), 6).map(({ filmUs }) => filmUs / 1e6)).toEqual([20, 90]);
});

describe('a face that blinks', () => {
  const lights = Array.from({ length: 144 }, () => 100);
  const moment = (filmUs: number, full: number, eyesShut: boolean, light = 0) => ({
    ...{ filmUs, full, sharp: 1, eyesShut },
    lights: lights.map((one) => one + light),
  });
  it('is neither taken nor proposed where it is seen with open eyes too', () => {
    const all = [
      moment(s(1), 0.5, true),
      moment(s(5), 0.3, false, 40),
      moment(s(9), 0.4, true, 80),
    ];
    expect(takenOf(all)).toBe(s(5));
    expect(proposed(all, s(10), 6).map(({ filmUs }) => filmUs)).toEqual([s(5)]);
  });
  it('is taken all the same where nothing else shows anything', () => {
    const all = [moment(s(1), 0.5, true), moment(s(5), 0, false, 40)];
    expect(takenOf(all)).toBe(s(1));
    expect(proposed(all, s(10), 6).map(({ filmUs }) => filmUs)).toEqual([s(1)]);
  });
});
