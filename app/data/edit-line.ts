import {
  MOST_ENTRIES,
  type LessonView,
  type NewEntries,
  type PutDown,
} from '@under-chalk/core/contract/lessons';
import { conflictWith } from '@under-chalk/core/edit/conflict';
import { isEdit, type Act } from '@under-chalk/core/edit/edit';
import { saidOf, type Said } from '@under-chalk/core/edit/steps';
import { entriesOf, isKnown, type Entry } from '@under-chalk/core/edit/entry';
import { newId } from '../capture/new-id';
import { codeOf } from './client';
import { viewAfter } from './lesson-ahead';
import { LiveValue } from './live-value';
import { holdTab, nextOrder, WaitingEdits, type Waiting } from './waiting-edits';

const RETRY_MS = 2_000;

/** A press that was not put down: somebody else decided otherwise in between. */
export interface HeldPress {
  readonly ids: readonly string[];
  /** What was done. */
  readonly said: readonly Said[];
}

/** How it stands with what this tab has decided and the server has not answered for. */
export interface EditState {
  /** What is on its way, in order. */
  readonly waiting: readonly Entry[];
  /** What waits for the teacher to choose. */
  readonly held: readonly HeldPress[];
  /** A code from the table of errors; null while all goes well. */
  readonly problem: string | null;
}

/** What a line needs of the rest: the way to the server, and what of the lesson is on the screen. */
export interface LessonDoor {
  /** @throws AppError */
  send(edits: NewEntries): Promise<PutDown>;
  read(): LessonView | undefined;
  write(view: LessonView): void;
  refetch(): Promise<unknown>;
}

/** Most text of edits that is sent at a time. */
const MOST_CHARACTERS = 300_000;

const pressOf = ({ entry }: Waiting): string => entry.group ?? entry.id;

/** Divides edits into what belongs to one press each. */
const presses = (line: readonly Waiting[]): Waiting[][] => {
  const all: Waiting[][] = [];
  for (const one of line) {
    const last = all.at(-1);
    if (last && pressOf(last[0]!) === pressOf(one)) last.push(one);
    else all.push([one]);
  }
  return all;
};

/** As much of a line as goes into one request: whole presses, unless a single one is too large. */
const batchOf = (line: readonly Waiting[]): Waiting[] => {
  const batch: Waiting[] = [];
  let characters = 0;
  for (const press of presses(line)) {
    const size = press.reduce((sum, { entry }) => sum + JSON.stringify(entry).length, 0);
    const fits = batch.length + press.length <= MOST_ENTRIES && characters + size <= MOST_CHARACTERS;
    if (!fits && batch.length > 0) break;
    batch.push(...press);
    characters += size;
  }
  return batch.slice(0, MOST_ENTRIES);
};

const saidIn = ({ edit }: Entry): Said =>
  isEdit(edit) ? saidOf(edit) : { words: edit.do === 'undo' ? 'undid it' : 'redid it', of: null };

/**
 * The edits of one lesson on their way from this tab to the server, in order, one request at a time. What the
 * server can't be reached for waits and is tried again. What another has decided otherwise waits by itself for
 * the teacher to choose, and the rest of the line goes on.
 */
export class EditLine {
  readonly #lessonId: string;
  readonly #door: LessonDoor;
  readonly #tab = newId();
  readonly #kept: WaitingEdits;
  readonly #shown = new LiveValue<EditState>({ waiting: [], held: [], problem: null });
  #line: Waiting[] = [];
  #held: Waiting[] = [];
  /** Ids that are put down whatever was decided in between: the teacher has chosen. */
  readonly #anyway = new Set<string>();
  #sending = false;
  /** After a refusal, press by press: so it is known which one is refused. */
  #singly = false;
  /** Processes when nothing is being sent. */
  #way: Promise<void> = Promise.resolve();
  /** Revision of the last answer: this tab's own edits up to it are no news to it. */
  #answered = 0;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #letGo: (() => void) | null = null;

  constructor(lessonId: string, door: LessonDoor) {
    this.#lessonId = lessonId;
    this.#door = door;
    this.#kept = new WaitingEdits(lessonId, this.#tab);
  }

  readonly subscribe = this.#shown.subscribe;
  readonly state = this.#shown.view;

  /** Takes up what closed tabs left behind, and sends. */
  open(): void {
    this.#letGo ??= holdTab(this.#tab);
    this.#kept.ready();
    void this.#adopt();
    void this.#send(true);
  }

