import type { Us } from '../../time/us';
import { isShape, type Paper, type Pen } from '../pen';
import type { InkRecord, InkSample } from '../record';
import type { HandMove } from './scripted-hand';

const rounded = (value: number) => Math.round(value * 1e5) / 1e5;
/** Samples of one record: what a pen draws in a quarter of a second. */
const TOGETHER = 16;

/**
 * What a hand does, as the records of a track.
 *
 * @param name begins the names of pages and strokes
 * @param width of a line, a fraction of the page's width
 */
export const recordsOfHand = (
  moves: readonly HandMove[],
  name: string,
  paper: Paper,
  width: number,
): InkRecord[] => {
  const pageOf = (page: number) => `${name}-page-${page + 1}`;
  const records: InkRecord[] = [{ at: 0, do: 'page', page: pageOf(0), paper }];
  let pen: Pen = { tool: 'pen', colour: 'main', width, stays: 'wiped' };
  let stroke = '';
  let count = 0;
  let samples: InkSample[] = [];
  let [beganUs, lastUs]: [Us, Us] = [0, 0];
  let ends: InkSample[] = [];
  const tell = () => {
    if (samples.length > 0) records.push({ at: beganUs, do: 'draw', stroke, samples });
    samples = [];
  };
  for (const move of moves) {
    switch (move.do) {
      case 'take':
        pen = {
          ...{ tool: move.tool, colour: move.colour, stays: 'wiped' },
          width: rounded(move.tool === 'highlighter' ? width * 6 : width),
        };
        break;
      case 'turn':
        records.push({ at: move.atUs, do: 'page', page: pageOf(move.page), paper });
        break;
      case 'down':
      case 'move': {
        if (move.do === 'down') {
          stroke = `${name}-stroke-${String(++count).padStart(4, '0')}`;
          records.push({ at: move.atUs, do: 'begin', stroke, pen });
          ends = [];
        }
        if (samples.length === 0) [beganUs, lastUs] = [move.atUs, move.atUs];
        const place = [rounded(move.x), rounded(move.y), rounded(move.pressure)] as const;
        samples.push([move.atUs - lastUs, ...place]);
        ends = [ends[0] ?? [0, ...place], [0, ...place]];
        lastUs = move.atUs;
        if (samples.length === TOGETHER) tell();
        break;
      }
      case 'up':
        tell();
        records.push({
          ...{ at: move.atUs, do: 'end', stroke },
          ...(isShape(pen.tool) ? { samples: ends } : {}),
        });
    }
  }
  return records;
};
