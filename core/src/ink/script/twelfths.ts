import type { Us } from '../../time/us';
import type { XY } from '../page';
import type { ScriptAct } from './scripted-hand';

/** When each sentence of the lesson begins, µs; without a voice they follow on one another at its pace. */
export const TWELFTHS_STARTS: readonly Us[] = [
  0.8, 5.9, 10.9, 15.7, 21.2, 25.9, 30.5, 35.8, 39.5, 46.1, 52.1, 58.2, 64.3,
].map((seconds) => Math.round(seconds * 1e6));

/** Heights of the water over six hours, by the rule: so many twelfths up after each. */
const RISEN = [0, 1, 3, 6, 9, 11, 12];

/** Where the curve of the first page lies. */
const LEFT = 0.1;
const BOTTOM = 0.485;
const HOUR = 0.068;
const TWELFTH = 0.026;

const onCurve = (hour: number): XY => [LEFT + hour * HOUR, BOTTOM - 0.012 - RISEN[hour]! * TWELFTH];

/**
 * The rule of twelfths on a board, as Ottilie Marsh writes it: the rule on the first page, Friday at the quay on the
 * second, and back to the first.
 *
 * @param starts when the sentences begin that she says to it, µs
 */
export const twelfthsScript = (starts: readonly Us[] = TWELFTHS_STARTS): ScriptAct[] => {
  const said = (sentence: number, laterSeconds = 0): Us =>
    (starts[sentence] ?? TWELFTHS_STARTS[sentence]!) + laterSeconds * 1e6;
  const twelfth = (sentence: number, later: number, hour: number, number: string): ScriptAct => ({
    ...{ atUs: said(sentence, later), do: 'write', words: number, height: 0.042 },
    ...{ at: [LEFT + (hour - 0.68) * HOUR, BOTTOM + 0.012], colour: 'amber' },
  });
  return [
    {
      ...{ atUs: said(0, 0.4), do: 'write', words: 'Rule of twelfths', height: 0.05 },
      at: [0.06, 0.035],
    },
    // The hours to the right, the height of the water upwards.
    {
      atUs: said(1, 0.3),
      do: 'draw',
      tool: 'arrow',
      way: [
        [LEFT, BOTTOM],
        [0.56, BOTTOM],
      ],
    },
    {
      atUs: said(1, 1.4),
      do: 'draw',
      tool: 'arrow',
      way: [
        [LEFT, BOTTOM],
        [LEFT, 0.145],
      ],
    },
    { atUs: said(1, 2.4), do: 'write', words: 'hours', at: [0.575, 0.46], height: 0.03 },
    {
      atUs: said(2, 0.6),
      do: 'write',
      words: '12 parts',
      at: [0.64, 0.15],
      height: 0.05,
      colour: 'blue',
    },
    twelfth(3, 1.6, 1, '1'),
    twelfth(3, 4.2, 2, '2'),
    twelfth(4, 0.8, 3, '3'),
    twelfth(4, 3, 4, '3'),
    twelfth(5, 0.3, 5, '2'),
    twelfth(5, 1.4, 6, '1'),
    {
      ...{ atUs: said(5, 2.4), do: 'draw', tool: 'pen', colour: 'blue' },
      way: RISEN.map((_, hour) => onCurve(hour)),
    },
    {
      ...{ atUs: said(6, 0.5), do: 'draw', tool: 'highlighter', colour: 'amber' },
      way: [onCurve(2), onCurve(3), onCurve(4)],
    },
    {
      atUs: said(6, 2.2),
      do: 'write',
      words: 'quick',
      at: [0.64, 0.27],
      height: 0.042,
      colour: 'amber',
    },
    { atUs: said(7, 0.2), do: 'turn', page: 1 },
    { atUs: said(7, 0.8), do: 'write', words: 'Friday', at: [0.06, 0.035], height: 0.05 },
    { atUs: said(8, 0.6), do: 'write', words: 'Low 1.2 m', at: [0.08, 0.14], height: 0.042 },
    { atUs: said(8, 3.2), do: 'write', words: 'High 5.2 m', at: [0.08, 0.225], height: 0.042 },
    {
      atUs: said(9, 0.4),
      do: 'write',
      words: 'Range 4 m',
      at: [0.08, 0.32],
      height: 0.042,
      colour: 'green',
    },
    {
      atUs: said(9, 3.4),
      do: 'write',
      words: '4 / 12 = 0.33 m',
      at: [0.46, 0.14],
      height: 0.042,
      colour: 'green',
    },
    { atUs: said(10, 0.8), do: 'write', words: '1 + 2 = 3', at: [0.46, 0.26], height: 0.042 },
    {
      atUs: said(10, 3.4),
      do: 'write',
      words: '1 m',
      at: [0.76, 0.26],
      height: 0.05,
      colour: 'red',
    },
    {
      atUs: said(10, 5.2),
      do: 'draw',
      tool: 'box',
      way: [
        [0.74, 0.24],
        [0.88, 0.33],
      ],
      colour: 'red',
    },
    { atUs: said(11, 0.4), do: 'turn', page: 0 },
    {
      ...{ atUs: said(11, 2.2), do: 'draw', tool: 'ellipse', colour: 'red' },
      way: [
        [onCurve(2)[0] - 0.03, onCurve(2)[1] - 0.03],
        [onCurve(2)[0] + 0.03, onCurve(2)[1] + 0.03],
      ],
    },
    {
      atUs: said(11, 3.6),
      do: 'write',
      words: '1 m',
      at: [0.14, 0.28],
      height: 0.045,
      colour: 'red',
    },
  ];
};
