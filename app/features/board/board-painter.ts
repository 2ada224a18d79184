import type { ShownPage } from '@under-chalk/core/ink/ink-track';
import type { XY } from '@under-chalk/core/ink/page';
import type { Rect } from '@under-chalk/core/scene/geometry';
import { HeldInk, materialWidth, placeOf } from '@under-chalk/paint';
import { pagePictures } from '../../data/page-pictures';
import { makeSheet, onCanvas } from '../../ui/canvas-sheet';
import type { HandSample } from './doing/doing';
import { TAIL_US } from './doing/pointing';
import type { LiveBoard } from './live-board';

/** Sharp on any screen, and no larger than the film will be. */
const MOST_PX = 2560;

/** A stroke that is being drawn, led on to where the hand will be by the time it is seen. */
const ledOn = (page: ShownPage, ahead: readonly HandSample[]): ShownPage => {
  const last = page.strokes.at(-1);
  if (!last || last.done || ahead.length === 0) return page;
  return {
    ...page,
    strokes: [...page.strokes.slice(0, -1), { ...last, points: [...last.points, ...ahead] }],
  };
};

/** Paints a board with the next frame after something has changed: what is done, once; what is drawn, each time. */
export class BoardPainter {
  readonly #board: LiveBoard;
  readonly #canvas: HTMLCanvasElement;
  readonly #from: Rect;
  readonly #held = new HeldInk<CanvasImageSource>(makeSheet);
  readonly #stopPages: () => void;
  #asked = 0;
  #ahead: readonly HandSample[] = [];
  #caret: XY | null = null;

  /** @param from the part of what is written on that is shown */
  constructor(board: LiveBoard, canvas: HTMLCanvasElement, from: Rect) {
    this.#board = board;
    this.#canvas = canvas;
    this.#from = from;
    this.#stopPages = pagePictures.onCome(this.ask);
    this.ask();
  }

  readonly ask = (): void => {
    if (this.#asked === 0) this.#asked = requestAnimationFrame(this.#paint);
  };

  /** Where the hand is thought to be next: seen, and never recorded. */
  ahead(samples: readonly HandSample[]): void {
    this.#ahead = samples;
    this.ask();
  }

  /** The place that keys write at; null: none is shown. */
  caret(at: XY | null): void {
    this.#caret = at;
    this.ask();
  }

  close(): void {
    cancelAnimationFrame(this.#asked);
    this.#stopPages();
  }

  readonly #paint = (): void => {
    this.#asked = 0;
    const { clientWidth, clientHeight } = this.#canvas;
    if (clientWidth === 0) return;
    const shownPx = clientWidth * (globalThis.devicePixelRatio || 1);
    const width = Math.round(Math.min(MOST_PX, Math.max(320, shownPx)));
    const height = Math.round((width * clientHeight) / clientWidth);
    if (this.#canvas.width !== width || this.#canvas.height !== height) {
      Object.assign(this.#canvas, { width, height });
    }
    const box = { x: 0, y: 0, width, height };
    const page = ledOn(this.#board.toPaint(), this.#ahead);
    const context = onCanvas(this.#canvas);
    context.clearRect(0, 0, width, height);
    this.#held.paint(context, 'board', page, this.#from, box, pagePictures.of);
    const widthPx = materialWidth(page, this.#from, box);
    for (const near of this.#board.near()) pagePictures.ahead(near, widthPx || width);
    this.#paintMarks(page, box);
    this.#paintPointer(box.width / this.#from.width);
  };

  /** Where something points: a bright head, and a tail that fades behind it. */
  #paintPointer(shownPx: number): void {
    const { tail, pressed } = this.#board.pointed();
    const head = tail.at(-1);
    if (!head) return;
    const context = this.#canvas.getContext('2d')!;
    const [left, top] = [
      this.#from.x * shownPx,
      this.#from.y * (this.#canvas.height / this.#from.height),
    ];
    const place = ([x, y]: XY) => [x * shownPx - left, y * shownPx - top] as const;
    const thick = Math.max(4, shownPx * 0.008);
    context.lineCap = 'round';
    tail.slice(1).forEach(({ at, agoUs }, index) => {
      context.globalAlpha = Math.max(0, 0.7 * (1 - agoUs / TAIL_US));
      context.strokeStyle = '#e9c763';
      context.lineWidth = thick;
      context.beginPath();
      context.moveTo(...place(tail[index]!.at));
      context.lineTo(...place(at));
      context.stroke();
    });
    const [x, y] = place(head.at);
    for (const [colour, across] of [
      ['#1d252c', pressed ? 2.1 : 1.5],
      ['#e9c763', pressed ? 1.7 : 1.1],
    ] as const) {
      context.globalAlpha = 1;
      context.fillStyle = colour;
      context.beginPath();
      context.arc(x, y, (thick * across) / 1.4, 0, 2 * Math.PI);
      context.fill();
    }
    // Until the tail has gone.
    if (tail.length > 1) this.ask();
  }

  /** What is selected, and the place of the keys: on the screen alone. */
  #paintMarks(page: ShownPage, box: { x: number; y: number; width: number; height: number }): void {
    const { selected, band } = this.#board.marks();
    const { tool, textAt } = this.#board.view();
    const context = this.#canvas.getContext('2d')!;
    const place = placeOf(page.view, this.#from, box);
    const px = Math.max(1, box.width / 640);
    const dark = page.paper.ruling !== 'none' && page.paper.shade === 'dark';
    const dashed = (x: number, y: number, width: number, height: number) => {
      // Two lines in turn, a light and a dark one: seen on any ground.
      for (const [colour, from] of [
        [dark ? '#f7f3e9' : '#1d252c', 0],
        [dark ? '#1d252c' : '#fbf8f0', 5 * px],
      ] as const) {
        context.globalAlpha = 1;
        context.strokeStyle = colour;
        context.lineWidth = 1.5 * px;
        context.setLineDash([5 * px, 5 * px]);
        context.lineDashOffset = from;
        context.strokeRect(x, y, width, height);
      }
      context.setLineDash([]);
    };
    if (selected) {
      const out = 6 * px;
      dashed(
        place.x(selected.x) - out,
        place.y(selected.y) - out,
        selected.width * place.widthPx + 2 * out,
        selected.height * place.widthPx + 2 * out,
      );
    }
    if (band) {
      const [[ax, ay], [bx, by]] = band;
      dashed(place.x(ax), place.y(ay), (bx - ax) * place.widthPx, (by - ay) * place.widthPx);
    }
    const at = tool === 'text' ? textAt : this.#caret;
    if (!at) return;
    const [x, y] = [place.x(at[0]), place.y(at[1])];
    const arm = 9 * px;
    for (const [colour, line] of [
      ['#fbf8f0', 4 * px],
      ['#1d252c', 1.5 * px],
    ] as const) {
      context.globalAlpha = 1;
      context.strokeStyle = colour;
      context.lineWidth = line;
      context.beginPath();
      context.moveTo(x - arm, y);
      context.lineTo(x + arm, y);
      context.moveTo(x, y - arm);
      context.lineTo(x, y + arm);
      context.stroke();
    }
  }
}
