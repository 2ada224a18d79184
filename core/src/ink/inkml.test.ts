import * as fc from 'fast-check';
import { inkOfInkml, inkmlOf } from './inkml';
import { inkTrackOf, pageAt } from './ink-track';
import { inkRecordSchema, type InkRecord, type InkSample } from './record';
import { recordsOfHand } from './script/script-records';
import { handOf } from './script/scripted-hand';
import { twelfthsScript } from './script/twelfths';

const names = () => {
  let count = 0;
  return () => `name-${String(++count).padStart(6, '0')}`;
};
const paper = { ruling: 'squared', shade: 'dark' } as const;
const back = (xml: string) => {
  const records = inkOfInkml(xml, names());
  records.forEach((record) => inkRecordSchema.parse(record));
  return inkTrackOf(records);
};
const points = (track: ReturnType<typeof inkTrackOf>) =>
  track.strokes.map(({ pen, text, points: drawn, straightened }) => [
    pen,
    text,
    straightened ?? drawn,
  ]);

describe('InkML out and in', () => {
  it('keeps every point, time and pressure, the pens, the pages and the words', () => {
    const script = recordsOfHand(handOf(twelfthsScript()), 'twelfths', paper, 0.0048);
    const words: InkRecord[] = [
      {
        ...{ at: 70_000_000, do: 'begin', stroke: 'stroke-words', text: 'Rise & fall <m>' },
        pen: { tool: 'text', colour: 'green', width: 0.04, stays: 5_000_000 },
      },
      { at: 70_000_000, do: 'draw', stroke: 'stroke-words', samples: [[0, 0.3, 0.1, 0.5]] },
      { at: 70_000_000, do: 'end', stroke: 'stroke-words' },
    ];
    const track = inkTrackOf([...script, ...words]);
    const again = back(inkmlOf(track));
    expect(again.strokes).toHaveLength(track.strokes.length);
    const shape = ([pen]: unknown[]) => (pen as { tool: string }).tool;
    const [before, after] = [points(track), points(again)];
    before.forEach((one, index) => {
      const other = after[index]!;
      if (['pen', 'highlighter', 'text'].includes(shape(one))) expect(other).toEqual(one);
      else expect(other.slice(0, 2)).toEqual(one.slice(0, 2));
    });
    expect(again.pages).toHaveLength(2);
    expect(again.turns[0]!.paper).toEqual(paper);
    // It goes round as often as it likes.
    expect(points(back(inkmlOf(again)))).toEqual(after);
  });
  it('keeps any points', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 600_000_000 }),
            fc.integer({ min: -5_000_000, max: 5_000_000 }),
            fc.integer({ min: -5_000_000, max: 5_000_000 }),
            fc.integer({ min: 0, max: 100_000 }),
          ),
          { minLength: 1, maxLength: 30 },
        ),
        (list) => {
          const samples = list.map(([later, x, y, p]): InkSample => [
            later,
            x / 1e5,
            y / 1e5,
            p / 1e5,
          ]);
          const track = inkTrackOf([
            { at: 0, do: 'page', page: 'page-one', paper },
            {
              ...{ at: 17, do: 'begin', stroke: 'stroke-one' },
              pen: { tool: 'pen', colour: 'red', width: 0.01, stays: 'turned' },
            },
            { at: 17, do: 'draw', stroke: 'stroke-one', samples },
            { at: 17, do: 'end', stroke: 'stroke-one' },
          ]);
          const [was, is] = [track.strokes[0]!.points, back(inkmlOf(track)).strokes[0]!.points];
          expect(is.map(({ atUs, pressure }) => [atUs, pressure])).toEqual(
            was.map(({ atUs, pressure }) => [atUs, pressure]),
          );
          is.forEach(({ x, y }, index) => {
            expect(x).toBeCloseTo(was[index]!.x, 7);
            expect(y).toBeCloseTo(was[index]!.y, 7);
          });
        },
      ),
      { seed: 3, numRuns: 200 },
    ));
  it('leaves out what was wiped in the end', () => {
    const track = inkTrackOf([
      ...recordsOfHand(handOf(twelfthsScript().slice(0, 1)), 'one', paper, 0.005),
      { at: 60_000_000, do: 'wipe', strokes: ['one-stroke-0001'] },
    ]);
    expect(back(inkmlOf(track)).strokes).toHaveLength(track.strokes.length - 1);
  });
});

describe('ink of other programs', () => {
  const ink = (inside: string) => `<ink xmlns="http://www.w3.org/2003/InkML">${inside}</ink>`;
  it('is laid on a page and written at the pace of a hand', () => {
    const track = back(ink('<trace>10 0, 9 14, 8 28</trace><trace>130 155, 144 159</trace>'));
    const { strokes, paper: under } = pageAt(track, 10_000_000);
    expect([strokes.length, under.ruling]).toEqual([2, 'plain']);
    const all = strokes.flatMap((shown) => shown.points);
    expect(Math.min(...all.map(({ x }) => x))).toBeCloseTo(0.05);
    expect(Math.max(...all.map(({ y }) => y))).toBeCloseTo(9 / 16 - 0.05);
    const times = all.map(({ atUs }) => atUs);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    expect(new Set(times).size).toBe(5);
  });
  it('may tell differences, and differences of differences', () => {
    const track = back(ink(`<trace>1125 18432,'23'43,"7"-8,3-5</trace>`));
    // 1125, 1148, 1178, 1211 and 18432, 18475, 18510, 18540 (the example of the Recommendation, 3.3.1).
    const [first] = track.strokes;
    const across = first!.points.map(({ x }) => x - first!.points[0]!.x);
    expect(across[2]! / across[1]!).toBeCloseTo(53 / 23);
    expect(across[3]! / across[1]!).toBeCloseTo(86 / 23);
  });
  it('is refused with a sentence where it is none', () => {
    for (const hostile of [
      '',
      'no ink at all',
      '<svg xmlns="http://www.w3.org/2000/svg"/>',
      ink(''),
      ink('<trace>1 2, 3'),
      `<!DOCTYPE ink [<!ENTITY a "aaaaaaaaaa">]>${ink('<trace>&a;</trace>')}`,
      ink('<traceGroup>'.repeat(60)),
      ink('<traceFormat><channel name="F"/><channel name="T"/></traceFormat><trace>1 2</trace>'),
    ]) {
      expect(() => inkOfInkml(hostile, names())).toThrow(
        expect.objectContaining({ code: 'ink-unreadable' }),
      );
    }
  });
});
