import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { ShownPage, ShownStroke } from '@under-chalk/core/ink/ink-track';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { paintPage } from '@under-chalk/paint';
import { usePart } from '../../data/live-value';
import { Announce } from '../../ui/announce';
import type { HandSample, LiveBoard } from './live-board';

/** A palm that lies down after the pen was there is ignored for this long, ms. */
const PALM_MS = 3_000;

/** Sharp on any screen, and no larger than the film will be. */
const MOST_PX = 2560;

/** Which pointer writes: a pen before a finger, and one at a time. */
class Hand {
  #pointer: number | null = null;
  #penAt = -Infinity;

  /** Whether what comes down may write. */
  takes({ pointerId, pointerType, isPrimary, button }: PointerEvent): boolean {
    if (pointerType === 'pen') this.#penAt = performance.now();
    else if (pointerType === 'touch' && performance.now() - this.#penAt < PALM_MS) return false;
    if (this.#pointer !== null || !isPrimary || button !== 0) return false;
    this.#pointer = pointerId;
    return true;
  }

  /** Whether this is the one that writes; a pen that is near is remembered. */
  is({ pointerId, pointerType }: PointerEvent): boolean {
    if (pointerType === 'pen') this.#penAt = performance.now();
    return pointerId === this.#pointer;
  }

  lifts(): void {
    this.#pointer = null;
  }
}

/** Paints a board on two canvases: what is done, once; and over it the stroke under the hand. */
class BoardPainter {
  readonly #board: LiveBoard;
  #done: HTMLCanvasElement | null = null;
  #live: HTMLCanvasElement | null = null;
  /** What is painted on the lower canvas. */
  #painted: {
    readonly paper: unknown;
    readonly index: number;
    strokes: ShownStroke['stroke'][];
  } | null = null;
  #asked = 0;

  constructor(board: LiveBoard) {
    this.#board = board;
  }

  attach(done: HTMLCanvasElement | null, live: HTMLCanvasElement | null): void {
    this.#done = done;
    this.#live = live;
    this.#painted = null;
    this.ask();
  }

  /** Paints with the next frame. */
  readonly ask = (): void => {
    if (this.#asked === 0) this.#asked = requestAnimationFrame(this.#paint);
  };

  close(): void {
    cancelAnimationFrame(this.#asked);
    this.#asked = 0;
  }

  readonly #paint = (): void => {
    this.#asked = 0;
    const [done, live] = [this.#done, this.#live];
    if (!done || !live) return;
    const shownPx = done.clientWidth * (globalThis.devicePixelRatio || 1);
    const width = Math.round(Math.min(MOST_PX, Math.max(320, shownPx)));
    const height = Math.round((width * done.clientHeight) / Math.max(1, done.clientWidth));
    for (const canvas of [done, live]) {
      if (canvas.width === width && canvas.height === height) continue;
      canvas.width = width;
      canvas.height = height;
      this.#painted = null;
    }
    const page = this.#board.page();
    const hand = this.#board.underHand();
    const finished = page.strokes.filter(({ stroke }) => stroke !== hand?.stroke);
    this.#paintDone(done, page, finished);
    const over = live.getContext('2d')!;
    over.clearRect(0, 0, width, height);
    if (hand) this.#strokesOn(live, page, [hand]);
  };

  #strokesOn(canvas: HTMLCanvasElement, page: ShownPage, strokes: readonly ShownStroke[]): void {
    const paper = { ...page.paper, ruling: 'none' as const };
    this.#pageOn(canvas, { ...page, paper, strokes });
  }

  #pageOn(canvas: HTMLCanvasElement, page: ShownPage): void {
    const box = { x: 0, y: 0, width: canvas.width, height: canvas.height };
    paintPage(canvas.getContext('2d')!, page, WHOLE, box);
  }

  /** Only what has been added, where nothing else has changed. */
  #paintDone(canvas: HTMLCanvasElement, page: ShownPage, strokes: readonly ShownStroke[]): void {
    const before = this.#painted;
    const grows =
      before?.paper === page.paper &&
      before.index === page.index &&
      before.strokes.length <= strokes.length &&
      before.strokes.every((stroke, index) => stroke === strokes[index]!.stroke);
    if (before && grows) this.#strokesOn(canvas, page, strokes.slice(before.strokes.length));
    else this.#pageOn(canvas, { ...page, strokes });
    this.#painted = {
      paper: page.paper,
      index: page.index,
      strokes: strokes.map(({ stroke }) => stroke),
    };
  }
}

const samplesOf = (event: PointerEvent<HTMLElement>): HandSample[] => {
  const box = event.currentTarget.getBoundingClientRect();
  const native = event.nativeEvent;
  const all = native.getCoalescedEvents?.() ?? [];
  return (all.length > 0 ? all : [native]).map((one) => ({
    x: (one.clientX - box.left) / box.width,
    // In widths of the page, too: a circle is round.
    y: (one.clientY - box.top) / box.width,
    // A mouse and most fingers tell none.
    pressure: one.pointerType === 'pen' ? one.pressure : 0.5,
    atUs: Math.round((performance.timeOrigin + one.timeStamp) * 1000),
  }));
};

/** A board, to be written on by pen, finger or mouse. Fills what it stands in. */
export const BoardSurface = ({ board }: { board: LiveBoard }) => {
  const done = useRef<HTMLCanvasElement>(null);
  const live = useRef<HTMLCanvasElement>(null);
  const [hand] = useState(() => new Hand());
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const strokes = usePart(board, (view) => view.strokes);
  useEffect(() => {
    const painter = new BoardPainter(board);
    painter.attach(done.current, live.current);
    const stop = board.onLooks(painter.ask);
    const size = new ResizeObserver(painter.ask);
    if (done.current) size.observe(done.current);
    return () => {
      stop();
      size.disconnect();
      painter.close();
    };
  }, [board]);
  const lift = (event: PointerEvent<HTMLElement>) => {
    if (!hand.is(event)) return;
    hand.lifts();
    board.up(Math.round((performance.timeOrigin + event.timeStamp) * 1000));
  };
  const words = `Board, page ${page + 1} of ${pages}`;
  return (
    <>
      <Announce words={pages > 1 ? words : ''} />
      <div
        role="img"
        aria-label={`${words}, ${strokes === 1 ? 'one stroke' : `${strokes} strokes`}`}
        data-testid="board"
        onPointerDown={(event) => {
          if (!hand.takes(event)) return;
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          board.down(samplesOf(event)[0]!);
        }}
        onPointerMove={(event) => {
          if (hand.is(event)) board.move(samplesOf(event));
        }}
        onPointerUp={lift}
        onPointerCancel={lift}
        style={SURFACE}
      >
        <canvas ref={done} style={CANVAS} />
        <canvas ref={live} style={CANVAS} />
      </div>
    </>
  );
};

const SURFACE = {
  position: 'absolute',
  inset: 0,
  touchAction: 'none',
  cursor: 'crosshair',
  userSelect: 'none',
} as const;
const CANVAS = { position: 'absolute', width: '100%', height: '100%' } as const;
