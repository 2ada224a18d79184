import { NO_PAGE, pageAt, pageNameAt, type InkTrack } from '@under-chalk/core/ink/ink-track';
import type { InkRecord } from '@under-chalk/core/ink/record';
import { editsOf, type Appearing } from '@under-chalk/core/ink/written-after';
import type { Edit } from '@under-chalk/core/edit/edit';
import type { Decisions } from '@under-chalk/core/edit/decisions';
import type { Us } from '@under-chalk/core/time/us';
import { nowUs } from '../../../capture/common-clock';
import { LiveBoard } from '../../board/live-board';

/** The place of a film that is written on. */
export interface WritingPlace {
  readonly takeId: string;
  readonly takeUs: Us;
  readonly playing: boolean;
  /** What is written on the take; null where nothing is. */
  readonly track: InkTrack | null;
  readonly changes: Decisions['inkChanges'];
}

const NOTHING = pageAt({ strokes: [], pages: [], turns: [], views: [] }, 0);

/**
 * Writing on a film: a board lies over the picture, with what the picture shows there laid on it. What the hand does
 * becomes edits when it is lifted; the picture then shows them, and they are laid on the board in turn.
 */
export class FilmWriting {
  readonly board = new LiveBoard({ ruling: 'plain', shade: 'light' }, true);
  #put: (edits: readonly Edit[]) => void = () => undefined;
  #nowAt: () => Us | null = () => null;
  #appearing: Appearing = 'at-once';
  #place: WritingPlace | null = null;
  #laid: ReadonlySet<string> = new Set();
  #waiting: InkRecord[] = [];
  /** What is to be selected as soon as it is there. */
  #wished: readonly string[] = [];

  /**
   * Listens to the hand.
   *
   * @param put has what it does put down
   * @param nowAt tells where a film that plays is now, recorded time; null outside the film
   * @returns ends it
   */
  start(put: (edits: readonly Edit[]) => void, nowAt: () => Us | null): () => void {
    this.#put = put;
    this.#nowAt = nowAt;
    let listens = false;
    this.board.tellTo((records) => {
      if (!listens) return;
      this.#waiting.push(...records);
      queueMicrotask(() => this.#flush());
    });
    listens = true;
    return () => this.board.tellTo(null);
  }

  /** How what is written from now on comes into the picture, where it stands. */
  appear(appearing: Appearing): void {
    this.#appearing = appearing;
  }

  /** The picture shows another moment, or looks different there. While the hand is down it is left alone. */
  lay(place: WritingPlace): void {
    if (this.board.isDown()) return;
    this.#place = place;
    const { track, takeUs } = place;
    const page = track ? pageAt(track, takeUs) : NOTHING;
    const selected = [...this.#wished, ...this.board.selected().map(({ stroke }) => stroke.id)];
    this.#laid = new Set(page.strokes.map(({ stroke }) => stroke.id));
    this.board.lay(page);
    const there = selected.filter((id) => this.#laid.has(id));
    if (there.length > 0) this.#wished = [];
    this.board.select(there);
  }

  /** Selects strokes, now or as soon as the picture shows them. */
  select(ids: readonly string[]): void {
    this.board.choose({ tool: 'select' });
    this.board.select([]);
    this.#wished = ids.filter((id) => !this.#laid.has(id));
    this.board.select(ids.filter((id) => this.#laid.has(id)));
  }

  #flush(): void {
    const place = this.#place;
    if (this.board.isDown() || this.#waiting.length === 0 || !place) return;
    const records = this.#waiting;
    this.#waiting = [];
    const { takeId, takeUs, track, playing, changes } = place;
    const page = track ? pageNameAt(track, takeUs) : NO_PAGE;
    const now = nowUs();
    const filmAt = this.#nowAt() ?? takeUs;
    const edits = editsOf(records, this.#laid, changes, {
      takeId,
      page: page === NO_PAGE ? null : page,
      // While it plays, what is drawn belongs where the film was when the hand came down.
      takeUs: (at) => (playing ? Math.max(0, Math.round(filmAt - (now - at))) : takeUs),
      appearing: playing ? 'as-drawn' : this.#appearing,
    });
    if (edits.length > 0) this.#put(edits);
  }
}
