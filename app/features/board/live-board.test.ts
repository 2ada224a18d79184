import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import { inkRecordSchema, type InkRecord } from '@under-chalk/core/ink/record';
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
