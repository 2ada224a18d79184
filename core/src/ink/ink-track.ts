import type { Id } from '../lesson/take';
import type { MaterialPage } from '../material/material';
import { countUpTo } from '../time/sorted';
import type { Us } from '../time/us';
import type { XY } from './page';
import type { Paper, Pen } from './pen';
import { NO_POINTER, PointerTrail, type PointerPath } from '../pointer/path';
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

export interface Turn {
  readonly atUs: Us;
  readonly page: Id;
  readonly paper: Paper;
  /** The page of a material that lies on it. */
  readonly of?: MaterialPage | undefined;
}

/** What was written and wiped, and on which pages. */
export interface Written {
  /** In the order in which they were begun. */
  readonly strokes: readonly Stroke[];
  /** Pages, in the order in which they were added. */
  readonly pages: readonly Id[];
  readonly turns: readonly Turn[];
  readonly views: readonly (PageView & { readonly atUs: Us })[];
}

/** What was written over a take, made ready for asking what there is to be seen at any time. */
export interface InkTrack extends Written {
  /** Each time at which something changes, in order, once; what fades changes all the while. */
  readonly changes: readonly Us[];
  readonly fades: readonly { readonly fromUs: Us; readonly toUs: Us }[];
  /** What was pointed at. It changes nothing that is written. */
  readonly pointer: PointerPath;
  /** What was changed about it after it was recorded. */
  readonly changed: readonly ChangedInk[];
}

/** Something about a track that isn't as it was recorded. */
export interface ChangedInk {
  /** Before this it looks as it was recorded. */
  readonly fromUs: Us;
  /** The page on which it can be seen; null: on any. */
  readonly page: Id | null;
  /** The change as canonical text. */
  readonly text: string;
}

/** How long fading takes. */
export const FADE_US = 600_000;

/** All of a page. */
export const WHOLE_VIEW: PageView = { x: 0, y: 0, zoom: 1 };
/** Before any page: nothing lies under the ink but what is there. */
const NO_PAPER: Paper = { ruling: 'none', shade: 'light' };
/** The page of what is written before any page was turned to. */
export const NO_PAGE = 'no-page';

type Growing = {
  -readonly [Key in keyof Stroke]: Stroke[Key] extends readonly (infer Of)[] ? Of[] : Stroke[Key];
};

/** Samples of a stroke as its points, one time after another. */
export const pointsOf = (samples: readonly InkSample[], fromUs: Us): InkPoint[] => {
  let atUs = fromUs;
  return samples.map(([later, x, y, pressure]) => ({ atUs: (atUs += later), x, y, pressure }));
};

/** When a stroke begins to fade; Infinity for one that doesn't. */
const fadesFrom = ({ pen, endUs }: Pick<Stroke, 'pen' | 'endUs'>): Us =>
  typeof pen.stays === 'number' ? endUs + pen.stays : Infinity;

/** Pages and what is on them, record by record. */
export class InkPages {
  readonly #strokes = new Map<Id, Growing>();
  readonly #all: Growing[] = [];
  readonly pages: Id[] = [];
  readonly turns: Turn[] = [];
  readonly views: (PageView & { atUs: Us })[] = [];
  #page: Id = NO_PAGE;

  /** In the order in which they were begun. */
  get strokes(): readonly Stroke[] {
    return this.#all;
  }

