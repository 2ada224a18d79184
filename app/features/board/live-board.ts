import { strokesAt } from '@under-chalk/core/ink/hit';
import { InkPages, pageAt, type ShownPage } from '@under-chalk/core/ink/ink-track';
import type { InkColour, InkTool, Paper, Pen, Staying } from '@under-chalk/core/ink/pen';
import { MOST_SAMPLES, type InkRecord, type InkSample } from '@under-chalk/core/ink/record';
import { straightened } from '@under-chalk/core/ink/straighten';
import { nowUs } from '../../capture/common-clock';
import { newId } from '../../capture/new-id';
import { LiveValue } from '../../data/live-value';

/** What the hand does: draws with a tool, or wipes. */
export type HandTool = Exclude<InkTool, 'text'> | 'wipe';

/** What the board's tools show, as one value. */
export interface BoardView {
  readonly tool: HandTool;
  readonly colour: InkColour;
  readonly width: keyof typeof WIDTHS;
  /** How long what is drawn from now on stays. */
  readonly stays: Staying;
  readonly paper: Paper;
  /** Which page is shown, from 0, and how many there are. */
  readonly page: number;
  readonly pages: number;
  /** Strokes on it. */
  readonly strokes: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** Widths of a line, fractions of the page's width. */
export const WIDTHS = { thin: 0.0028, middling: 0.0048, thick: 0.009 } as const;
/** A highlighter's line is so many times as wide. */
const HIGHLIGHTER_WIDTHS = 5;
/** Shorter strokes than this are not straightened. */
const LEAST_STRAIGHTENED = 0.05;
/** What a wiping finger touches, half its width. */
const WIPE_REACH = 0.012;

/** After everything that has happened. */
const NOW = Number.MAX_SAFE_INTEGER;

/** A place under the hand: fractions of the page's width, pressure 0 to 1, and when, µs of the common clock. */
export interface HandSample {
  readonly x: number;
  readonly y: number;
  readonly pressure: number;
  readonly atUs: number;
}

/** What undo takes back: strokes that were drawn, or wiped, in one go. */
interface Step {
  readonly did: 'draw' | 'wipe';
  readonly strokes: readonly string[];
}

const rounded = (value: number) => Math.round(value * 1e5) / 1e5;

/**
 * A board that is being written on. It holds what is on its pages, and tells each thing that happens as a record;
 * who listens records them.
 */
export class LiveBoard {
  readonly #shown: LiveValue<BoardView>;
  readonly subscribe: LiveValue<BoardView>['subscribe'];
  readonly view: () => BoardView;
  readonly #pages: string[] = [newId()];
  readonly #written = new InkPages();
  #listener: ((records: readonly InkRecord[]) => void) | null = null;
  readonly #watchers = new Set<() => void>();
  #done: Step[] = [];
  #undone: Step[] = [];
  /** The stroke under the hand, and when its last sample was. Straightened, it is done but for the lifting. */
  #drawing: {
    readonly id: string;
    readonly tool: HandTool;
    readonly straightened: boolean;
    lastUs: number;
    samples: InkSample[];
  } | null = null;
  #wiping: string[] | null = null;

