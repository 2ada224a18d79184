import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { strokesInWords } from '@under-chalk/core/ink/in-words';
import { WHOLE, type Rect } from '@under-chalk/core/scene/geometry';
import { StyleSheet, View } from 'react-native';
import { commonUs } from '../../capture/common-clock';
import { usePart } from '../../data/live-value';
import { pagePictures } from '../../data/page-pictures';
import { Announce } from '../../ui/announce';
import { Words } from '../../ui/text';
import { SPACE, useTheme } from '../../ui/theme';
import { BoardKeys } from './board-keys';
import { BoardPainter } from './board-painter';
import { CAPTURED } from './board-stacks';
import type { HandSample } from './doing/doing';
import { Hand, Pinch, pressureOf, Resting } from './hand';
import type { LiveBoard } from './live-board';
import { usePageWords } from './page-words';
import { onPage, zoomedAt } from './page-view';

interface Props {
  readonly board: LiveBoard;
  /** The part of what is written on that is shown. */
  readonly from?: Rect;
  /** What it is called, where it is no board. */
  readonly name?: string;
  /** It can't be written on now: what is on it is only seen. */
  readonly off?: boolean;
}

/** Most of what a page says that is told with its name, characters; all of it stands among the pages. */
const MOST_SPOKEN = 300;

const HELP =
  'Arrow keys move the hand, Enter puts it down and lifts it again. Plus and minus come nearer and go back, Page Down and Page Up turn pages.';

