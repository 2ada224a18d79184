import { FADE_US, inkTrackOf, pageAt, unchangedSince, writingIn } from './ink-track';
import type { Pen, Staying } from './pen';
import { inkLine, readInk, type InkRecord, type InkSample } from './record';

const paper = { ruling: 'squared', shade: 'light' } as const;
const pen = (stays: Staying = 'wiped'): Pen => ({
  tool: 'pen',
  colour: 'main',
  width: 0.004,
  stays,
});
const turn = (at: number, page: string): InkRecord => ({ at, do: 'page', page, paper });
/** A stroke of four samples, 10 ms apart, to the right. */
const stroke = (at: number, id: string, stays?: Staying, x = 0.1): InkRecord[] => [
  { at, do: 'begin', stroke: id, pen: pen(stays) },
  {
    at,
    do: 'draw',
    stroke: id,
    samples: [0, 1, 2, 3].map((n): InkSample => [n === 0 ? 0 : 10_000, x + n * 0.1, 0.2, 0.5]),
  },
  { at: at + 30_000, do: 'end', stroke: id },
];
const seen = (records: readonly InkRecord[], us: number) => {
  const { index, strokes } = pageAt(inkTrackOf(records), us);
  return [index, ...strokes.map((shown) => `${shown.stroke.id}:${shown.points.length}`)];
};

const PAGES: InkRecord[] = [
  turn(0, 'page-one'),
  ...stroke(1_000_000, 'stroke-a'),
  ...stroke(2_000_000, 'stroke-film', 'film'),
  ...stroke(2_500_000, 'stroke-turned', 'turned'),
  turn(3_000_000, 'page-two'),
  ...stroke(4_000_000, 'stroke-b'),
  turn(5_000_000, 'page-one'),
];

describe('a track of ink', () => {
  it('shows a stroke as far as it has been drawn', () => {
    expect(seen(PAGES, 999_999)).toEqual([0]);
    expect(seen(PAGES, 1_000_000)).toEqual([0, 'stroke-a:1']);
    expect(seen(PAGES, 1_019_999)).toEqual([0, 'stroke-a:2']);
    expect(seen(PAGES, 1_040_000)).toEqual([0, 'stroke-a:4']);
  });
  it('goes to another page and back: what was written there is there again', () => {
    expect(seen(PAGES, 2_900_000)).toEqual([0, 'stroke-a:4', 'stroke-film:4', 'stroke-turned:4']);
    expect(seen(PAGES, 3_500_000)).toEqual([1, 'stroke-film:4']);
    expect(seen(PAGES, 4_500_000)).toEqual([1, 'stroke-film:4', 'stroke-b:4']);
    expect(seen(PAGES, 5_500_000)).toEqual([0, 'stroke-a:4', 'stroke-film:4']);
  });
  it('wipes, takes wiping back, and moves', () => {
    const records: InkRecord[] = [
      ...stroke(0, 'stroke-a'),
      { at: 1_000_000, do: 'wipe', strokes: ['stroke-a', 'stroke-of-nobody'] },
      { at: 2_000_000, do: 'unwipe', strokes: ['stroke-a'] },
      { at: 3_000_000, do: 'shift', strokes: ['stroke-a'], x: 0.25, y: -0.1 },
      { at: 4_000_000, do: 'shift', strokes: ['stroke-a'], x: 0.25, y: 0 },
    ];
    expect(seen(records, 500_000)).toEqual([-1, 'stroke-a:4']);
    expect(seen(records, 1_000_000)).toEqual([-1]);
    expect(seen(records, 2_000_000)).toEqual([-1, 'stroke-a:4']);
    const first = (us: number) => pageAt(inkTrackOf(records), us).strokes[0]!.points[0]!;
    expect(first(2_500_000)).toMatchObject({ x: 0.1, y: 0.2 });
    expect(first(4_500_000).x).toBeCloseTo(0.6);
    expect(first(4_500_000).y).toBeCloseTo(0.1);
  });
  it('lets a stroke fade after its time', () => {
    const records = stroke(0, 'stroke-a', 1_000_000);
    const ended = 30_000;
    const opacity = (us: number) => pageAt(inkTrackOf(records), us).strokes[0]?.opacity;
    expect(opacity(ended + 1_000_000)).toBe(1);
    expect(opacity(ended + 1_000_000 + FADE_US / 2)).toBeCloseTo(0.5);
    expect(opacity(ended + 1_000_000 + FADE_US)).toBeUndefined();
  });
  it('has the straightened points once a stroke is done', () => {
    const records = stroke(0, 'stroke-a');
    records[2] = {
      at: 30_000,
      do: 'end',
      stroke: 'stroke-a',
      samples: [
        [0, 0, 0, 0.5],
        [0, 1, 0, 0.5],
      ],
    };
    expect(seen(records, 20_000)).toEqual([-1, 'stroke-a:3']);
    expect(seen(records, 30_000)).toEqual([-1, 'stroke-a:2']);
  });
  it('looks the same for as long as nothing changes, and only then', () => {
    const track = inkTrackOf([...PAGES, ...stroke(6_000_000, 'stroke-c', 500_000)]);
    let before = { since: -1, looks: '' };
    for (let us = 0; us < 8_000_000; us += 4_000) {
      const since = unchangedSince(track, us);
      const { strokes, ...page } = pageAt(track, us);
      const looks = JSON.stringify([
        page,
        strokes.map(({ stroke: of, points, opacity }) => [of.id, points.length, opacity]),
      ]);
      if (since === before.since) expect(looks).toBe(before.looks);
      // What looked so since then is what is seen then.
      expect(pageAt(track, since).strokes.length).toBe(strokes.length);
      before = { since, looks };
    }
  });
  it('tells when a hand writes, its short pauses included', () => {
    const records = [
      ...stroke(1_000_000, 'stroke-a'),
      ...stroke(1_500_000, 'stroke-b'),
      ...stroke(4_000_000, 'stroke-c'),
    ];
    expect(writingIn(inkTrackOf(records))).toEqual([
      { startUs: 0, endUs: 0 },
      { startUs: 1_000_000, endUs: 1_530_000 },
      { startUs: 4_000_000, endUs: 4_030_000 },
    ]);
  });
});

describe('records of ink', () => {
  it('are read as they were written', () => {
    const text = PAGES.map(inkLine).join('');
    expect(readInk(text)).toEqual({ records: PAGES, unread: 0 });
  });
  it('half of one is none, and what is no record is counted and left out', () => {
    const lines = stroke(0, 'stroke-a').map(inkLine);
    const torn = lines.join('').slice(0, -5);
    expect(readInk(torn)).toMatchObject({ records: { length: 2 }, unread: 0 });
    const odd = [
      'null\n',
      '{"do":"begin"}\n',
      '{"at":1,"do":"of a later version"}\n',
      `${'x'.repeat(300_000)}\n`,
      `{"at":5,"do":"shift","strokes":["stroke-a"],"x":1e9,"y":0}\n`,
      `{"at":5,"do":"wipe","strokes":["../../etc/passwd"]}\n`,
    ];
    expect(readInk([...odd, ...lines].join(''))).toMatchObject({
      records: { length: 3 },
      unread: 6,
    });
  });
  it('never run backwards', () => {
    const late: InkRecord[] = [turn(2_000, 'page-one'), turn(1_000, 'page-two')];
    expect(readInk(late.map(inkLine).join('')).records.map(({ at }) => at)).toEqual([2_000, 2_000]);
  });
});
