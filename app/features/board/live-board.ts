import { wordsOn } from '@under-chalk/core/ink/in-words';
import { boundsOfAll } from '@under-chalk/core/ink/hit';
import {
  InkPages,
  pageAt,
  WHOLE_VIEW,
  type PageView,
  type ShownPage,
  type ShownStroke,
  type Stroke,
} from '@under-chalk/core/ink/ink-track';
import type { XY } from '@under-chalk/core/ink/page';
import type { Material, MaterialPage } from '@under-chalk/core/material/material';
import type { InkColour, InkTool, Paper, Pen, Staying } from '@under-chalk/core/ink/pen';
import { MOST_SAMPLES, type InkRecord, type InkSample } from '@under-chalk/core/ink/record';
import { LINE_HEIGHT } from '@under-chalk/core/ink/text';
import type { Rect } from '@under-chalk/core/scene/geometry';
import { nowUs } from '../../capture/common-clock';
import { newId } from '../../capture/new-id';
import { LiveValue } from '../../data/live-value';
import { BOARD, BoardStacks, type Page, type Stack } from './board-stacks';
import {
  rounded,
  stepOf,
  type Doing,
  type HandSample,
  type Step,
  type UnderHand,
} from './doing/doing';
import { Drawing } from './doing/drawing';
import { LivePointer, Pointing, type Pointed } from './doing/pointing';
import { selecting } from './doing/selecting';
import { Eraser } from './doing/eraser';
import { nearerView } from './page-view';

/** What the hand does: draws with a tool, wipes strokes or parts of them, or selects. */
export type HandTool = InkTool | 'wipe' | 'wipe-part' | 'select' | 'point';

