import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import type { InkRecord, InkSample } from '@under-chalk/core/ink/record';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { HeldInk } from './held-ink';
import { paintPage } from './layers/ink';

const BOX = { x: 0, y: 0, width: 160, height: 90 };
const turn = (at: number, page: string): InkRecord => ({
  ...{ at, do: 'page', page, paper: { ruling: 'squared', shade: 'dark' } },
});
/** Strokes of ten samples, some that fade, with one that is wiped and one that is moved, over two pages and back. */
const stroke = (index: number): InkRecord[] => {
  const [at, id] = [index * 100_000, `stroke-${index}`];
  const stays = index % 4 === 3 ? 300_000 : 'wiped';
  const pen = { tool: 'pen', colour: 'amber', width: 0.01, stays } as const;
  const samples = Array.from({ length: 10 }, (_, n): InkSample => [
    n === 0 ? 0 : 8_000,
    0.1 + 0.05 * index + 0.005 * n,
    0.1 + 0.03 * (n % 5),
    0.5,
  ]);
  return [
    { at, do: 'begin', stroke: id, pen },
    { at, do: 'draw', stroke: id, samples },
    { at: at + 90_000, do: 'end', stroke: id },
  ];
};
const ink = inkTrackOf([
  turn(0, 'page-one'),
  ...[0, 1, 2, 3, 4].flatMap(stroke),
  { at: 520_000, do: 'wipe', strokes: ['stroke-1'] },
  { at: 560_000, do: 'shift', strokes: ['stroke-2'], x: 0.1, y: 0.2 },
  turn(600_000, 'page-two'),
  ...[7, 8].flatMap(stroke),
  turn(900_000, 'page-one'),
  ...[9, 10].flatMap(stroke),
]);

it('paints frame after frame what painting all of it anew would', () => {
  let sheets = 0;
  const held = new HeldInk<Canvas>((width, height) => {
    sheets++;
    const sheet = createCanvas(width, height);
    return { image: sheet, context: sheet.getContext('2d') as never };
  });
  const frame = createCanvas(BOX.width, BOX.height);
  const anew = createCanvas(BOX.width, BOX.height);
  for (let us = 0; us < 1_300_000; us += 11_000) {
    const page = pageAt(ink, us);
    held.paint(frame.getContext('2d') as never, 'track-one', page, WHOLE, BOX);
    paintPage(anew.getContext('2d') as never, page, WHOLE, BOX);
    const [one, other] = [frame, anew].map((canvas) => canvas.data());
    let most = 0;
    for (let at = 0; at < one!.length; at++) {
      most = Math.max(most, Math.abs(one![at]! - other![at]!));
    }
    // Edges that are half covered are laid over one another in two steps.
    expect([us, most <= 2]).toEqual([us, true]);
  }
  // A page anew only where another is shown.
  expect(sheets).toBe(3);
});

describe('a page of a material', () => {
  const CONTENT = 'a'.repeat(64);
  const of = { content: CONTENT, page: 4, aspect: 1 };
  const slide = inkTrackOf([
    { at: 0, do: 'page', page: 'page-slide', paper: { ruling: 'plain', shade: 'light' }, of },
    ...stroke(0),
  ]);
  /** A picture of one colour, so many px wide. */
  const picture = (colour: string, widthPx: number) => {
    const image = createCanvas(widthPx, widthPx);
    const context = image.getContext('2d');
    context.fillStyle = colour;
    context.fillRect(0, 0, widthPx, widthPx);
    return { image, widthPx, heightPx: widthPx };
  };
  const colourAt = (canvas: Canvas, x: number, y: number) => [
    ...canvas.getContext('2d').getImageData(x, y, 1, 1).data.slice(0, 3),
  ];

  it('lies in the middle, as large as it goes, on whole pixels, under what is written', () => {
    const canvas = createCanvas(BOX.width, BOX.height);
    let asked: unknown[] = [];
    paintPage(
      canvas.getContext('2d') as never,
      pageAt(slide, 500_000),
      WHOLE,
      BOX,
      (page, shownPx) => {
        asked = [page, shownPx];
        return picture('#0000ff', 90) as never;
      },
    );
    expect(asked).toEqual([of, 90]);
    expect(colourAt(canvas, 34, 45)).not.toEqual([0, 0, 255]);
    expect(colourAt(canvas, 35, 45)).toEqual([0, 0, 255]);
    expect(colourAt(canvas, 124, 80)).toEqual([0, 0, 255]);
    expect(colourAt(canvas, 126, 45)).not.toEqual([0, 0, 255]);
  });

  it('is painted when its picture has come, and anew when there is a sharper one', () => {
    const held = new HeldInk<Canvas>((width, height) => {
      const sheet = createCanvas(width, height);
      return { image: sheet, context: sheet.getContext('2d') as never };
    });
    const canvas = createCanvas(BOX.width, BOX.height);
    let there: ReturnType<typeof picture> | undefined;
    const paintNow = () => {
      const page = pageAt(slide, 500_000);
      held.paint(canvas.getContext('2d') as never, 'track', page, WHOLE, BOX, () => there);
      return colourAt(canvas, 80, 80);
    };
    const bare = paintNow();
    there = picture('#00ff00', 40);
    expect(paintNow()).toEqual([0, 255, 0]);
    there = picture('#ff0000', 90);
    expect(paintNow()).toEqual([255, 0, 0]);
    expect(bare).not.toEqual([0, 255, 0]);
  });
});
