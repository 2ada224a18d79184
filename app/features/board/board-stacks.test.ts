import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import { inkRecordSchema, type InkRecord } from '@under-chalk/core/ink/record';
import type { Material } from '@under-chalk/core/material/material';
import { placeOnPage } from '@under-chalk/core/material/page-place';
import { BoardKeys } from './board-keys';
import { LiveBoard } from './live-board';
import { acrossView } from './page-view';

const paper = { ruling: 'squared', shade: 'dark' } as const;

const material = (id: string, pages: number, change: Partial<Material> = {}): Material => ({
  ...{ id, name: `${id}.pdf`, state: 'ready', problem: null, dark: false, bytes: 9 },
  content: id.endsWith('one') ? 'a'.repeat(64) : 'b'.repeat(64),
  aspects: Array<number>(pages).fill(4 / 3),
  broughtAt: '2026-11-26T19:00:00.000Z',
  ...change,
});
const slides = material('material-one', 300);
const chart = material('material-two', 1, { dark: true });

const boardWith = (...materials: Material[]) => {
  const board = new LiveBoard(paper);
  board.bring(materials);
  const records: InkRecord[] = [];
  const listen = () => board.tellTo((more) => records.push(...more));
  const draw = () => {
    board.down({ x: 0.2, y: 0.2, pressure: 0.5, atUs: 1 });
    board.move([{ x: 0.3, y: 0.3, pressure: 0.5, atUs: 2 }]);
    board.up(3);
  };
  return { board, records, listen, draw };
};
const pagesIn = (records: readonly InkRecord[]) => records.filter((record) => record.do === 'page');
const shown = (records: readonly InkRecord[]) =>
  pageAt(inkTrackOf(records), Number.MAX_SAFE_INTEGER);

it('turns to pages of materials, and tells which lies on the page', () => {
  const { board, records, listen } = boardWith(slides, chart);
  listen();
  board.open('material-one');
  board.turnTo(7);
  expect(shown(records).of).toEqual({ content: 'a'.repeat(64), page: 7, aspect: 4 / 3 });
  expect(shown(records).paper).toEqual({ ruling: 'plain', shade: 'light' });
  expect(board.view()).toMatchObject({ stack: 'material-one', page: 7, pages: 300 });
  board.open('material-two');
  // What is written on something dark is light.
  expect(shown(records).paper.shade).toBe('dark');
  board.open('board');
  expect([shown(records).of, shown(records).paper]).toEqual([undefined, paper]);
  board.open('material-one');
  expect(board.view().page).toBe(7);
  expect(records.every((record) => inkRecordSchema.safeParse({ ...record, at: 0 }).success)).toBe(
    true,
  );
});

it('keeps what is written with its page, and tells no more pages than that', () => {
  const { board, records, listen, draw } = boardWith(slides);
  board.open('material-one', 2);
  draw();
  board.turnTo(5);
  listen();
  // The board's own page, the one that was written on, and the one that is shown.
  expect(pagesIn(records).map(({ of }) => of?.page)).toEqual([undefined, 2, 5]);
  expect(shown(records).strokes).toHaveLength(0);
  board.turnTo(2);
  expect(shown(records).strokes).toHaveLength(1);
  expect(board.view()).toMatchObject({ strokes: 1, page: 2 });
});

it('has a blank page put between, and behind the last', () => {
  const { board, records, listen } = boardWith(slides, chart);
  listen();
  board.open('material-one', 3);
  board.putBlank();
  expect(board.view()).toMatchObject({ page: 4, pages: 301 });
  expect([shown(records).of, shown(records).paper]).toEqual([undefined, paper]);
  board.turnTo(5);
  expect(shown(records).of?.page).toBe(4);
  board.open('material-two');
  board.turnTo(1);
  expect(board.view()).toMatchObject({ stack: 'material-two', page: 1, pages: 2 });
  expect(shown(records).of).toBeUndefined();
});

it('offers what is ready, and keeps what was taken out while it is shown or written on', () => {
  const { board, draw } = boardWith(slides, material('material-odd', 0, { state: 'reading' }));
  const names = () => board.view().stacks.map(({ name }) => name);
  expect(names()).toEqual(['Board', 'material-one']);
  board.bring([slides, chart]);
  expect(names()).toEqual(['Board', 'material-one', 'material-two']);
  board.open('material-two');
  draw();
  board.open('material-one');
  board.bring([]);
  expect(names()).toEqual(['Board', 'material-one', 'material-two']);
  board.open('board');
  board.bring([]);
  expect(names()).toEqual(['Board', 'material-two']);
  board.open('material-gone');
  expect(board.view().stack).toBe('board');
});

it('tells which pages are likely to be turned to next', () => {
  const { board } = boardWith(slides);
  const near = () => board.near().map(({ page }) => page);
  expect(near()).toEqual([]);
  board.open('material-one');
  expect(near()).toEqual([1]);
  board.turnTo(9);
  expect(near()).toEqual([10, 8]);
  board.turnTo(299);
  expect(near()).toEqual([298]);
});

it('opens materials over what is captured', () => {
  const board = new LiveBoard(paper, true);
  board.bring([slides]);
  const records: InkRecord[] = [];
  board.tellTo((more) => records.push(...more));
  expect(shown(records).paper.ruling).toBe('none');
  board.open('material-one', 1);
  expect(shown(records).of?.page).toBe(1);
  board.open('captured');
  expect([shown(records).paper.ruling, shown(records).of]).toEqual(['none', undefined]);
});

it('is turned by the keys of a presenter, and never past its ends', () => {
  const { board } = boardWith(slides);
  const keys = new BoardKeys(board);
  const press = (key: string) => keys.press({ key, shiftKey: false });
  board.open('material-one', 298);
  ['PageDown', 'PageDown', 'PageDown'].forEach(press);
  expect(board.view()).toMatchObject({ page: 299, pages: 300 });
  press('PageUp');
  expect(board.view().page).toBe(298);
  board.turnTo(0);
  press('PageUp');
  expect(board.view().page).toBe(0);
});

it('fills the width with a page that stands upright', () => {
  const { board } = boardWith(slides);
  board.open('material-one');
  const { x, y, zoom } = acrossView({ aspect: 210 / 297 });
  board.show({ x, y, zoom });
  const { width } = placeOnPage({ aspect: 210 / 297 });
  expect(board.view().part).toEqual({ x, y, zoom });
  expect([zoom, x, y]).toEqual([
    ...[expect.closeTo(1 / width, 4), expect.closeTo((1 - width) / 2, 4), 0],
  ]);
});