  /** Lays strokes on the page that is shown, as they are. */
  lay(strokes: readonly ShownStroke[]): void {
    for (const { stroke, points } of strokes) {
      const { id, text } = stroke;
      const laid: Growing = {
        ...{ id, page: this.#page, pen: { ...stroke.pen, stays: 'film' }, text },
        ...{ beganUs: 0, endUs: 0, points: [...points] },
        ...{ straightened: null, wiped: [], shifts: [] },
      };
      this.#strokes.set(id, laid);
      this.#all.push(laid);
    }
  }

  /** Adds what happened next. What is said of strokes that never began is left out. */
  add(record: InkRecord): void {
    const { at } = record;
    switch (record.do) {
      case 'page':
        this.#page = record.page;
        if (!this.pages.includes(record.page)) this.pages.push(record.page);
        this.turns.push({ atUs: at, page: record.page, paper: record.paper, of: record.of });
        this.views.push({ atUs: at, ...WHOLE_VIEW });
        return;
      case 'view':
        this.views.push({ atUs: at, x: record.x, y: record.y, zoom: record.zoom });
        return;
      case 'begin': {
        if (this.#strokes.has(record.stroke)) return;
        const { stroke: id, pen, text = '' } = record;
        const stroke: Growing = {
          ...{ id, page: this.#page, pen, text, beganUs: at, endUs: Infinity },
          ...{ points: [], straightened: null, wiped: [], shifts: [] },
        };
        this.#strokes.set(id, stroke);
        this.#all.push(stroke);
        return;
      }
      case 'draw':
      case 'end': {
        const stroke = this.#strokes.get(record.stroke);
        if (!stroke || stroke.endUs < Infinity) return;
        // Drawn on by a record that came late: never before what is there.
        const from = Math.max(at, stroke.points.at(-1)?.atUs ?? at);
        if (record.do === 'draw') {
          for (const point of pointsOf(record.samples, from)) stroke.points.push(point);
        } else {
          stroke.endUs = from;
          stroke.straightened = record.samples ? pointsOf(record.samples, from) : null;
        }
        return;
      }
      case 'point':
      case 'press':
      case 'release':
      case 'away':
        return;
      default:
        for (const id of record.strokes) this.#change(this.#strokes.get(id), record);
    }
  }

  #change(
    stroke: Growing | undefined,
    record: Extract<InkRecord, { do: 'wipe' | 'unwipe' | 'shift' }>,
  ): void {
    if (!stroke) return;
    const { wiped, shifts } = stroke;
    const last = wiped.at(-1);
    const isWiped = last?.toUs === Infinity;
    if (record.do === 'shift') shifts.push({ atUs: record.at, x: record.x, y: record.y });
    else if (record.do === 'wipe') {
      if (!isWiped) wiped.push({ fromUs: record.at, toUs: Infinity });
    } else if (isWiped) wiped[wiped.length - 1] = { ...last, toUs: record.at };
  }
}

/** Makes a track of what is on its pages. */
export const trackOfPages = (
  { strokes, pages, turns, views }: Written,
  pointer: PointerPath = NO_POINTER,
): InkTrack => {
  const changes = new Set<Us>([0]);
  for (const { atUs } of [...turns, ...views]) changes.add(atUs);
  for (const { beganUs, points, endUs, wiped, shifts } of strokes) {
    changes.add(beganUs);
    for (const { atUs } of [...points, ...shifts]) changes.add(atUs);
    for (const { fromUs, toUs } of wiped) changes.add(fromUs).add(toUs);
    changes.add(endUs);
  }
  changes.delete(Infinity);
  const fades = strokes.flatMap((stroke) => {
    const fromUs = fadesFrom(stroke);
    return fromUs < Infinity ? [{ fromUs, toUs: fromUs + FADE_US }] : [];
  });
  fades.forEach(({ fromUs, toUs }) => changes.add(fromUs).add(toUs));
  const ordered = [...changes].sort((a, b) => a - b);
  return { strokes, pages, turns, views, changes: ordered, fades, pointer, changed: [] };
};

/** Makes a track of its records, in order. */
export const inkTrackOf = (records: readonly InkRecord[]): InkTrack => {
  const written = new InkPages();
  const pointed = new PointerTrail();
  for (const record of records) {
    written.add(record);
    pointed.add(record);
  }
  return trackOfPages(written, pointed.path());
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
  /** The page of a material that lies on the paper, under the strokes. */
  readonly of?: MaterialPage | undefined;
  readonly view: PageView;
  /** The lower ones first. */
  readonly strokes: readonly ShownStroke[];
}

const lastUpTo = <T extends { readonly atUs: Us }>(list: readonly T[], us: Us): T | undefined =>
  list.findLast(({ atUs }) => atUs <= us);

/** Points that were moved, and by how many shifts: what is done and stays where it is remains the same value. */
const MOVED = new WeakMap<readonly InkPoint[], { shifts: number; moved: readonly InkPoint[] }>();

const movedBy = (points: readonly InkPoint[], shifts: Stroke['shifts']): readonly InkPoint[] => {
  if (shifts.length === 0) return points;
  const known = MOVED.get(points);
  if (known?.shifts === shifts.length) return known.moved;
  const [x, y] = shifts.reduce<XY>(([a, b], shift) => [a + shift.x, b + shift.y], [0, 0]);
  const moved = points.map((point) => ({ ...point, x: point.x + x, y: point.y + y }));
  MOVED.set(points, { shifts: shifts.length, moved });
  return moved;
};

const shownOf = (stroke: Stroke, us: Us): ShownStroke | null => {
  const { points, straightened, endUs, wiped, shifts, beganUs } = stroke;
  if (beganUs > us || wiped.some(({ fromUs, toUs }) => fromUs <= us && us < toUs)) return null;
  const opacity = Math.min(1, 1 - (us - fadesFrom(stroke)) / FADE_US);
  if (opacity <= 0) return null;
  const done = endUs <= us;
  const drawn = done ? (straightened ?? points) : points.filter(({ atUs }) => atUs <= us);
  const moved = movedBy(
    drawn,
    shifts.filter(({ atUs }) => atUs <= us),
  );
  return moved.length === 0 ? null : { stroke, points: moved, opacity, done };
};

/** The page that is shown at a time, by its name. */
export const pageNameAt = ({ turns }: Pick<Written, 'turns'>, us: Us): Id =>
  lastUpTo(turns, us)?.page ?? NO_PAGE;

/** What lies under the ink at a recorded time, and the part of it that is shown. */
export const groundAt = (
  { turns, views }: Pick<Written, 'turns' | 'views'>,
  us: Us,
): Pick<ShownPage, 'paper' | 'of' | 'view'> => {
  const turn = lastUpTo(turns, us);
  const { x, y, zoom } = lastUpTo(views, us) ?? WHOLE_VIEW;
  return { paper: turn?.paper ?? NO_PAPER, of: turn?.of, view: { x, y, zoom } };
};

/** What of the ink is to be seen at a recorded time. */
export const pageAt = (track: Written, us: Us): ShownPage => {
  const turn = lastUpTo(track.turns, us);
  const page = turn?.page ?? NO_PAGE;
  const strokes = track.strokes.flatMap((stroke) => {
    const { stays } = stroke.pen;
    if (stays !== 'film' && stroke.page !== page) return [];
    if (stays === 'turned' && turn && turn.atUs > stroke.beganUs) return [];
    return shownOf(stroke, us) ?? [];
  });
  return { index: track.pages.indexOf(page), ...groundAt(track, us), strokes };
};

/**
 * The time since which the ink has looked as it does at some time: equal times, equal looks. While something fades
 * it looks different at any time.
 */
export const unchangedSince = ({ changes, fades }: InkTrack, us: Us): Us =>
  fades.some(({ fromUs, toUs }) => fromUs <= us && us < toUs)
    ? us
    : (changes[countUpTo(changes, us) - 1] ?? 0);

/** Whether a look shows anything, remembered: it is asked for frame by frame. */
const SEEN = new WeakMap<InkTrack, Map<Us, boolean>>();

/** Whether anything is to be seen of the ink at a time since which it looks as it does: a page, or a stroke. */
export const isSomethingSeen = (track: InkTrack, sinceUs: Us): boolean => {
  const looks = SEEN.get(track) ?? new Map<Us, boolean>();
  SEEN.set(track, looks);
  let seen = looks.get(sinceUs);
  if (seen === undefined) {
    const { paper, strokes } = pageAt(track, sinceUs);
    seen = paper.ruling !== 'none' || strokes.length > 0;
    looks.set(sinceUs, seen);
  }
  return seen;
};

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
