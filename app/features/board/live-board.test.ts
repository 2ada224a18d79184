import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import { inkRecordSchema, type InkRecord } from '@under-chalk/core/ink/record';
import { BoardKeys } from './board-keys';
import { LiveBoard } from './live-board';

const paper = { ruling: 'plain', shade: 'light' } as const;
const LAST = Number.MAX_SAFE_INTEGER;
let us = 1_000_000;
const at = (x: number, y = 0.2) => ({ x, y, pressure: 0.5, atUs: (us += 10_000) });

const recorded = () => {
  const board = new LiveBoard(paper);
  const records: InkRecord[] = [];
  const stroke = (...xs: number[]) => {
    board.down(at(xs[0]!));
    board.move(xs.slice(1).map((x) => at(x)));
    board.up(us);
  };
  return { board, records, stroke, listen: () => board.tellTo((more) => records.push(...more)) };
};
/** What a track of the records shows at its end, as the board itself does. */
const shown = (records: readonly InkRecord[]) => pageAt(inkTrackOf(records), LAST);
const drawn = ({ strokes }: ReturnType<typeof shown>) =>
  strokes.map(({ stroke, points }) => [stroke.pen.tool, points.length]);

it('tells what happens as records that show the same page', () => {
  const { board, records, stroke, listen } = recorded();
  listen();
  stroke(0.1, 0.2, 0.3);
  board.choose({ tool: 'box', colour: 'red' });
  stroke(0.4, 0.5, 0.6, 0.7);
  // But for their times, which are the common clock's until they are on a take's.
  const onTake = records.map((record) => ({ ...record, at: 0 }));
  expect(onTake.every((record) => inkRecordSchema.safeParse(record).success)).toBe(true);
  expect(drawn(shown(records))).toEqual([
    ['pen', 3],
    ['box', 2],
  ]);
  expect(drawn(board.page())).toEqual(drawn(shown(records)));
  expect(board.view()).toMatchObject({ strokes: 2, canUndo: true, canRedo: false });
});

it('has what was there before told to whoever begins to listen, and no more than that', () => {
  const { board, records, stroke, listen } = recorded();
  stroke(0.1, 0.2);
  stroke(0.3, 0.4, 0.5);
  board.undo();
  board.turnTo(1);
  stroke(0.6, 0.7);
  board.turnTo(0);
  listen();
  expect(drawn(shown(records))).toEqual([['pen', 2]]);
  expect(records.filter((record) => record.do === 'begin')).toHaveLength(2);
  // The page it was left at is the one that is shown.
  expect(shown(records).index).toBe(0);
  board.turnTo(1);
  expect(drawn(shown(records))).toEqual([['pen', 2]]);
});

it('undoes and redoes what was drawn and what was wiped', () => {
  const { board, records, stroke, listen } = recorded();
  listen();
  stroke(0.1, 0.2);
  stroke(0.5, 0.6);
  board.choose({ tool: 'wipe' });
  stroke(0.05, 0.15);
  expect(drawn(shown(records))).toHaveLength(1);
  board.undo();
  expect(drawn(shown(records))).toHaveLength(2);
  board.undo();
  expect(drawn(shown(records))).toHaveLength(1);
  board.redo();
  board.redo();
  expect(drawn(shown(records))).toHaveLength(1);
  expect(board.view()).toMatchObject({ canUndo: true, canRedo: false });
  expect(drawn(board.page())).toEqual(drawn(shown(records)));
});

it('takes a shape without an extent for a slip, and a dot of the pen for a dot', () => {
  const { board, stroke } = recorded();
  stroke(0.5);
  board.choose({ tool: 'ellipse' });
  stroke(0.5);
  expect(board.view().strokes).toBe(1);
});

it('has what is drawn stay as long as was chosen when it was drawn', () => {
  const { board, records, stroke, listen } = recorded();
  listen();
  stroke(0.1, 0.2);
  board.choose({ stays: 'turned' });
  stroke(0.3, 0.4);
  board.choose({ stays: 'film' });
  stroke(0.5, 0.6);
  board.turnTo(1);
  expect(drawn(shown(records))).toHaveLength(1);
  board.turnTo(0);
  expect(drawn(shown(records))).toHaveLength(2);
  expect(drawn(board.page())).toEqual(drawn(shown(records)));
});

