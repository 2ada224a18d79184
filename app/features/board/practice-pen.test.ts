import { inkTrackOf, pageAt } from '@under-chalk/core/ink/ink-track';
import type { InkRecord } from '@under-chalk/core/ink/record';
import { handOf } from '@under-chalk/core/ink/script/scripted-hand';
import { twelfthsScript } from '@under-chalk/core/ink/script/twelfths';
import { LiveBoard } from './live-board';
import { PracticePen } from './practice-pen';

const LAST = Number.MAX_SAFE_INTEGER;
// The common clock is the page's own: only timers are ours.
beforeEach(() => jest.useFakeTimers({ doNotFake: ['performance'] }));
afterEach(() => jest.useRealTimers());

const writing = () => {
  const board = new LiveBoard({ ruling: 'plain', shade: 'dark' });
  const records: InkRecord[] = [];
  board.tellTo((more) => records.push(...more));
  const pen = new PracticePen(board, () => Date.now() * 1_000);
  pen.start();
  return { board, pen, shown: () => pageAt(inkTrackOf(records), LAST), records };
};

it('writes the script on a board, each sample with its own time', () => {
  const { board, shown, records } = writing();
  jest.advanceTimersByTime(80_000);
  const script = handOf(twelfthsScript());
  const drawn = script.filter(({ do: what }) => what === 'down').length;
  expect(records.filter(({ do: what }) => what === 'begin')).toHaveLength(drawn);
  expect(board.view()).toMatchObject({ page: 0, pages: 2 });
  expect(shown().strokes.some(({ stroke }) => stroke.pen.tool === 'ellipse')).toBe(true);
  const [first, second] = shown().strokes[0]!.points;
  expect(second!.atUs - first!.atUs).toBe(16_000);
});

it('rests while it is paused, and stops when it is told to, in the middle of a stroke', () => {
  const { board, pen } = writing();
  jest.advanceTimersByTime(4_000);
  const before = board.view().strokes;
  expect(before).toBeGreaterThan(3);
  pen.rest(true);
  jest.advanceTimersByTime(20_000);
  expect(board.view().strokes).toBe(before);
  pen.rest(false);
  jest.advanceTimersByTime(3_000);
  expect(board.view().strokes).toBeGreaterThan(before);
  pen.stop();
  const stopped = board.view().strokes;
  jest.advanceTimersByTime(20_000);
  expect(board.view().strokes).toBe(stopped);
  expect(board.isDown()).toBe(false);
});