  constructor(paper: Paper) {
    this.#shown = new LiveValue<BoardView>({
      ...{ tool: 'pen', colour: 'main', width: 'middling', stays: 'wiped', paper },
      ...{ page: 0, pages: 1, strokes: 0, canUndo: false, canRedo: false },
    });
    this.subscribe = this.#shown.subscribe;
    this.view = this.#shown.view;
    this.#tell({ at: nowUs(), do: 'page', page: this.#pages[0]!, paper });
  }

  /** What is on the page that is shown. */
  page(): ShownPage {
    return pageAt(this.#written, NOW);
  }

  /**
   * Has everything told from now on to a listener; null: to nobody. First what there is already, in as few records
   * as it takes.
   */
  tellTo(listener: ((records: readonly InkRecord[]) => void) | null): void {
    this.#listener = listener;
    listener?.(this.#asItIs());
  }

  #asItIs(): InkRecord[] {
    const at = nowUs();
    const { paper, page: shown } = this.view();
    const { strokes } = this.#written;
    const turn = (page: string): InkRecord => ({ at, do: 'page', page, paper });
    const all = this.#pages.flatMap((page): InkRecord[] => [
      turn(page),
      ...strokes
        .filter((stroke) => stroke.page === page && stroke.wiped.at(-1)?.toUs !== Infinity)
        .flatMap(({ id, pen, points, straightened }): InkRecord[] => {
          const samples = (straightened ?? points).map(({ x, y, pressure }): InkSample => [
            0,
            x,
            y,
            pressure,
          ]);
          const parts: InkRecord[] = [];
          for (let from = 0; from < samples.length; from += MOST_SAMPLES) {
            const part = samples.slice(from, from + MOST_SAMPLES);
            parts.push({ at, do: 'draw', stroke: id, samples: part });
          }
          return [{ at, do: 'begin', stroke: id, pen }, ...parts, { at, do: 'end', stroke: id }];
        }),
    ]);
    return shown === this.#pages.length - 1 ? all : [...all, turn(this.#pages[shown]!)];
  }

  /** Has something told whenever the page looks different. @returns ends it */
  onLooks(watcher: () => void): () => void {
    this.#watchers.add(watcher);
    return () => this.#watchers.delete(watcher);
  }

  choose(change: Partial<Pick<BoardView, 'tool' | 'colour' | 'width' | 'stays'>>): void {
    this.#set(change);
  }

  #pen(tool: InkTool): Pen {
    const { colour, width, stays } = this.view();
    const times = tool === 'highlighter' ? HIGHLIGHTER_WIDTHS : 1;
    return { tool, colour, width: WIDTHS[width] * times, stays };
  }

  /** The hand comes down. */
  down(sample: HandSample): void {
    const { tool } = this.view();
    if (tool === 'wipe') {
      this.#wiping = [];
      return this.#wipeAt(sample);
    }
    const id = newId();
    this.#drawing = { id, tool, straightened: false, lastUs: sample.atUs, samples: [] };
    this.#tell({ at: sample.atUs, do: 'begin', stroke: id, pen: this.#pen(tool) });
    this.#draw([sample]);
  }

  /** The hand goes on; nothing while it is up. */
  move(samples: readonly HandSample[]): void {
    if (this.#wiping) samples.forEach((sample) => this.#wipeAt(sample));
    else if (this.#drawing && !this.#drawing.straightened) this.#draw(samples);
  }

  #draw(samples: readonly HandSample[]): void {
    const drawing = this.#drawing!;
    const at = Math.max(drawing.lastUs, samples[0]?.atUs ?? 0);
    const told = samples
      .slice(0, MOST_SAMPLES)
      .map(({ x, y, pressure, atUs }, index): InkSample => {
        const later = index === 0 ? 0 : Math.max(0, Math.round(atUs - drawing.lastUs));
        drawing.lastUs = Math.max(drawing.lastUs, Math.round(atUs));
        return [later, rounded(x), rounded(y), rounded(pressure)];
      });
    if (told.length === 0) return;
    drawing.samples.push(...told);
    this.#tell({ at: Math.round(at), do: 'draw', stroke: drawing.id, samples: told });
  }

  /** The hand rests where it is: what it has drawn is straightened, if it was meant to be a line, a box or an ellipse. */
  rest(atUs = nowUs()): void {
    const drawing = this.#drawing;
    if (!drawing || drawing.tool !== 'pen' || drawing.straightened) return;
    const path = drawing.samples.map(([, x, y]) => [x, y] as const);
    const found = straightened(path, LEAST_STRAIGHTENED);
    if (!found) return;
    const at = Math.max(drawing.lastUs, Math.round(atUs));
    const id = newId();
    const samples = [found.from, found.to].map(([x, y]): InkSample => [
      0,
      rounded(x),
      rounded(y),
      0.5,
    ]);
    this.#tell({ at, do: 'end', stroke: drawing.id });
    this.#tell({ at, do: 'wipe', strokes: [drawing.id] });
    this.#drawing = { id, tool: found.tool, straightened: true, lastUs: at, samples };
    this.#tell({ at, do: 'begin', stroke: id, pen: this.#pen(found.tool) });
    this.#tell({ at, do: 'draw', stroke: id, samples });
  }

  /** The hand is lifted. */
  up(atUs = nowUs()): void {
    if (this.#wiping) {
      if (this.#wiping.length > 0) this.#did({ did: 'wipe', strokes: this.#wiping });
      this.#wiping = null;
      return;
    }
    const drawing = this.#drawing;
    if (!drawing) return;
    this.#drawing = null;
    const { id, tool, samples } = drawing;
    const at = Math.max(drawing.lastUs, Math.round(atUs));
    const [first, last] = [samples[0]!, samples.at(-1)!];
    const shape = tool !== 'pen' && tool !== 'highlighter';
    // A shape is its two corners; how the hand went from one to the other is no part of it.
    const corners = [first, last].map(([, x, y, pressure]): InkSample => [0, x, y, pressure]);
    this.#tell({ at, do: 'end', stroke: id, ...(shape ? { samples: corners } : {}) });
    // A shape without an extent is a slip of the hand.
    if (shape && Math.hypot(last[1] - first[1], last[2] - first[2]) < WIDTHS.thin) {
      this.#tell({ at, do: 'wipe', strokes: [id] });
    } else this.#did({ did: 'draw', strokes: [id] });
  }

  #wipeAt({ x, y, atUs }: HandSample): void {
    const touched = strokesAt(this.page().strokes, x, y, WIPE_REACH).map(({ stroke }) => stroke.id);
    if (touched.length === 0) return;
    this.#wiping!.push(...touched);
    this.#tell({ at: Math.round(atUs), do: 'wipe', strokes: touched });
  }

  undo(): void {
    this.#takeBack(this.#done, this.#undone, 'draw');
  }
  redo(): void {
    this.#takeBack(this.#undone, this.#done, 'wipe');
  }

  /** @param gone what a step did that makes its strokes go when it is taken back */
  #takeBack(from: Step[], to: Step[], gone: Step['did']): void {
    const step = from.pop();
    if (!step) return;
    to.push(step);
    const wipes = step.did === gone;
    this.#tell({ at: nowUs(), do: wipes ? 'wipe' : 'unwipe', strokes: step.strokes });
  }

  #did(step: Step): void {
    this.#done.push(step);
    this.#undone = [];
    this.#changed();
  }

  /** Turns to a page; to the one after the last: a new one. */
  turnTo(page: number): void {
    if (page < 0 || page > this.#pages.length) return;
    if (page === this.#pages.length) this.#pages.push(newId());
    // What was done on another page can't be seen being taken back.
    this.#done = [];
    this.#undone = [];
    this.#set({ page, pages: this.#pages.length });
    this.#tell({ at: nowUs(), do: 'page', page: this.#pages[page]!, paper: this.view().paper });
  }

  setPaper(paper: Paper): void {
    this.#set({ paper });
    this.turnTo(this.view().page);
  }

  #tell(record: InkRecord): void {
    this.#written.add(record);
    this.#listener?.([record]);
    this.#changed();
  }

  #changed(): void {
    this.#set({
      strokes: this.page().strokes.length,
      canUndo: this.#done.length > 0,
      canRedo: this.#undone.length > 0,
    });
    this.#watchers.forEach((watcher) => watcher());
  }

  #set(change: Partial<BoardView>): void {
    this.#shown.set({ ...this.view(), ...change });
  }
}