/** A board, to be written on by pen, finger, mouse or keys. Fills what it stands in. */
export const BoardSurface = ({ board, from = WHOLE, name = '', off = false }: Props) => {
  const canvas = useRef<HTMLCanvasElement>(null);
  const surface = useRef<HTMLDivElement>(null);
  const painter = useRef<BoardPainter>(null);
  const [hand] = useState(() => new Hand());
  const [pinch] = useState(() => new Pinch());
  const [keys] = useState(() => new BoardKeys(board));
  const [resting] = useState(() => new Resting(() => board.rest()));
  const page = usePart(board, (view) => view.page);
  const pages = usePart(board, (view) => view.pages);
  const stack = usePart(board, (view) => view.stack);
  const stacks = usePart(board, (view) => view.stacks);
  const strokes = usePart(board, (view) => view.strokes);
  const says = usePart(board, (view) => view.words);
  const selected = usePart(board, (view) => view.selected);
  const { x, y, width, height } = from;
  useEffect(() => {
    const made = new BoardPainter(board, canvas.current!, { x, y, width, height });
    painter.current = made;
    const stop = board.onLooks(made.ask);
    const size = new ResizeObserver(made.ask);
    size.observe(canvas.current!);
    return () => {
      stop();
      size.disconnect();
      made.close();
    };
  }, [board, x, y, width, height]);
  /** A place of the window, in widths of what is shown. */
  const inWidths = (clientX: number, clientY: number): readonly [number, number] => {
    const box = surface.current!.getBoundingClientRect();
    const across = from.width / box.width;
    const high = (box.height / from.height) * across;
    return [from.x + (clientX - box.left) * across, from.y * high + (clientY - box.top) * across];
  };
  const sampleOf = (event: globalThis.PointerEvent): HandSample => {
    const [x, y] = onPage(board.view().part, inWidths(event.clientX, event.clientY));
    return { x, y, pressure: pressureOf(event), atUs: commonUs(event.timeStamp) };
  };
  const samplesOf = ({ nativeEvent: native }: PointerEvent<HTMLElement>): HandSample[] => {
    const all = native.getCoalescedEvents?.() ?? [];
    return (all.length > 0 ? all : [native]).map(sampleOf);
  };
  const turnWheel = useRef<(event: WheelEvent) => void>(() => undefined);
  useEffect(() => {
    turnWheel.current = (event) => {
      const { part } = board.view();
      if (!event.ctrlKey && part.zoom <= 1) return;
      event.preventDefault();
      const at = inWidths(event.clientX, event.clientY);
      if (event.ctrlKey) return board.show(zoomedAt(part, Math.exp(-event.deltaY / 400), at));
      const across = from.width / surface.current!.clientWidth;
      board.show(
        zoomedAt(part, 1, at, [at[0] - event.deltaX * across, at[1] - event.deltaY * across]),
      );
    };
  });
  useEffect(() => {
    // React listens to wheels in a way that can't keep the page from scrolling.
    const element = surface.current!;
    const turned = (event: WheelEvent) => turnWheel.current(event);
    element.addEventListener('wheel', turned, { passive: false });
    return () => element.removeEventListener('wheel', turned);
  }, []);
  const down = (event: PointerEvent<HTMLElement>) => {
    painter.current?.caret(null);
    if (event.pointerType === 'touch' && !hand.isPalm(event) && pinch.down(event)) {
      event.preventDefault();
      // One finger began to write; two are there to move the page.
      hand.lifts();
      resting.lifts();
      board.abandon();
      event.currentTarget.setPointerCapture(event.pointerId);
      return;
    }
    if (!hand.takes(event)) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    const [first] = samplesOf(event);
    if (board.view().tool === 'text') return board.placeText([first!.x, first!.y], true);
    resting.at(first!);
    board.down(first!);
  };
  const move = (event: PointerEvent<HTMLElement>) => {
    const moved = event.pointerType === 'touch' ? pinch.move(event) : null;
    if (moved) {
      const { part } = board.view();
      board.show(zoomedAt(part, moved.times, inWidths(...moved.from), inWidths(...moved.to)));
      return;
    }
    if (!hand.is(event)) {
      // A mouse points without being pressed.
      if (event.pointerType === 'mouse') board.point(samplesOf(event));
      return;
    }
    const samples = samplesOf(event);
    resting.at(samples.at(-1)!);
    board.move(samples);
    painter.current?.ahead((event.nativeEvent.getPredictedEvents?.() ?? []).map(sampleOf));
  };
  const lift = (event: PointerEvent<HTMLElement>) => {
    pinch.up(event);
    if (!hand.is(event)) return;
    hand.lifts();
    resting.lifts();
    painter.current?.ahead([]);
    board.up(commonUs(event.timeStamp));
    // A finger that is lifted points at nothing; a mouse is still there.
    if (event.pointerType !== 'mouse') board.pointsAway(commonUs(event.timeStamp));
  };
  const press = (event: KeyboardEvent<HTMLElement>) => {
    if (event.altKey || event.ctrlKey || event.metaKey || !keys.press(event)) return;
    event.preventDefault();
    event.stopPropagation();
    painter.current?.caret(keys.at);
  };
  const called = stacks.find(({ id }) => id === stack)?.name ?? '';
  const words = stack === CAPTURED ? name : `${called}, page ${page + 1} of ${pages}`;
  const theme = useTheme();
  const material = usePageWords(board);
  const lacking = usePart(pagePictures.lacking, (now) => now) && board.material() !== null;
  const on = [
    strokesInWords(strokes),
    ...(says ? [`it says: ${says}`] : []),
    ...(material ? [`on the page: ${material.slice(0, MOST_SPOKEN)}`] : []),
  ].join('; ');
  return (
    <>
      <Announce words={pages > 1 || stacks.length > 1 ? words : ''} />
      <Announce words={selected > 0 ? `${selected} selected` : ''} />
      <div
        ref={surface}
        role={off ? 'img' : 'application'}
        aria-label={`${words}, ${on}`}
        {...(off ? {} : { 'aria-description': HELP, tabIndex: 0 })}
        data-testid="board"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={lift}
        onPointerCancel={lift}
        onPointerLeave={(event) => {
          if (!hand.is(event)) board.pointsAway(commonUs(event.timeStamp));
        }}
        onKeyDown={press}
        onBlur={() => painter.current?.caret(null)}
        style={SURFACE}
      >
        <canvas ref={canvas} style={CANVAS} />
        {lacking ? (
          <View style={[styles.lacking, { backgroundColor: theme.paper }]}>
            <Words size="small" role="status">
              A page can’t be fetched just now. It is tried again.
            </Words>
          </View>
        ) : null}
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

const styles = StyleSheet.create({
  lacking: { position: 'absolute', left: 0, right: 0, bottom: 0, padding: SPACE.small },
});