it('straightens what was meant to be straight when the hand rests, and goes on from there', () => {
  const { board, records, listen } = recorded();
  listen();
  board.down(at(0.1, 0.2));
  board.move([0.2, 0.3, 0.4, 0.5].map((x) => at(x, 0.2 + (x === 0.3 ? 0.004 : 0))));
  board.rest(us);
  // What the hand does until it is lifted is no part of it.
  board.move([at(0.9, 0.5)]);
  board.rest(us);
  board.up(us);
  expect(drawn(shown(records))).toEqual([['line', 2]]);
  const [from, to] = shown(records).strokes[0]!.points;
  expect([from!.x, from!.y, to!.x, to!.y]).toEqual([0.1, 0.2, 0.5, 0.2]);
  expect(drawn(board.page())).toEqual(drawn(shown(records)));
  board.undo();
  expect(drawn(shown(records))).toEqual([]);
});

it('leaves writing as it is, however long the hand rests', () => {
  const { board, records, listen } = recorded();
  listen();
  board.down(at(0.1, 0.1));
  board.move([at(0.15, 0.3), at(0.2, 0.1), at(0.25, 0.3), at(0.3, 0.1)]);
  board.rest(us);
  board.up(us);
  expect(drawn(shown(records))).toEqual([['pen', 5]]);
});

describe('selecting', () => {
  const placed = (records: readonly InkRecord[]) =>
    shown(records).strokes.map(({ points }) => points.map(({ x }) => Number(x.toFixed(3))));
  const withTwo = () => {
    const made = recorded();
    made.listen();
    made.stroke(0.1, 0.2);
    made.stroke(0.6, 0.7);
    made.board.choose({ tool: 'select' });
    return made;
  };
  const drag = (board: LiveBoard, from: [number, number], to: [number, number]) => {
    board.down(at(...from));
    board.move([at((from[0] + to[0]) / 2, (from[1] + to[1]) / 2), at(...to)]);
    board.up(us);
  };
  it('moves what is touched with the hand, and undo puts it back', () => {
    const { board, records } = withTwo();
    drag(board, [0.15, 0.2], [0.25, 0.3]);
    expect(placed(records)).toEqual([
      [0.2, 0.3],
      [0.6, 0.7],
    ]);
    expect(board.view().selected).toBe(1);
    board.undo();
    expect(placed(records)[0]).toEqual([0.1, 0.2]);
    board.redo();
    expect(placed(records)[0]).toEqual([0.2, 0.3]);
  });
  it('takes all that lies in a rectangle, and takes it away in one go', () => {
    const { board, records } = withTwo();
    drag(board, [0.05, 0.1], [0.9, 0.4]);
    expect(board.view().selected).toBe(2);
    expect(board.marks().band).toBeNull();
    board.takeAway();
    expect([placed(records), board.view().selected]).toEqual([[], 0]);
    board.undo();
    expect(placed(records)).toHaveLength(2);
  });
  it('lets go of what is touched again, and of all with another tool', () => {
    const { board } = withTwo();
    drag(board, [0.05, 0.1], [0.9, 0.4]);
    board.down(at(0.15));
    board.up(us);
    expect(board.selected().map(({ points }) => points[0]!.x)).toEqual([0.6]);
    board.choose({ tool: 'pen' });
    expect(board.view().selected).toBe(0);
  });
  it('gives up a move that was not meant', () => {
    const { board, records } = withTwo();
    board.down(at(0.15));
    board.move([at(0.5, 0.4)]);
    board.abandon();
    expect(placed(records)[0]).toEqual([0.1, 0.2]);
    expect(board.view().canUndo).toBe(true);
  });
});

it('wipes a part of a stroke: what is left stays, and one undo brings all of it back', () => {
  const { board, records, stroke, listen } = recorded();
  listen();
  stroke(0.1, 0.9);
  board.choose({ tool: 'wipe-part' });
  stroke(0.4, 0.5, 0.6);
  const left = shown(records).strokes.map(({ points }) => [points[0]!.x, points.at(-1)!.x]);
  expect(left).toHaveLength(4);
  expect(left[0]![0]).toBe(0.1);
  expect(left[0]![1]).toBeLessThan(0.4);
  board.undo();
  expect(drawn(shown(records))).toEqual([['pen', 2]]);
  board.redo();
  expect(drawn(shown(records))).toHaveLength(4);
  expect(drawn(board.page())).toEqual(drawn(shown(records)));
});