/** What the board's tools show, as one value. */
export interface BoardView {
  readonly tool: HandTool;
  readonly colour: InkColour;
  readonly width: keyof typeof WIDTHS;
  /** How long what is drawn from now on stays. */
  readonly stays: Staying;
  /** Of the pages that have any. */
  readonly paper: Paper;
  /** Pages that belong together, by name; of which the one that is shown is. */
  readonly stacks: readonly Pick<Stack, 'id' | 'name'>[];
  readonly stack: string;
  /** Which page of it is shown, from 0, and how many it has. */
  readonly page: number;
  readonly pages: number;
  /** Strokes on it, and the words among them. */
  readonly strokes: number;
  readonly words: string;
  /** The part of it that is shown. */
  readonly part: PageView;
  /** Where words will be put, and how often that place was pointed at. */
  readonly textAt: XY;
  readonly textAsked: number;
  /** How many strokes are selected. */
  readonly selected: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** Widths of a line, fractions of the page's width. */
export const WIDTHS = { thin: 0.0028, middling: 0.0048, thick: 0.009 } as const;
/** A highlighter's line is so many times as wide, and letters so many times as high. */
export const TIMES: Partial<Record<InkTool, number>> = { highlighter: 5, text: 9 };

/** Where the first words of a page go. */
const FIRST_WORDS: XY = [0.08, 0.06];

/** After everything that has happened. */
const NOW = Number.MAX_SAFE_INTEGER;
const isWiped = ({ wiped }: Stroke) => wiped.at(-1)?.toUs === Infinity;

/**
 * A board that is being written on. It holds what is on its pages, and tells each thing that happens as a record;
 * who listens records them.
 */
export class LiveBoard {
  readonly #shown: LiveValue<BoardView>;
  readonly subscribe: LiveValue<BoardView>['subscribe'];
  readonly view: () => BoardView;
  readonly #stacks: BoardStacks;
  #written = new InkPages();
  /** Strokes of a picture that lies under the board, and shows them already; null where none does. */
  #laid: ReadonlySet<string> | null = null;
  #listener: ((records: readonly InkRecord[]) => void) | null = null;
  readonly #watchers = new Set<() => void>();
  #done: Step[] = [];
  #undone: Step[] = [];
  #doing: Doing | null = null;
  #selected: readonly string[] = [];
  #band: readonly [XY, XY] | null = null;
  readonly #pointer = new LivePointer({
    part: () => this.view().part,
    tell: (record) => {
      this.#listener?.([record]);
      this.#watchers.forEach((watcher) => watcher());
    },
  });
  readonly #hand: UnderHand = {
    strokes: () => this.page().strokes,
    zoom: () => this.view().part.zoom,
    pen: (tool) => this.#pen(tool),
    tell: (record) => this.#tell(record),
    did: (step) => this.#did(step),
    selected: () => this.selected(),
    select: (ids) => this.select(ids),
    band: (corners) => {
      this.#band = corners;
      this.#changed();
    },
  };

  /** @param over it begins with a page over what is captured, without paper */
  constructor(paper: Paper, over = false) {
    this.#stacks = new BoardStacks(over);
    this.#shown = new LiveValue<BoardView>({
      ...{ tool: 'pen', colour: over ? 'red' : 'main', width: 'middling', stays: 'wiped', paper },
      ...{ stacks: namesOf(this.#stacks), stack: this.#stacks.all()[0]!.id },
      ...{ page: 0, pages: 1, strokes: 0, words: '', part: WHOLE_VIEW, selected: 0 },
      ...{ textAt: FIRST_WORDS, textAsked: 0 },
      ...{ canUndo: false, canRedo: false },
    });
    this.subscribe = this.#shown.subscribe;
    this.view = this.#shown.view;
    this.#tell(this.#turn());
  }

  /** What is on the page that is shown. */
  page(): ShownPage {
    return pageAt(this.#written, NOW);
  }

  /** What is to be painted: without what the picture under it shows already. */
  toPaint(): ShownPage {
    const page = this.page();
    const laid = this.#laid;
    if (!laid) return page;
    const strokes = page.strokes.filter(
      ({ stroke }) => !laid.has(stroke.id) || stroke.shifts.length > 0,
    );
    return { ...page, strokes };
  }

  /**
   * Lies over a picture of a film from now on: what that shows can be selected, moved, and wiped, and what the hand
   * does to it is told. What was selected stays so. The picture is seen as near as it is.
   */
  lay({ strokes, view, paper }: ShownPage): void {
    this.abandon();
    this.#written = new InkPages();
    this.#laid = new Set(strokes.map(({ stroke }) => stroke.id));
    this.#written.add({
      at: 0,
      do: 'page',
      page: this.#shownPage().id,
      paper: { ...paper, ruling: 'none' },
    });
    this.#written.add({ at: 0, do: 'view', ...view });
    this.#written.lay(strokes);
    this.#done = [];
    this.#undone = [];
    this.#set({ part: view });
    this.#changed();
  }

  /** What is on some page of the stack that is shown, as a whole. */
  pageOf(index: number): ShownPage {
    const { strokes, pages, turns } = this.#written;
    const isShown = index === this.view().page;
    const { id, of } = this.#stack().pages[index]!;
    const turn = { atUs: NOW, page: id, paper: this.#paperOf(this.#stack().pages[index]!), of };
    return pageAt({ strokes, pages, turns: isShown ? turns : [turn], views: [] }, NOW);
  }

  /** The page of a material that lies on the one that is shown, and of which stack that is. */
  material(): { readonly stack: string; readonly of: MaterialPage } | null {
    const { id, pages } = this.#stack();
    const { of } = pages[this.view().page]!;
    return of ? { stack: id, of } : null;
  }

  /** Pages of materials that are likely to be turned to next. */
  near(): MaterialPage[] {
    const { page } = this.view();
    const { pages } = this.#stack();
    return [page + 1, page - 1].flatMap((index) => pages[index]?.of ?? []);
  }

  /** What is selected of the page that is shown. */
  selected(): readonly ShownStroke[] {
    const ids = new Set(this.#selected);
    return ids.size === 0 ? [] : this.page().strokes.filter(({ stroke }) => ids.has(stroke.id));
  }

  /** What is drawn round: what is selected, and the rectangle in which is being selected. */
  marks(): { readonly selected: Rect | null; readonly band: readonly [XY, XY] | null } {
    return { selected: boundsOfAll(this.selected()), band: this.#band };
  }

  /**
   * Has everything told from now on to a listener; null: to nobody. First what there is already, in as few records
   * as it takes.
   */
  tellTo(listener: ((records: readonly InkRecord[]) => void) | null): void {
    this.#listener = listener;
    listener?.(this.#asItIs());
  }

  #stack(): Stack {
    return this.#stacks.of(this.view().stack)!;
  }

  #shownPage(): Page {
    return this.#stack().pages[this.view().page]!;
  }

  #paperOf(page: Page, stack = this.#stack()): Paper {
    return this.#stacks.paperOf(stack, page, this.view().paper);
  }

  #turn(page = this.#shownPage(), stack = this.#stack(), at = nowUs()): InkRecord {
    const { id, of } = page;
    return { at, do: 'page', page: id, paper: this.#paperOf(page, stack), ...(of ? { of } : {}) };
  }

  #asItIs(): InkRecord[] {
    const at = nowUs();
    const { part } = this.view();
    const shown = this.#shownPage();
    let turned: Page | null = null;
    const all = this.#stacks.all().flatMap((stack) =>
      stack.pages.flatMap((page): InkRecord[] => {
        const strokes = this.#strokesOn(page);
        // A material has many pages, and most of them were never written on.
        if (stack.id !== BOARD && strokes.length === 0 && page !== shown) return [];
        turned = page;
        return [this.#turn(page, stack, at), ...strokes.flatMap((stroke) => recordsOf(stroke, at))];
      }),
    );
    if (turned !== shown) all.push(this.#turn(shown, this.#stack(), at));
    if (part.zoom !== 1) all.push({ at, do: 'view', ...part });
    return all;
  }

  #strokesOn({ id }: Page): Stroke[] {
    return this.#written.strokes.filter((stroke) => stroke.page === id && !isWiped(stroke));
  }

  /** Has something told whenever the page looks different. @returns ends it */
  onLooks(watcher: () => void): () => void {
    this.#watchers.add(watcher);
    return () => this.#watchers.delete(watcher);
  }

  choose(change: Partial<Pick<BoardView, 'tool' | 'colour' | 'width' | 'stays'>>): void {
    this.#set(change);
    if (change.tool) {
      this.#pointer.away(nowUs());
      this.select([]);
    }
  }

  #pen(tool: InkTool): Pen {
    const { colour, width, stays } = this.view();
    return { tool, colour, width: rounded(WIDTHS[width] * (TIMES[tool] ?? 1)), stays };
  }

  /** The hand comes down. */
  down(sample: HandSample): void {
    const { tool } = this.view();
    if (tool === 'text') return;
    if (tool === 'point') this.#doing = new Pointing(this.#pointer, sample);
    else if (tool === 'select') this.#doing = selecting(this.#hand, sample);
    else if (tool === 'wipe' || tool === 'wipe-part') {
      this.#doing = new Eraser(this.#hand, tool === 'wipe-part', sample);
    } else this.#doing = new Drawing(this.#hand, tool, sample);
  }

  /** Something points without being pressed: a mouse over the page, or keys. Nothing with another tool. */
  point(samples: readonly HandSample[]): void {
    if (this.view().tool === 'point' && !this.#doing) this.#pointer.move(samples);
  }

  /** Nothing points any more. */
  pointsAway(atUs = nowUs()): void {
    this.#pointer.away(atUs);
  }

  /** Where it was pointed at in the last moments, the latest last; and whether it is pressed. */
  pointed(atUs = nowUs()): Pointed {
    return this.#pointer.seen(atUs);
  }

  /** The hand is down. */
  isDown(): boolean {
    return this.#doing !== null;
  }

  /** The hand goes on; nothing while it is up. */
  move(samples: readonly HandSample[]): void {
    this.#doing?.move(samples);
  }

  /** The hand rests where it is. */
  rest(atUs = nowUs()): void {
    this.#doing?.rest?.(atUs);
  }

  /** The hand is lifted. */
  up(atUs = nowUs()): void {
    const doing = this.#doing;
    this.#doing = null;
    doing?.up(atUs);
  }

  /** What the hand does was not meant. */
  abandon(): void {
    const doing = this.#doing;
    this.#doing = null;
    doing?.abandon();
  }

  /** Words go here from now on. @param asked the place was pointed at, to write at once */
  placeText(at: XY, asked = false): void {
    const { textAsked } = this.view();
    this.#set({ textAt: at, textAsked: textAsked + (asked ? 1 : 0) });
    this.#watchers.forEach((watcher) => watcher());
  }

  /** Puts words on the page, where they go now; the next ones go below them. */
  write(text: string): void {
    const [at, stroke] = [nowUs(), newId()];
    const [x, y] = this.view().textAt;
    const pen = this.#pen('text');
    this.placeText([x, y + text.split('\n').length * LINE_HEIGHT * pen.width]);
    this.#tell({ at, do: 'begin', stroke, pen, text });
    this.#tell({ at, do: 'draw', stroke, samples: [[0, rounded(x), rounded(y), 0.5]] });
    this.#tell({ at, do: 'end', stroke });
    this.#did(stepOf({ drawn: [stroke] }));
  }

  select(ids: readonly string[]): void {
    this.#selected = ids;
    this.#changed();
  }

  /** Moves what is selected, widths of the page. */
  shift(x: number, y: number): void {
    const strokes = this.selected().map(({ stroke }) => stroke.id);
    if (strokes.length === 0) return;
    this.#tell({ at: nowUs(), do: 'shift', strokes, x, y });
    this.#did(stepOf({ moved: { strokes, x, y } }));
  }

  /** Wipes what is selected. */
  takeAway(): void {
    const strokes = this.selected().map(({ stroke }) => stroke.id);
    if (strokes.length === 0) return;
    this.#tell({ at: nowUs(), do: 'wipe', strokes });
    this.#selected = [];
    this.#did(stepOf({ wiped: strokes }));
  }

  undo(): void {
    const step = this.#done.pop();
    if (!step) return;
    this.#undone.push(step);
    this.#again({ drawn: step.wiped, wiped: step.drawn, moved: step.moved && turned(step.moved) });
  }

  redo(): void {
    const step = this.#undone.pop();
    if (!step) return;
    this.#done.push(step);
    this.#again(step);
  }

  #again({ drawn, wiped, moved }: Step): void {
    const at = nowUs();
    if (wiped.length > 0) this.#tell({ at, do: 'wipe', strokes: wiped });
    if (drawn.length > 0) this.#tell({ at, do: 'unwipe', strokes: drawn });
    if (moved) this.#tell({ at, do: 'shift', ...moved });
    this.#changed();
  }

  #did(step: Step): void {
    this.#done.push(step);
    this.#undone = [];
    this.#changed();
  }

  /** Turns to a page of the stack that is shown; to the one after the last: a new, blank one. */
  turnTo(page: number): void {
    const stack = this.#stack();
    if (page < 0 || page > stack.pages.length) return;
    if (page === stack.pages.length) this.#stacks.insert(stack, page - 1);
    this.#show(stack, page);
  }

  /** Turns to a stack: to the page of it that was shown last, or to another. Nothing where there is none of that name. */
  open(stackId: string, page?: number): void {
    const stack = this.#stacks.of(stackId);
    if (!stack) return;
    if (stack.pages.length === 0) this.#stacks.insert(stack, -1);
    this.#show(stack, Math.min(page ?? stack.last, stack.pages.length - 1));
  }

  /** Puts a blank page behind the one that is shown, and turns to it. */
  putBlank(): void {
    const stack = this.#stack();
    this.#show(stack, this.#stacks.insert(stack, this.view().page));
  }

  /** Puts a page behind the one that is shown on which its material lies with room to write beside it, and turns to it. */
  putBeside(): void {
    const of = this.material()?.of;
    if (!of) return;
    const stack = this.#stack();
    const page = { of: { ...of, beside: true } as const };
    this.#show(stack, this.#stacks.insert(stack, this.view().page, page));
  }

  #show(stack: Stack, page: number): void {
    this.abandon();
    this.#pointer.lifts();
    // What was done on another page can't be seen being taken back.
    this.#done = [];
    this.#undone = [];
    this.#selected = [];
    stack.last = page;
    const { id, pages } = stack;
    const turned = { stack: id, page, pages: pages.length };
    this.#set({ ...turned, part: WHOLE_VIEW, textAt: FIRST_WORDS });
    this.#tell(this.#turn());
  }

  /** Offers what is ready of some materials, and nothing else any more but what was written on. */
  bring(materials: readonly Material[]): void {
    const shown = this.view().stack;
    const keeps = (stack: Stack) =>
      stack.id === shown || stack.pages.some((page) => this.#strokesOn(page).length > 0);
    if (this.#stacks.bring(materials, keeps)) this.#set({ stacks: namesOf(this.#stacks) });
  }

  setPaper(paper: Paper): void {
    this.#set({ paper });
    this.turnTo(this.view().page);
  }

  /** Shows a part of the page. */
  show(part: PageView): void {
    if (this.#laid) return;
    const { x, y, zoom } = nearerView(part);
    const before = this.view().part;
    if (before.x === x && before.y === y && before.zoom === zoom) return;
    this.#set({ part: { x, y, zoom } });
    this.#tell({ at: nowUs(), do: 'view', x, y, zoom });
  }

  #tell(record: InkRecord): void {
    this.#written.add(record);
    this.#listener?.([record]);
    // While a hand draws nothing comes to the page, and nothing leaves it.
    if (record.do === 'draw') this.#watchers.forEach((watcher) => watcher());
    else this.#changed();
  }

  #changed(): void {
    const { strokes } = this.page();
    const on = new Set(strokes.map(({ stroke }) => stroke.id));
    this.#selected = this.#selected.filter((id) => on.has(id));
    this.#set({
      strokes: strokes.length,
      words: wordsOn({ strokes }),
      selected: this.#selected.length,
      canUndo: this.#done.length > 0,
      canRedo: this.#undone.length > 0,
    });
    this.#watchers.forEach((watcher) => watcher());
  }

  #set(change: Partial<BoardView>): void {
    this.#shown.set({ ...this.view(), ...change });
  }
}

const namesOf = (stacks: BoardStacks) => stacks.all().map(({ id, name }) => ({ id, name }));

const turned = ({ strokes, x, y }: NonNullable<Step['moved']>) => ({ strokes, x: -x, y: -y });

/** A stroke as it is now, in as few records as it takes. */
const recordsOf = (stroke: Stroke, at: number): InkRecord[] => {
  const { id, pen, text, points, straightened, shifts } = stroke;
  const [x, y] = shifts.reduce<XY>(([a, b], by) => [a + by.x, b + by.y], [0, 0]);
  const samples = (straightened ?? points).map((point): InkSample => [
    ...([0, rounded(point.x + x), rounded(point.y + y)] as const),
    point.pressure,
  ]);
  const parts: InkRecord[] = [];
  for (let from = 0; from < samples.length; from += MOST_SAMPLES) {
    parts.push({ at, do: 'draw', stroke: id, samples: samples.slice(from, from + MOST_SAMPLES) });
  }
  const begun: InkRecord = { at, do: 'begin', stroke: id, pen, ...(text ? { text } : {}) };
  return [begun, ...parts, { at, do: 'end', stroke: id }];
};
