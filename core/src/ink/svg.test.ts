import { filmOf } from '../film/film';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { inkTrackOf, pageAt } from './ink-track';
import { notesOf } from './notes';
import type { InkRecord } from './record';
import { recordsOfHand } from './script/script-records';
import { handOf } from './script/scripted-hand';
import { twelfthsScript } from './script/twelfths';
import { svgOf } from './svg';

const paper = { ruling: 'squared', shade: 'light' } as const;
const track = inkTrackOf(recordsOfHand(handOf(twelfthsScript()), 'twelfths', paper, 0.0048));
const take = takeOfLength('take-twelfths', 70_000_000, ['voice']);
const s = (seconds: number) => seconds * 1_000_000;

describe('a page as SVG', () => {
  it('is vectors and text, one element a stroke', () => {
    const page = pageAt(track, s(69));
    const svg = svgOf(page, 'Tides & twelfths');
    expect(svg).toContain('<title>Tides &amp; twelfths</title>');
    const areas = svg.match(/<path fill="#/g) ?? [];
    const drawnByHand = page.strokes.filter(({ stroke }) =>
      ['pen', 'highlighter'].includes(stroke.pen.tool),
    );
    expect(areas).toHaveLength(drawnByHand.length);
    expect(svg).not.toMatch(/NaN|undefined|Infinity|<image|<script/);
  });
  it('has words as words, and nothing in them is markup', () => {
    const records: InkRecord[] = [
      { at: 0, do: 'page', page: 'page-one', paper },
      {
        ...{ at: 0, do: 'begin', stroke: 'stroke-one', text: '<script>&\nrise' },
        pen: { tool: 'text', colour: 'red', width: 0.04, stays: 'wiped' },
      },
      { at: 0, do: 'draw', stroke: 'stroke-one', samples: [[0, 0.1, 0.1, 0.5]] },
      { at: 0, do: 'end', stroke: 'stroke-one' },
    ];
    const svg = svgOf(pageAt(inkTrackOf(records), 1), 'x');
    expect(svg).toContain('<tspan x="100" y="100">&lt;script&gt;&amp;</tspan>');
    expect(svg).toContain('<tspan x="100" y="154">rise</tspan>');
  });
});

describe('what students keep of a board lesson', () => {
  const notes = (cuts: { startUs: number; endUs: number }[] = []) =>
    notesOf(
      filmOf(lessonOf([take], { cuts: cuts.map((cut) => ({ takeId: take.id, ...cut })) })),
      () => track,
    );
  it('is each page as it looks in the end, with the times at which it is turned to', () => {
    const [first, second, ...more] = notes();
    expect(more).toEqual([]);
    expect(first!.page.strokes).toHaveLength(pageAt(track, s(69)).strokes.length);
    expect(first!.shownUs).toEqual([0, expect.closeTo(s(58.6), -4)]);
    expect(second!.shownUs).toEqual([expect.closeTo(s(36), -4)]);
  });
  it('has nothing of what was cut out: neither a page nor what was written after', () => {
    const cut = notes([{ startUs: s(30), endUs: s(69.9) }]);
    expect(cut).toHaveLength(1);
    expect(cut[0]!.shownUs).toEqual([0]);
    const tools = cut[0]!.page.strokes.map(({ stroke }) => stroke.pen.tool);
    // The last tenth shows the first page again, as it was left.
    expect(tools).toContain('ellipse');
    const early = notes([{ startUs: s(12), endUs: s(70) }]);
    expect(early[0]!.page.strokes.some(({ stroke }) => stroke.pen.tool === 'ellipse')).toBe(false);
  });
  it('is nothing where no board was written on', () =>
    expect(notesOf(filmOf(lessonOf([take])), () => null)).toEqual([]));
});
