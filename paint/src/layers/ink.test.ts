import { createCanvas } from '@napi-rs/canvas';
import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import { INK_COLOURS, PAPER_COLOURS, RULING_COLOURS, type Pen } from '@under-chalk/core/ink/pen';
import type { InkRecord, InkSample } from '@under-chalk/core/ink/record';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { paintPage } from './ink';

const SIZE = { width: 640, height: 360 };
const pen = (tool: Pen['tool'], change: Partial<Pen> = {}): Pen => ({
  ...{ tool, colour: 'blue', width: 0.02, stays: 'wiped' },
  ...change,
});
const stroke = (of: Pen, samples: InkSample[], text?: string): InkRecord[] => [
  { at: 0, do: 'begin', stroke: 'stroke-one', pen: of, ...(text === undefined ? {} : { text }) },
  { at: 0, do: 'draw', stroke: 'stroke-one', samples },
  { at: 0, do: 'end', stroke: 'stroke-one' },
];
const page = (ruling: 'plain' | 'squared' | 'none' = 'plain'): InkRecord => ({
  ...{ at: 0, do: 'page', page: 'page-one', paper: { ruling, shade: 'light' } },
});
/** Paints records and tells colours, `#rrggbb`; places in px. */
const painted = (records: readonly InkRecord[], from = WHOLE) => {
  const canvas = createCanvas(SIZE.width, SIZE.height);
  const context = canvas.getContext('2d');
  const box = { x: 0, y: 0, ...SIZE };
  paintPage(context as never, pageAt(inkTrackOf(records), 10), from, box);
  return (x: number, y: number) => {
    const { data } = context.getImageData(x, y, 1, 1);
    if (data[3] === 0) return 'nothing';
    return `#${[...data.subarray(0, 3)].map((one) => one.toString(16).padStart(2, '0')).join('')}`;
  };
};
const across: InkSample[] = [
  [0, 0.25, 0.25, 0.5],
  [0, 0.5, 0.25, 0.5],
  [0, 0.75, 0.25, 0.5],
];
const BLUE = INK_COLOURS.light.blue;
const PAPER = PAPER_COLOURS.light;

it('draws a pen’s line where the hand went, on its paper', () => {
  const at = painted([page(), ...stroke(pen('pen'), across)]);
  // A quarter of the width down is 160 px.
  expect([at(320, 160), at(320, 180), at(100, 160)]).toEqual([BLUE, PAPER, PAPER]);
});

it('draws nothing but the ink where there is no paper', () => {
  const at = painted([page('none'), ...stroke(pen('pen'), across)]);
  expect([at(320, 160), at(320, 180)]).toEqual([BLUE, 'nothing']);
});

it('lets what lies under a highlighter be seen', () => {
  const marked = painted([page(), ...stroke(pen('highlighter', { width: 0.05 }), across)])(
    320,
    160,
  );
  expect([BLUE, PAPER]).not.toContain(marked);
});

it('draws shapes from corner to corner, whichever way', () => {
  const corners: InkSample[] = [
    [0, 0.75, 0.4, 0.5],
    [0, 0.25, 0.1, 0.5],
  ];
  const box = painted([page(), ...stroke(pen('box'), corners)]);
  expect([box(160, 160), box(320, 64), box(480, 160), box(320, 160)]).toEqual([
    BLUE,
    BLUE,
    BLUE,
    PAPER,
  ]);
  const ring = painted([page(), ...stroke(pen('ellipse'), corners)]);
  expect([ring(160, 160), ring(320, 64), ring(165, 68), ring(320, 160)]).toEqual([
    BLUE,
    BLUE,
    PAPER,
    PAPER,
  ]);
  const arrow = painted([page(), ...stroke(pen('arrow'), across)]);
  // Its head is wider than its shaft.
  expect([arrow(450, 160), arrow(452, 149), arrow(330, 149)]).toEqual([BLUE, BLUE, PAPER]);
});

it('rules paper, and shows a part of a page as large as the box', () => {
  const squared = painted([page('squared')]);
  expect([squared(16, 8), squared(8, 8)]).toEqual([RULING_COLOURS.light, PAPER]);
  const corner = { x: 0, y: 0, width: 0.5, height: 0.5 };
  const near = painted([page(), ...stroke(pen('pen'), across)], corner);
  expect([near(500, 320), near(500, 160)]).toEqual([BLUE, PAPER]);
});
