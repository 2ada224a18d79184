import { SaxesParser } from 'saxes';
import { AppError } from '../errors/errors';
import type { Id } from '../lesson/take';
import type { Us } from '../time/us';
import type { InkTrack, Stroke } from './ink-track';
import { PAGE_ASPECT } from './page';
import {
  inkColourSchema,
  inkToolSchema,
  isShape,
  type InkColour,
  type Paper,
  type Pen,
} from './pen';
import { MOST_SAMPLES, type InkRecord, type InkSample } from './record';
import { xmlText } from './svg';

/**
 * InkML (W3C Recommendation, 2011): ink as traces of points with their times and pressures, for other programs. What
 * InkML has no words for (tools, colours by name, staying, words) stands in annotations.
 */
const NAMESPACE = 'http://www.w3.org/2003/InkML';

/** Points have four channels: X and Y in thousandths of the page's width, force from 0 to 1, time in ms. */
const CHANNELS = ['X', 'Y', 'F', 'T'] as const;
const SCALE = 1_000;

const number = (value: number) => String(Math.round(value * 1e5) / 1e5);

const COLOURS: Readonly<Record<InkColour, string>> = {
  main: '#000000',
  blue: '#034472',
  red: '#8a2814',
  green: '#247b6c',
  amber: '#9a5c04',
  violet: '#9648e5',
};

const annotation = (type: string, text: string) =>
  `<annotation type="${type}">${xmlText(text)}</annotation>`;

const traceOf = ({ id, pen, text, points, straightened }: Stroke): string => {
  const { tool, colour, width, stays } = pen;
  const drawn = straightened ?? points;
  const places = drawn.map(({ x, y, pressure, atUs }) =>
    [number(x * SCALE), number(y * SCALE), number(pressure), String(atUs / 1_000)].join(' '),
  );
  return [
    `<traceGroup xml:id="${xmlText(id)}" brushRef="#pen-${tool}-${colour}">`,
    annotation('tool', tool),
    annotation('colour', colour),
    annotation('width', number(width)),
    annotation('stays', String(stays)),
    ...(text === '' ? [] : [annotation('words', text)]),
    `<trace>${places.join(', ')}</trace>`,
    '</traceGroup>',
  ].join('');
};