it('puts words where the page was touched, the next below them, and says what it says', () => {
  const { board, records, listen } = recorded();
  board.choose({ tool: 'text' });
  board.down(at(0.3));
  board.placeText([0.3, 0.2], true);
  board.write('Rule of twelfths');
  board.write('1 2 3 3 2 1');
  listen();
  const words = shown(records).strokes;
  expect(words.map(({ stroke }) => stroke.text)).toEqual(['Rule of twelfths', '1 2 3 3 2 1']);
  expect(words[0]!.points[0]).toMatchObject({ x: 0.3, y: 0.2 });
  expect(words[1]!.points[0]!.y).toBeGreaterThan(0.23);
  expect(board.view().words).toBe('Rule of twelfths, 1 2 3 3 2 1');
});

it('lies over what is captured, opens a board with paper, and comes back', () => {
  const board = new LiveBoard(paper, true);
  const records: InkRecord[] = [];
  board.tellTo((more) => records.push(...more));
  expect(shown(records).paper.ruling).toBe('none');
  board.open('board');
  expect(shown(records).paper).toEqual(paper);
  board.turnTo(1);
  board.open('captured');
  expect(shown(records).paper.ruling).toBe('none');
  board.open('board');
  expect([board.view().stack, board.view().page]).toEqual(['board', 1]);
});

it('records what part of the page is shown, and shows the whole again on another page', () => {
  const { board, records, listen } = recorded();
  listen();
  board.show({ x: 0.2, y: 0.1, zoom: 2 });
  expect(shown(records).view).toEqual({ x: 0.2, y: 0.1, zoom: 2 });
  board.show({ x: 0.01, y: 0, zoom: 1.02 });
  expect(shown(records).view).toEqual({ x: 0, y: 0, zoom: 1 });
  board.show({ x: 90, y: 0, zoom: 90 });
  expect(shown(records).view.zoom).toBe(8);
  expect(shown(records).view.x).toBeLessThan(1.5);
  board.turnTo(1);
  expect(board.view().part.zoom).toBe(1);
});

describe('the hand that keys move', () => {
  const keyed = () => {
    const made = recorded();
    made.listen();
    const keys = new BoardKeys(made.board);
    const press = (...names: string[]) =>
      names.forEach((key) => keys.press({ key, shiftKey: false }));
    const times = (count: number, key: string) => press(...Array<string>(count).fill(key));
    return { ...made, keys, press, times };
  };
  it('draws a box between two places', () => {
    const { board, records, press, times } = keyed();
    board.choose({ tool: 'box' });
    press('ArrowLeft', 'Enter');
    times(8, 'ArrowRight');
    times(4, 'ArrowDown');
    press('Enter');
    const [box] = shown(records).strokes;
    expect(box!.stroke.pen.tool).toBe('box');
    const [from, to] = box!.points;
    expect(to!.x - from!.x).toBeCloseTo(0.2);
    expect(to!.y - from!.y).toBeCloseTo(0.1);
    expect(from!.x).toBeCloseTo(0.475);
  });
  it('selects, moves and takes away', () => {
    const { board, records, press, stroke } = keyed();
    stroke(0.4, 0.6);
    board.choose({ tool: 'select' });
    // From the middle up to the line at 0.2.
    press('ArrowUp', 'ArrowUp', 'ArrowUp', 'Enter');
    expect(board.view().selected).toBe(1);
    press('ArrowDown', 'ArrowDown');
    expect(shown(records).strokes[0]!.points[0]!.y).toBeCloseTo(0.25);
    press('Delete');
    expect(shown(records).strokes).toHaveLength(0);
  });
  it('gives up what was begun, and leaves other keys alone', () => {
    const { board, keys, press } = keyed();
    board.choose({ tool: 'line' });
    press('Enter', 'ArrowRight', 'Escape');
    expect(board.view()).toMatchObject({ strokes: 0, canUndo: false });
    expect(keys.press({ key: 'Escape', shiftKey: false })).toBe(false);
    expect(keys.press({ key: 'a', shiftKey: false })).toBe(false);
  });
  it('comes nearer and goes back', () => {
    const { board, press } = keyed();
    press('+', '+');
    expect(board.view().part.zoom).toBeCloseTo(1.5625);
    press('0');
    expect(board.view().part).toEqual({ x: 0, y: 0, zoom: 1 });
  });
});
