import * as z from 'zod';

/**
 * - `pen`, `highlighter`: drawn by hand, through all of their points
 * - `line`, `arrow`, `box`, `ellipse`: from their first point to their last
 * - `text`: words, with their upper left corner at their first point
 */
export const inkToolSchema = z.enum([
  'pen',
  'highlighter',
  'line',
  'arrow',
  'box',
  'ellipse',
  'text',
]);
export type InkTool = z.infer<typeof inkToolSchema>;

/** Whether a tool draws from its first point to its last, whichever way the hand went between. */
export const isShape = (tool: InkTool): boolean =>
  tool === 'line' || tool === 'arrow' || tool === 'box' || tool === 'ellipse';

/** Colours by their names: each is another on light and on dark paper. */
export const inkColourSchema = z.enum(['main', 'blue', 'red', 'green', 'amber', 'violet']);
export type InkColour = z.infer<typeof inkColourSchema>;

/**
 * How long a stroke stays, if it isn't wiped before:
 * - `wiped`: until it is wiped; it is seen whenever its page is
 * - `turned`: until the page is turned
 * - `film`: to the end, whatever page is shown
 * - a number: it fades so many µs after it was drawn
 */
export const stayingSchema = z.union([
  z.enum(['wiped', 'turned', 'film']),
  z.number().int().min(100_000).max(600_000_000),
]);
export type Staying = z.infer<typeof stayingSchema>;

/** What a stroke is drawn with. */
export const penSchema = z
  .object({
    tool: inkToolSchema,
    colour: inkColourSchema,
    /** Width of the line at middling pressure, or height of the letters, as a fraction of the page's width. */
    width: z.number().min(0.0005).max(0.2),
    stays: stayingSchema,
  })
  .readonly();
export type Pen = z.infer<typeof penSchema>;

export const paperSchema = z
  .object({
    /** `none`: what lies under the ink is seen. */
    ruling: z.enum(['none', 'plain', 'squared', 'ruled', 'dotted']),
    shade: z.enum(['light', 'dark']),
  })
  .readonly();
export type Paper = z.infer<typeof paperSchema>;
export type Shade = Paper['shade'];

export const PAPER_COLOURS: Readonly<Record<Shade, string>> = { light: '#fbf8f0', dark: '#1d252c' };
export const RULING_COLOURS: Readonly<Record<Shade, string>> = {
  light: '#d9d2c0',
  dark: '#34414b',
};

/**
 * Checked by test: each against its paper by WCAG's contrast, and any two by their distance as usual, protanopic,
 * deuteranopic and tritanopic eyes see them.
 */
export const INK_COLOURS: Readonly<Record<Shade, Readonly<Record<InkColour, string>>>> = {
  light: {
    main: '#1d252c',
    blue: '#034472',
    red: '#8a2814',
    green: '#247b6c',
    amber: '#9a5c04',
    violet: '#9648e5',
  },
  dark: {
    main: '#f7f3e9',
    blue: '#b4cdfd',
    red: '#fa4c29',
    green: '#34b29d',
    amber: '#e9c763',
    violet: '#bc65fb',
  },
};

/** How much of what lies under it is covered by a highlighter, 0 to 1. */
export const HIGHLIGHT = 0.35;
