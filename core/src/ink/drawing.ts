import { outlineOf } from './outline';
import { PAGE_ASPECT, type XY } from './page';
import { pathsOf } from './paths';
import { HIGHLIGHT, INK_COLOURS, PAPER_COLOURS, RULING_COLOURS } from './pen';
import type { ShownPage, ShownStroke } from './ink-track';
import { LINE_HEIGHT } from './text';

/** A page's size in the units of a drawing. */
export const DRAWING = { width: 1000, height: 1000 / PAGE_ASPECT } as const;

/** Something drawn on a page: a path as SVG 2 writes it (`d`), or words; in units of {@link DRAWING}. */
export type DrawnMark =
  | {
      readonly is: 'area';
      readonly path: string;
      readonly colour: string;
      readonly opacity: number;
    }
  | {
      readonly is: 'line';
      readonly path: string;
      readonly colour: string;
      readonly opacity: number;
      readonly width: number;
    }
  | {
      readonly is: 'words';
      readonly lines: readonly { readonly text: string; readonly x: number; readonly y: number }[];
      /** Height of the letters; `y` is that of their upper edge. */
      readonly size: number;
      readonly colour: string;
      readonly opacity: number;
    };

const SCALE = DRAWING.width;
const shortly = (value: number) => String(Math.round(value * SCALE * 100) / 100);
const at = ([x, y]: XY) => `${shortly(x)} ${shortly(y)}`;
const between = ([ax, ay]: XY, [bx, by]: XY): XY => [(ax + bx) / 2, (ay + by) / 2];

/** A closed outline whose corners are the controls of quadratic curves, as the painter draws it. */
const smooth = (outline: readonly XY[]): string => {
  const [first, last] = [outline[0], outline.at(-1)];
  if (!first || !last) return '';
  const curves = outline.map(
    (corner, index) =>
      `Q${at(corner)} ${at(between(corner, outline[(index + 1) % outline.length]!))}`,
  );
  return `M${at(between(last, first))}${curves.join('')}Z`;
};

const straight = (paths: readonly (readonly XY[])[]): string =>
  paths
    .map((path) => path.map((corner, n) => `${n === 0 ? 'M' : 'L'}${at(corner)}`).join(''))
    .join('');

const markOf = (shown: ShownStroke, colour: string): DrawnMark => {
  const { stroke, points, opacity } = shown;
  const { pen, text } = stroke;
  const shared = { colour, opacity: opacity * (pen.tool === 'highlighter' ? HIGHLIGHT : 1) };
  switch (pen.tool) {
    case 'pen':
    case 'highlighter':
      return { is: 'area', path: smooth(outlineOf(points, pen, true)), ...shared };
    case 'line':
    case 'arrow':
    case 'box':
    case 'ellipse':
      return { is: 'line', path: straight(pathsOf(shown)), width: pen.width * SCALE, ...shared };
    case 'text': {
      const { x, y } = points[0]!;
      const lines = text.split('\n').map((line, index) => ({
        ...{ text: line, x: Number(shortly(x)) },
        y: Number(shortly(y + index * LINE_HEIGHT * pen.width)),
      }));
      return { is: 'words', lines, size: pen.width * SCALE, ...shared };
    }
  }
};

/** Distance of lines and dots on paper, widths of the page. */
export const RULING = { squared: 1 / 40, dotted: 1 / 40, ruled: 1 / 28 } as const;

const rulingOf = ({ paper }: ShownPage): DrawnMark[] => {
  const { ruling, shade } = paper;
  if (ruling === 'none' || ruling === 'plain') return [];
  const steps = (most: number) =>
    Array.from({ length: Math.floor(most / RULING[ruling]) }, (_, n) => (n + 1) * RULING[ruling]);
  const [across, down] = [steps(1), steps(1 / PAGE_ASPECT)];
  const colour = RULING_COLOURS[shade];
  if (ruling === 'dotted') {
    const dots = down.map((y) => across.map((x) => `M${at([x, y])}h0`).join('')).join('');
    return [{ is: 'line', path: dots, colour, opacity: 1, width: 2.2 }];
  }
  const level = down.map((y) => `M0 ${shortly(y)}H${SCALE}`).join('');
  const upright = across.map((x) => `M${shortly(x)} 0V${shortly(1 / PAGE_ASPECT)}`).join('');
  return [
    {
      is: 'line',
      path: ruling === 'squared' ? level + upright : level,
      colour,
      opacity: 1,
      width: 1,
    },
  ];
};

/** What a page looks like as vectors, the lower marks first: its ruling, and all that is on it. */
export const drawingOf = (
  page: ShownPage,
): { readonly ground: string; readonly marks: readonly DrawnMark[] } => {
  const { shade } = page.paper;
  const colours = INK_COLOURS[shade];
  return {
    ground: PAPER_COLOURS[shade],
    marks: [
      ...rulingOf(page),
      ...page.strokes.map((shown) => markOf(shown, colours[shown.stroke.pen.colour])),
    ],
  };
};
