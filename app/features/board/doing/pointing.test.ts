import { inkTrackOf } from '@under-chalk/core/ink/ink-track';
import { pointingAt } from '@under-chalk/core/pointer/path';
import { inkRecordSchema, type InkRecord } from '@under-chalk/core/ink/record';
import { BoardKeys } from '../board-keys';
import { LiveBoard } from '../live-board';

const paper = { ruling: 'plain', shade: 'light' } as const;
const at = (atUs: number, x: number, y = 0.2) => ({ x, y, pressure: 0.5, atUs });

const pointing = () => {
  const board = new LiveBoard(paper);
  const records: InkRecord[] = [];
  board.tellTo((more) => records.push(...more));
  board.choose({ tool: 'point' });
  const told = () => records.filter(({ do: what }) => what !== 'page' && what !== 'view');
  return { board, told, path: () => inkTrackOf(records).pointer };
};

it('tells where a mouse points and where it is pressed, and writes nothing', () => {
  const { board, told, path } = pointing();
  board.point([at(100_000, 0.1), at(120_000, 0.2)]);
  board.down(at(140_000, 0.3));
  board.move([at(160_000, 0.4)]);
  board.up(200_000);
  board.point([at(220_000, 0.5)]);
  board.pointsAway(300_000);
  expect(told().map((record) => [record.at, record.do])).toEqual([
    [100_000, 'point'],
    [120_000, 'point'],
    [140_000, 'press'],
    [160_000, 'point'],
    [200_000, 'release'],
    [220_000, 'point'],
    [300_000, 'away'],
  ]);
  expect(told().every((record) => inkRecordSchema.safeParse(record).success)).toBe(true);
  expect(path().presses).toEqual([{ atUs: 140_000, untilUs: 200_000, x: 0.3, y: 0.2 }]);
  expect(pointingAt(path(), 300_000)).toBeNull();
  expect(board.view()).toMatchObject({ strokes: 0, canUndo: false });
});

it('tells places of what is shown, wherever the page has been moved', () => {
  const { board, told } = pointing();
  board.show({ x: 0.2, y: 0.1, zoom: 2 });
  board.point([at(100_000, 0.3, 0.2)]);
  expect(told()).toMatchObject([{ samples: [[0, 0.2, 0.2]] }]);
});

it('tells no more than films have use for', () => {
  const { board, told } = pointing();
  board.point(Array.from({ length: 100 }, (_, n) => at(100_000 + n * 1_000, n / 100)));
  expect(told().length).toBeLessThan(15);
});

it('is told with no other tool, and goes when another is taken', () => {
  const { board, told } = pointing();
  board.point([at(100_000, 0.1)]);
  board.choose({ tool: 'pen' });
  board.point([at(200_000, 0.2)]);
  expect(told().map(({ do: what }) => what)).toEqual(['point', 'away']);
});

it('shows its tail for a moment, and where it is', () => {
  const { board } = pointing();
  board.point([at(100_000, 0.1), at(200_000, 0.2), at(700_000, 0.3)]);
  expect(board.pointed(750_000).tail.map(({ at: [x] }) => x)).toEqual([0.3]);
  expect(board.pointed(5_000_000).tail).toHaveLength(1);
  board.pointsAway(800_000);
  expect(board.pointed(800_000).tail).toEqual([]);
});

it('goes by keys', () => {
  const { board, told } = pointing();
  const keys = new BoardKeys(board);
  for (const key of ['ArrowRight', 'Enter', 'Enter']) keys.press({ key, shiftKey: false });
  expect(told().map(({ do: what }) => what)).toEqual(['point', 'press', 'release']);
});
