import type { Id } from '../lesson/take';
import { countUpTo } from '../time/sorted';
import type { Us } from '../time/us';
import type { Paper, Pen } from './pen';
import type { InkRecord, InkSample } from './record';

/** A point of a stroke: where (fractions of the page's width), how hard (0 to 1), and when, recorded time. */
export interface InkPoint {
  readonly atUs: Us;
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
}

/** A stroke with all that happened to it. */
export interface Stroke {
  readonly id: Id;
  readonly page: Id;
  readonly pen: Pen;
  readonly text: string;
  readonly beganUs: Us;
  /** When it was done; Infinity for one that never was. */
  readonly endUs: Us;
  /** As it was drawn, in order of time. */
  readonly points: readonly InkPoint[];
  /** What it was made into when it was done; null where it stayed as it was drawn. */
  readonly straightened: readonly InkPoint[] | null;
  /** When it is not to be seen: half open, in order. */
  readonly wiped: readonly { readonly fromUs: Us; readonly toUs: Us }[];
  /** Where it has been moved, each to be added to those before. */
  readonly shifts: readonly { readonly atUs: Us; readonly x: number; readonly y: number }[];
}

/** A part of a page: the place of its upper left corner, and how much larger it is than the whole. */
export interface PageView {
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
}

interface Turn {
  readonly atUs: Us;
  readonly page: Id;
  readonly paper: Paper;
}

/** What was written and wiped over a take, made ready for asking what there is to be seen at any time. */
export interface InkTrack {
  /** In the order in which they were begun. */
  readonly strokes: readonly Stroke[];
  /** Pages, in the order in which they were added. */
  readonly pages: readonly Id[];
  readonly turns: readonly Turn[];
  readonly views: readonly (PageView & { readonly atUs: Us })[];
  /** Each time at which something changes, in order, once; what fades changes all the while. */
  readonly changes: readonly Us[];
  readonly fades: readonly { readonly fromUs: Us; readonly toUs: Us }[];
  readonly endUs: Us;
}

/** How long fading takes. */
export const FADE_US = 600_000;

const WHOLE_PAGE: PageView = { x: 0, y: 0, zoom: 1 };
/** Before any page: nothing lies under the ink but what is there. */
const NO_PAPER: Paper = { ruling: 'none', shade: 'light' };
/** The page of what is written before any page was turned to. */
const NO_PAGE = 'no-page';

type Growing = {
  -readonly [Key in keyof Stroke]: Stroke[Key] extends readonly (infer Of)[] ? Of[] : Stroke[Key];
};

const pointsOf = (samples: readonly InkSample[], fromUs: Us): InkPoint[] => {
  let atUs = fromUs;
  return samples.map(([later, x, y, pressure]) => ({ atUs: (atUs += later), x, y, pressure }));
};

/** When a stroke begins to fade; Infinity for one that doesn't. */
const fadesFrom = ({ pen, endUs }: Pick<Stroke, 'pen' | 'endUs'>): Us =>
  typeof pen.stays === 'number' ? endUs + pen.stays : Infinity;

/** Makes a track of its records, in order. What is said of strokes that never began is left out. */
export const inkTrackOf = (records: readonly InkRecord[]): InkTrack => {
  const strokes = new Map<Id, Growing>();
  const pages: Id[] = [];
  const turns: Turn[] = [];
  const views: (PageView & { atUs: Us })[] = [];
  const changes = new Set<Us>([0]);
  let page: Id = NO_PAGE;
  for (const record of records) {
    const { at } = record;
    changes.add(at);
    const named = 'strokes' in record ? record.strokes.flatMap((id) => strokes.get(id) ?? []) : [];
    const stroke = 'stroke' in record ? strokes.get(record.stroke) : undefined;
    switch (record.do) {
      case 'page':
        page = record.page;
        if (!pages.includes(page)) pages.push(page);
        turns.push({ atUs: at, page, paper: record.paper });
        views.push({ atUs: at, ...WHOLE_PAGE });
        break;
      case 'view':
        views.push({ atUs: at, x: record.x, y: record.y, zoom: record.zoom });
        break;
      case 'begin':
        if (stroke) break;
        strokes.set(record.stroke, {
          ...{ id: record.stroke, page, pen: record.pen, text: record.text ?? '', beganUs: at },
          ...{ endUs: Infinity, points: [], straightened: null, wiped: [], shifts: [] },
        });
        break;
      case 'draw': {
        if (!stroke || stroke.endUs < Infinity) break;
        // Drawn on by a record that came late: never before what is there.
        const points = pointsOf(record.samples, Math.max(at, stroke.points.at(-1)?.atUs ?? at));
        points.forEach(({ atUs }) => changes.add(atUs));
        stroke.points.push(...points);
        break;
      }
      case 'end':
        if (!stroke || stroke.endUs < Infinity) break;
        stroke.endUs = Math.max(at, stroke.points.at(-1)?.atUs ?? at);
        stroke.straightened = record.samples ? pointsOf(record.samples, stroke.endUs) : null;
        changes.add(stroke.endUs);
        break;
      case 'wipe':
        for (const { wiped } of named) {
          if ((wiped.at(-1)?.toUs ?? 0) < Infinity) wiped.push({ fromUs: at, toUs: Infinity });
        }
        break;
      case 'unwipe':
        for (const { wiped } of named) {
          const last = wiped.at(-1);
          if (last?.toUs === Infinity) wiped[wiped.length - 1] = { ...last, toUs: at };
        }
        break;
      case 'shift':
        for (const { shifts } of named) shifts.push({ atUs: at, x: record.x, y: record.y });
    }
  }
  const all = [...strokes.values()];
  const fades = all.flatMap((stroke) => {
    const fromUs = fadesFrom(stroke);
    return fromUs < Infinity ? [{ fromUs, toUs: fromUs + FADE_US }] : [];
  });
  fades.forEach(({ fromUs, toUs }) => changes.add(fromUs).add(toUs));
  const ordered = [...changes].sort((a, b) => a - b);
  const endUs = ordered.at(-1)!;
  return { strokes: all, pages, turns, views, changes: ordered, fades, endUs };
};

