import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { WHOLE } from '@under-chalk/core/scene/geometry';
import { HeldInk, type Context2D, type Sheet } from '@under-chalk/paint';
import { commonUs } from '../../capture/common-clock';
import { usePart } from '../../data/live-value';
import { Announce } from '../../ui/announce';
import { Hand, Resting } from './hand';
import type { HandSample, LiveBoard } from './live-board';

/** Sharp on any screen, and no larger than the film will be. */
const MOST_PX = 2560;

const onCanvas = (canvas: HTMLCanvasElement) =>
  canvas.getContext('2d') as unknown as Context2D<HTMLCanvasElement>;

const makeSheet = (width: number, height: number): Sheet<HTMLCanvasElement> => {
  const image = Object.assign(document.createElement('canvas'), { width, height });
  return { image, context: onCanvas(image) };
};

/** Paints a board with the next frame after something has changed: what is done, once; what is drawn, each time. */
class BoardPainter {
  readonly #board: LiveBoard;
  readonly #canvas: HTMLCanvasElement;
  readonly #held = new HeldInk(makeSheet);
  #asked = 0;

  constructor(board: LiveBoard, canvas: HTMLCanvasElement) {
    this.#board = board;
    this.#canvas = canvas;
    this.ask();
  }

  readonly ask = (): void => {
    if (this.#asked === 0) this.#asked = requestAnimationFrame(this.#paint);
  };

  close(): void {
    cancelAnimationFrame(this.#asked);
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
    this.#held.paint(onCanvas(this.#canvas), 'board', this.#board.page(), WHOLE, box);
  };
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
    atUs: commonUs(one.timeStamp),
  }));
};

/** A board, to be written on by pen, finger or mouse. Fills what it stands in. */
export const BoardSurface = ({ board }: { board: LiveBoard }) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [hand] = useState(() => new Hand());
  const [resting] = useState(() => new Resting(() => board.rest()));
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const strokes = usePart(board, (view) => view.strokes);
  useEffect(() => {
    const painter = new BoardPainter(board, canvas.current!);
    const stop = board.onLooks(painter.ask);
    const size = new ResizeObserver(painter.ask);
    size.observe(canvas.current!);
    return () => {
      stop();
      size.disconnect();
      painter.close();
    };
  }, [board]);
  const lift = (event: PointerEvent<HTMLElement>) => {
    if (!hand.is(event)) return;
    hand.lifts();
    resting.lifts();
    board.up(commonUs(event.timeStamp));
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
          const [first] = samplesOf(event);
          resting.at(first!);
          board.down(first!);
        }}
        onPointerMove={(event) => {
          if (!hand.is(event)) return;
          const samples = samplesOf(event);
          resting.at(samples.at(-1)!);
          board.move(samples);
        }}
        onPointerUp={lift}
        onPointerCancel={lift}
        style={SURFACE}
      >
        <canvas ref={canvas} style={CANVAS} />
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