/** A track as InkML: each page a group of traces, without what was wiped in the end. */
export const inkmlOf = ({ strokes, turns }: InkTrack): string => {
  const kept = strokes.filter(
    ({ wiped, points }) => wiped.at(-1)?.toUs !== Infinity && points.length > 0,
  );
  const pens = new Map(kept.map(({ pen }) => [`pen-${pen.tool}-${pen.colour}`, pen]));
  const pages = [...new Set(kept.map(({ page }) => page))];
  const brush = ([name, { colour, tool }]: [string, Pen]) =>
    `<brush xml:id="${name}"><brushProperty name="color" value="${COLOURS[colour]}"/>${
      tool === 'highlighter' ? '<brushProperty name="transparency" value="0.65"/>' : ''
    }</brush>`;
  const group = (page: Id) => {
    const paper = turns.find((turn) => turn.page === page)?.paper;
    return [
      `<traceGroup>${annotation('page', page)}${annotation('paper', paper ? `${paper.ruling} ${paper.shade}` : 'none light')}`,
      ...kept.filter((stroke) => stroke.page === page).map(traceOf),
      '</traceGroup>',
    ].join('\n');
  };
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<ink xmlns="${NAMESPACE}">`,
    '<definitions>',
    '<context xml:id="board"><inkSource xml:id="hand"><traceFormat>',
    '<channel name="X" type="decimal"/><channel name="Y" type="decimal"/>',
    '<channel name="F" type="decimal" min="0" max="1"/><channel name="T" type="decimal" units="ms"/>',
    '</traceFormat></inkSource></context>',
    ...[...pens].map(brush),
    '</definitions>',
    ...pages.map(group),
    '</ink>\n',
  ].join('\n');
};

interface Trace {
  readonly told: Readonly<Record<string, string>>;
  readonly page: string;
  readonly text: string;
}

/** No more of a file is read: nobody wrote so much. */
const MOST_CHARACTERS = 60_000_000;
const MOST_TRACES = 100_000;
const MOST_DEEP = 40;

interface Read {
  readonly traces: readonly Trace[];
  readonly channels: readonly string[];
  readonly papers: ReadonlyMap<string, string>;
}

/** Finds the traces of a file, and what is said of each by the groups round it. */
const read = (xml: string): Read => {
  const traces: Trace[] = [];
  const channels: string[] = [];
  const papers = new Map<string, string>();
  /** What annotations say, group by group. */
  const groups: Record<string, string>[] = [{}];
  let [type, text, pages, deep, isInk] = ['', '', 0, 0, false];
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw new AppError('ink-unreadable', error.message);
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (++deep > MOST_DEEP) throw new AppError('ink-unreadable', 'too deep');
    text = '';
    const local = name.replace(/^.*:/, '');
    const said = attributes as Record<string, string>;
    if (local === 'ink') isInk = true;
    if (local === 'channel' && said['name']) channels.push(said['name']);
    if (local === 'annotation') type = said['type'] ?? '';
    if (local === 'traceGroup') {
      groups.push({});
      if (groups.length === 2) pages++;
    }
  });
  parser.on('text', (more) => {
    text += more;
  });
  parser.on('closetag', ({ name }) => {
    deep--;
    const local = name.replace(/^.*:/, '');
    if (local === 'annotation') groups.at(-1)![type] = text;
    if (local === 'trace' && text.trim() !== '') {
      if (traces.length >= MOST_TRACES) throw new AppError('ink-unreadable', 'too many');
      const told = Object.assign({}, ...groups) as Record<string, string>;
      const page = told['page'] ?? `page ${pages}`;
      if (told['paper']) papers.set(page, told['paper']);
      traces.push({ told, page, text });
    }
    if (local === 'traceGroup') groups.pop();
    text = '';
  });
  parser.write(xml).close();
  if (!isInk) throw new AppError('ink-unreadable', 'no InkML');
  return { traces, channels, papers };
};

/**
 * Points of a trace, a value a channel. Later ones may be told as differences: `'` of the value before, `"` of its
 * difference; `!` says that they no longer are, and `*` that a value stays (InkML 3.3.1).
 */
const pointsOf = (text: string, channels: number): number[][] => {
  const points: number[][] = [];
  const how: string[] = Array<string>(channels).fill('!');
  let before: number[] = [];
  let speed: number[] = [];
  for (const part of text.split(',')) {
    const values = part.match(/[!'"]?\s*(?:\*|\?|-?\d*\.?\d+(?:[eE][-+]?\d+)?)/g) ?? [];
    if (values.length === 0) continue;
    const point = Array.from({ length: channels }, (_, channel): number => {
      const value = values[channel]?.replace(/\s/g, '') ?? '*';
      const prefix = /^[!'"]/.exec(value)?.[0];
      if (prefix) how[channel] = prefix;
      const bare = value.replace(/^[!'"]/, '');
      const was = before[channel] ?? 0;
      if (bare === '*' || bare === '?') return was;
      const told = Number(bare);
      if (how[channel] === "'") return was + told;
      if (how[channel] === '"') return was + (speed[channel] ?? 0) + told;
      return told;
    });
    speed = point.map((value, channel) => value - (before[channel] ?? value));
    before = point;
    points.push(point);
  }
  return points.filter((point) => point.every(Number.isFinite));
};

/** As exact as it was written, whatever a division leaves behind. */
const inWidths = (value: number) => Math.round((value / SCALE) * 1e8) / 1e8;

/** Where no time is told, a hand takes so long for a point, and so long between two strokes. */
const POINT_US = 12_000;
const LIFT_US = 150_000;
/** Ink of other programs lies within so much of a page. */
const MARGIN = 0.05;

const penOf = ({ tool, colour, width, stays }: Readonly<Record<string, string>>): Pen => ({
  tool: inkToolSchema.safeParse(tool).data ?? 'pen',
  colour: inkColourSchema.safeParse(colour).data ?? 'main',
  width: Math.min(0.2, Math.max(0.0005, Number(width) || 0.0048)),
  stays:
    stays === 'turned' || stays === 'film' || stays === 'wiped'
      ? stays
      : Number.isInteger(Number(stays)) && Number(stays) >= 100_000 && Number(stays) <= 600_000_000
        ? Number(stays)
        : 'wiped',
});

const paperOf = (text: string | undefined): Paper => {
  const [ruling, shade] = (text ?? '').split(' ');
  const known = ['none', 'plain', 'squared', 'ruled', 'dotted'] as const;
  return {
    ruling: known.find((one) => one === ruling) ?? 'plain',
    shade: shade === 'dark' ? 'dark' : 'light',
  };
};

interface Placed {
  readonly pen: Pen;
  readonly text: string;
  readonly page: string;
  readonly points: readonly {
    readonly us: Us;
    readonly x: number;
    readonly y: number;
    readonly pressure: number;
  }[];
}

/**
 * Reads InkML into the records of a track. Ink of ours comes back point by point with its times and pressures; that of
 * other programs is laid on a page, and written at the pace of a hand where it tells no times.
 *
 * @param newId names pages and strokes
 * @throws AppError `ink-unreadable` for what is no InkML, or more than anybody writes
 */
export const inkOfInkml = (xml: string, newId: () => Id): InkRecord[] => {
  if (xml.length > MOST_CHARACTERS) throw new AppError('ink-unreadable', 'too long');
  const { traces, channels: told, papers } = read(xml);
  const channels = told.length >= 2 ? told : ['X', 'Y'];
  const [x, y, force, time] = CHANNELS.map((name) => channels.indexOf(name)) as [
    number,
    number,
    number,
    number,
  ];
  if (x < 0 || y < 0) throw new AppError('ink-unreadable', 'no X and Y');
  let clockUs: Us = 0;
  const strokes = traces.flatMap((trace): Placed[] => {
    const points = pointsOf(trace.text, channels.length);
    if (points.length === 0) return [];
    const placed = points.map((point) => ({
      us: time >= 0 ? Math.max(0, Math.round(point[time]! * 1_000)) : (clockUs += POINT_US),
      ...{ x: inWidths(point[x]!), y: inWidths(point[y]!) },
      pressure: force >= 0 ? Math.min(1, Math.max(0, point[force]!)) : 0.5,
    }));
    clockUs += LIFT_US;
    return [
      { pen: penOf(trace.told), text: trace.told['words'] ?? '', page: trace.page, points: placed },
    ];
  });
  if (strokes.length === 0) throw new AppError('ink-unreadable', 'no traces');
  const fitted = traces.every((trace) => 'tool' in trace.told) ? strokes : onPages(strokes);
  return recordsOf(fitted, papers, newId);
};

/** Ink in units that nobody knows: made to fit a page, with all pages as large as one another. */
const onPages = (strokes: readonly Placed[]): Placed[] => {
  const all = strokes.flatMap(({ points }) => points);
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  let firstUs = Infinity;
  for (const { x, y, us } of all) {
    [left, top] = [Math.min(left, x), Math.min(top, y)];
    [right, bottom] = [Math.max(right, x), Math.max(bottom, y)];
    firstUs = Math.min(firstUs, us);
  }
  const scale = Math.min(
    (1 - 2 * MARGIN) / Math.max(right - left, 1e-9),
    (1 / PAGE_ASPECT - 2 * MARGIN) / Math.max(bottom - top, 1e-9),
  );
  return strokes.map((stroke) => ({
    ...stroke,
    points: stroke.points.map((point) => ({
      ...point,
      us: point.us - firstUs,
      x: MARGIN + (point.x - left) * scale,
      y: MARGIN + (point.y - top) * scale,
    })),
  }));
};

const recordsOf = (
  strokes: readonly Placed[],
  papers: ReadonlyMap<string, string>,
  newId: () => Id,
): InkRecord[] => {
  const records: InkRecord[] = [];
  const pages = new Map<string, Id>();
  let shown = '';
  const inOrder = strokes
    .map((stroke) => ({ ...stroke, atUs: stroke.points[0]!.us }))
    .sort((a, b) => a.atUs - b.atUs);
  for (const { page, pen, text, points, atUs } of inOrder) {
    if (page !== shown) {
      const id = pages.get(page) ?? newId();
      pages.set(page, id);
      records.push({
        at: records.length === 0 ? 0 : atUs,
        do: 'page',
        page: id,
        paper: paperOf(papers.get(page)),
      });
      shown = page;
    }
    const stroke = newId();
    records.push({ at: atUs, do: 'begin', stroke, pen, ...(text ? { text } : {}) });
    let lastUs = atUs;
    for (let from = 0; from < points.length; from += MOST_SAMPLES) {
      const part = points.slice(from, from + MOST_SAMPLES);
      const at = Math.max(lastUs, part[0]!.us);
      lastUs = at;
      const samples = part.map(({ us, x, y, pressure }): InkSample => {
        const later = Math.max(0, us - lastUs);
        lastUs = Math.max(lastUs, us);
        return [later, inReach(x), inReach(y), pressure];
      });
      records.push({ at, do: 'draw', stroke, samples });
    }
    const ends = [points[0]!, points.at(-1)!].map(({ x, y, pressure }): InkSample => [
      ...([0, inReach(x), inReach(y)] as const),
      pressure,
    ]);
    records.push({
      at: lastUs,
      do: 'end',
      stroke,
      ...(isShape(pen.tool) ? { samples: ends } : {}),
    });
  }
  return records;
};

const inReach = (value: number) => Math.min(50, Math.max(-50, value));