/** A stroke as it is to be seen at some time. */
export interface ShownStroke {
  readonly stroke: Stroke;
  /** Where it lies, with all that it has been moved by. */
  readonly points: readonly InkPoint[];
  /** 1 whole, less while it fades. */
  readonly opacity: number;
  /** It is done: nothing will be added to it. */
  readonly done: boolean;
}

/** A page as it is to be seen at some time. */
export interface ShownPage {
  /** Which of the pages it is, from 0; -1 where there are none. */
  readonly index: number;
  readonly paper: Paper;
  readonly view: PageView;
  /** The lower ones first. */
  readonly strokes: readonly ShownStroke[];
}

const lastUpTo = <T extends { readonly atUs: Us }>(list: readonly T[], us: Us): T | undefined =>
  list[
    countUpTo(
      list.map(({ atUs }) => atUs),
      us,
    ) - 1
  ];

const shownOf = (stroke: Stroke, us: Us): ShownStroke | null => {
  const { points, straightened, endUs, wiped, shifts, beganUs } = stroke;
  if (beganUs > us || wiped.some(({ fromUs, toUs }) => fromUs <= us && us < toUs)) return null;
  const opacity = Math.min(1, 1 - (us - fadesFrom(stroke)) / FADE_US);
  if (opacity <= 0) return null;
  const done = endUs <= us;
  const drawn =
    done && straightened ? straightened : done ? points : points.filter(({ atUs }) => atUs <= us);
  let [x, y] = [0, 0];
  for (const shift of shifts) {
    if (shift.atUs > us) break;
    x += shift.x;
    y += shift.y;
  }
  const moved =
    x === 0 && y === 0
      ? drawn
      : drawn.map((point) => ({ ...point, x: point.x + x, y: point.y + y }));
  return moved.length === 0 ? null : { stroke, points: moved, opacity, done };
};

/** What of the ink is to be seen at a recorded time. */
export const pageAt = (track: InkTrack, us: Us): ShownPage => {
  const turn = lastUpTo(track.turns, us);
  const page = turn?.page ?? NO_PAGE;
  const { x, y, zoom } = lastUpTo(track.views, us) ?? WHOLE_PAGE;
  const strokes = track.strokes.flatMap((stroke) => {
    const { stays } = stroke.pen;
    if (stays !== 'film' && stroke.page !== page) return [];
    if (stays === 'turned' && turn && turn.atUs > stroke.beganUs) return [];
    return shownOf(stroke, us) ?? [];
  });
  const paper = turn?.paper ?? NO_PAPER;
  return { index: track.pages.indexOf(page), paper, view: { x, y, zoom }, strokes };
};

/**
 * The time since which the ink has looked as it does at some time: equal times, equal looks. While something fades
 * it looks different at any time.
 */
export const unchangedSince = ({ changes, fades }: InkTrack, us: Us): Us =>
  fades.some(({ fromUs, toUs }) => fromUs <= us && us < toUs)
    ? us
    : (changes[countUpTo(changes, us) - 1] ?? 0);

/** Shorter pauses than this of a hand that writes are part of its moving. */
const PAUSE_US = 800_000;

/** When the ink is being changed: stretches of recorded time, in order, with the pauses between left out. */
export const writingIn = ({ changes, fades }: InkTrack): { startUs: Us; endUs: Us }[] => {
  const all = [
    ...changes.map((us) => ({ startUs: us, endUs: us })),
    ...fades.map(({ fromUs, toUs }) => ({ startUs: fromUs, endUs: toUs })),
  ].sort((a, b) => a.startUs - b.startUs);
  const runs: { startUs: Us; endUs: Us }[] = [];
  for (const { startUs, endUs } of all) {
    const last = runs.at(-1);
    if (last && startUs - last.endUs < PAUSE_US) last.endUs = Math.max(last.endUs, endUs);
    else runs.push({ startUs, endUs });
  }
  return runs;
};