  async #adopt(): Promise<void> {
    const adopted = await this.#kept.adopt();
    const mine = new Set([...this.#line, ...this.#held].map(({ entry }) => entry.id));
    const fresh = adopted.filter(({ entry }) => !mine.has(entry.id));
    if (fresh.length === 0) return;
    this.#line = [...fresh.filter((one) => !one.held), ...this.#line];
    this.#held = [...fresh.filter((one) => one.held), ...this.#held];
    this.#changed(this.state().problem);
    await this.#send();
  }

  /** Stops trying; what waits is kept in the browser for the next line of this lesson. */
  close(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
    // Sent twice it would be put down once; but another line would show it as waiting.
    void this.#way.then(() => {
      this.#letGo?.();
      this.#letGo = null;
    });
  }

  /** Decides something, with one press: shown at once, sent in turn, undone together. */
  put(...acts: Act[]): void {
    const seen = this.#door.read()?.lesson.revision ?? 0;
    const made = entriesOf(acts, newId).map((entry) => ({
      ...{ entry, seen, held: false },
      order: nextOrder(),
    }));
    this.#line.push(...made);
    void this.#kept.keep(made);
    this.#changed(this.state().problem);
    void this.#send();
  }

  /** Tries anew what could not be sent. */
  retry(): void {
    void this.#send(true);
  }

  /** Leaves the press that is refused; what came after it goes on. */
  leave(): void {
    const refused = presses(this.#line)[0] ?? [];
    this.#line = this.#line.slice(refused.length);
    void this.#kept.letGo(refused.map(({ entry }) => entry.id));
    this.#changed(null);
    void this.#send(true);
  }

  /** After somebody else decided otherwise: this tab's press stands, or the other's does. */
  resolve({ ids }: HeldPress, whose: 'mine' | 'theirs'): void {
    const chosen = this.#held.filter(({ entry }) => ids.includes(entry.id));
    this.#held = this.#held.filter((one) => !chosen.includes(one));
    if (whose === 'theirs') {
      void this.#kept.letGo(ids);
      this.#changed(this.state().problem);
      return;
    }
    ids.forEach((id) => this.#anyway.add(id));
    const again = chosen.map((one) => ({ ...one, held: false }));
    this.#line = [...again, ...this.#line];
    void this.#kept.keep(again);
    this.#changed(this.state().problem);
    void this.#send();
  }

  #send(afresh = false): Promise<void> {
    if (this.#sending || this.#line.length === 0) return this.#way;
    // A refusal is waited for; an absent server is tried by the timer.
    if (this.state().problem && !afresh) return this.#way;
    this.#sending = true;
    this.#way = this.#sendAll().finally(() => {
      this.#sending = false;
    });
    return this.#way;
  }

  async #sendAll(): Promise<void> {
    // A line that is closed lets what waits go from another.
    while (this.#line.length > 0 && this.#letGo) {
      const batch = this.#singly ? batchOf(presses(this.#line)[0]!) : batchOf(this.#line);
      const ids = batch.map(({ entry }) => entry.id);
      const baseRevision = Math.max(this.#answered, Math.min(...batch.map(({ seen }) => seen)));
      try {
        const answer = await this.#door.send({
          baseRevision,
          entries: batch.map(({ entry }) => entry),
          anyway: ids.filter((id) => this.#anyway.has(id)),
        });
        await this.#answeredFor(batch, baseRevision, answer);
      } catch (error) {
        const problem = codeOf(error);
        const away = problem === 'server-unreachable';
        if (!away && !this.#singly && presses(batch).length > 1) {
          this.#singly = true;
          continue;
        }
        this.#changed(problem);
        if (away) this.#timer = setTimeout(() => void this.#send(true), RETRY_MS);
        return;
      }
    }
  }

  async #answeredFor(
    batch: readonly Waiting[],
    baseRevision: number,
    answer: PutDown,
  ): Promise<void> {
    const collided = new Set(answer.collided);
    const [held, put] = [true, false].map((whether) =>
      batch.filter(({ entry }) => collided.has(entry.id) === whether),
    ) as [Waiting[], Waiting[]];
    this.#line = this.#line.slice(batch.length);
    held.push(...this.#takeOutClashing(batch, answer));
    this.#held = [...this.#held, ...held.map((one) => ({ ...one, held: true }))];
    this.#answered = answer.revision;
    if (this.#line.length === 0) this.#singly = false;
    const now = this.#door.read();
    const view = now ? viewAfter(now, baseRevision, answer) : null;
    if (view) this.#door.write(view);
    this.#changed(null);
    for (const { entry } of put) this.#anyway.delete(entry.id);
    void this.#kept.letGo(put.map(({ entry }) => entry.id));
    if (held.length > 0) void this.#kept.keep(held.map((one) => ({ ...one, held: true })));
    if (now && !view) await this.#door.refetch();
  }

  /** What waits behind a batch was made without having seen what the answer tells of: what clashes is held. */
  #takeOutClashing(batch: readonly Waiting[], { since, revision }: PutDown): Waiting[] {
    const own = new Set(batch.map(({ entry }) => entry.id));
    const others = since.filter(isKnown).filter(({ id, by }) => by === 'teacher' && !own.has(id));
    if (others.length === 0) return [];
    const clashes = conflictWith(others.map(({ edit }) => edit));
    const clashing = presses(this.#line).filter((press) =>
      press.some(
        ({ entry, seen }) =>
          seen < revision && !this.#anyway.has(entry.id) && clashes(entry.edit),
      ),
    );
    const out = new Set(clashing.flat());
    this.#line = this.#line.filter((one) => !out.has(one));
    return [...out];
  }

  #changed(problem: string | null): void {
    this.#shown.set({
      waiting: this.#line.map(({ entry }) => entry),
      held: presses(this.#held).map((press) => ({
        ids: press.map(({ entry }) => entry.id),
        said: press.map(({ entry }) => saidIn(entry)),
      })),
      problem,
    });
  }
}
