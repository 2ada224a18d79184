import { inkTrackOf, pageAt } from '../ink-track';
import { inkRecordSchema } from '../record';
import { recordsOfHand } from './script-records';
import { handOf, type HandMove } from './scripted-hand';
import { TWELFTHS_STARTS, twelfthsScript } from './twelfths';

const moves = handOf(twelfthsScript());
const records = recordsOfHand(moves, 'twelfths', { ruling: 'squared', shade: 'dark' }, 0.0048);
const track = inkTrackOf(records);
const placed = (move: HandMove) => ('x' in move ? [move] : []);

describe('a scripted hand', () => {
  it('is the same each time, and one thing comes after another', () => {
    expect(handOf(twelfthsScript())).toEqual(moves);
    const times = moves.map(({ atUs }) => atUs);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    records.forEach((record) => inkRecordSchema.parse(record));
  });
  it('writes with a pressure that changes, at the speed of a hand', () => {
    const samples = moves.flatMap(placed);
    const pressures = samples.map(({ pressure }) => pressure);
    expect(Math.max(...pressures) - Math.min(...pressures)).toBeGreaterThan(0.25);
    let fastest = 0;
    samples.forEach((move, index) => {
      const before = samples[index - 1];
      if (!before || move.do === 'down') return;
      const seconds = (move.atUs - before.atUs) / 1e6;
      fastest = Math.max(fastest, Math.hypot(move.x - before.x, move.y - before.y) / seconds);
    });
    expect(fastest).toBeGreaterThan(0.3);
    expect(fastest).toBeLessThan(1.2);
  });
  it('stays on the page', () => {
    for (const { x, y } of moves.flatMap(placed)) {
      expect(x).toBeGreaterThan(0.02);
      expect(x).toBeLessThan(0.98);
      expect(y).toBeGreaterThan(0.01);
      expect(y).toBeLessThan(9 / 16);
    }
  });
  it('keeps up with the voice: it is never much late', () => {
    const begun = moves.filter(({ do: what }) => what === 'take' || what === 'turn');
    const late = twelfthsScript().map(({ atUs }, index) => begun[index]!.atUs - atUs);
    expect(Math.max(...late)).toBeLessThan(1_500_000);
    expect(moves.at(-1)!.atUs).toBeLessThan(TWELFTHS_STARTS.at(-1)! + 1_000_000);
  });
});

it('writes the rule over two pages and back', () => {
  expect(track.turns.map(({ page }) => page)).toEqual([
    'twelfths-page-1',
    'twelfths-page-2',
    'twelfths-page-1',
  ]);
  const end = pageAt(track, moves.at(-1)!.atUs);
  expect(end.index).toBe(0);
  const tools = end.strokes.map(({ stroke }) => stroke.pen.tool);
  expect(tools.filter((tool) => tool !== 'pen').sort()).toEqual([
    'arrow',
    'arrow',
    'ellipse',
    'highlighter',
  ]);
  expect(end.strokes.every(({ done }) => done)).toBe(true);
  expect(tools.length).toBeGreaterThan(40);
});
