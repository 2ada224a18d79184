import { strokesAt } from './hit';
import { inkTrackOf, pageAt } from './ink-track';
import type { InkTool } from './pen';
import type { InkSample } from './record';

const drawn = (tool: InkTool, samples: InkSample[], text?: string) => {
  const pen = { tool, colour: 'main', width: 0.01, stays: 'wiped' } as const;
  const stroke = `stroke-${tool}`;
  return pageAt(
    inkTrackOf([
      { at: 0, do: 'begin', stroke, pen, ...(text === undefined ? {} : { text }) },
      { at: 0, do: 'draw', stroke, samples },
      { at: 1, do: 'end', stroke },
    ]),
    10,
  ).strokes;
};
const corners: InkSample[] = [
  [0, 0.2, 0.1, 0.5],
  [0, 0.6, 0.3, 0.5],
];
const touches = (tool: InkTool, x: number, y: number, text?: string) =>
  strokesAt(drawn(tool, corners, text), x, y, 0.005).length === 1;

it('touches what is drawn, and not what it goes round', () => {
  expect(touches('line', 0.4, 0.2)).toBe(true);
  expect(touches('line', 0.4, 0.25)).toBe(false);
  expect(touches('box', 0.4, 0.1)).toBe(true);
  expect(touches('box', 0.6, 0.2)).toBe(true);
  expect(touches('box', 0.4, 0.2)).toBe(false);
  expect(touches('ellipse', 0.2, 0.2)).toBe(true);
  expect(touches('ellipse', 0.205, 0.105)).toBe(false);
  expect(touches('arrow', 0.6, 0.3)).toBe(true);
  expect(touches('text', 0.22, 0.105, 'Six hours')).toBe(true);
  expect(touches('text', 0.5, 0.105, 'Six hours')).toBe(false);
});

it('touches a dot, and the width of a line as well as its middle', () => {
  const dot = drawn('pen', [[0, 0.5, 0.5, 0.5]]);
  expect(strokesAt(dot, 0.509, 0.5, 0.005)).toHaveLength(1);
  expect(strokesAt(dot, 0.512, 0.5, 0.005)).toHaveLength(0);
});
