import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import type { LessonView, NewEntries } from '@under-chalk/core/contract/lessons';
import { applyEdit } from '@under-chalk/core/edit/apply-edit';
import type { Entry } from '@under-chalk/core/edit/edit';
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useSyncExternalStore,
} from 'react';
import { newId } from '../capture/new-id';
import { call, codeOf } from './client';
import { LiveValue } from './live-value';
import { KEYS } from './queries';
import { adoptWaiting, holdTab, keepWaiting } from './waiting-edits';

const RETRY_MS = 2_000;

/** How it stands with what this tab has decided and the server has not answered for. */
export interface EditState {
  readonly waiting: readonly Entry[];
  /** A code from the table of errors; null while all goes well. */
  readonly problem: string | null;
}

/** What a line needs of the rest: the way to the server, and what of the lesson is on the screen. */
export interface LessonDoor {
  /** @throws TellableError */
  send(edits: NewEntries): Promise<LessonView>;
  read(): LessonView | undefined;
  write(view: LessonView): void;
  refetch(): Promise<unknown>;
}

interface Waiting {
  readonly entry: Entry;
  /** The revision that was on the screen when it was made. */
  readonly seen: number;
}

/** Most edits sent at a time (the contract's own limit), and most of their text. */
const MOST_EDITS = 200;
const MOST_CHARACTERS = 300_000;

/** As much of a line as goes into one request; one at least. */
const batchOf = (line: readonly Waiting[]): Waiting[] => {
  let characters = 0;
  const end = line.findIndex(({ entry }, index) => {
    characters += JSON.stringify(entry).length;
    return index >= MOST_EDITS || (index > 0 && characters > MOST_CHARACTERS);
  });
  return line.slice(0, end < 0 ? line.length : end);
};

/**
 * The edits of one lesson on their way from this tab to the server, in order, one request at a time.
 * What the server can't be reached for waits and is tried again; what meets another tab's edit waits
 * for the teacher to choose.
 */
export class EditLine {
  readonly #lessonId: string;
  readonly #door: LessonDoor;
  readonly #tab = newId();
  readonly #shown = new LiveValue<EditState>({ waiting: [], problem: null });
  #line: Waiting[] = [];
  #sending = false;
  /** Settles when nothing is being sent. */
  #way: Promise<void> = Promise.resolve();
  /** Revision of the last answer: this tab's own edits up to it are no news to it. */
  #answered = 0;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #letGo: (() => void) | null = null;

  constructor(lessonId: string, door: LessonDoor) {
    this.#lessonId = lessonId;
    this.#door = door;
  }

  readonly subscribe = this.#shown.subscribe;
  readonly state = this.#shown.view;

  /** Takes up what closed tabs left behind, and sends. */
  open(): void {
    this.#letGo ??= holdTab(this.#tab);
    void adoptWaiting(this.#lessonId).then((left) => {
      const adopted = left.flatMap(({ baseRevision, entries }) =>
        entries.map((entry) => ({ entry, seen: baseRevision })),
      );
      if (adopted.length === 0) return;
      this.#line = [...adopted, ...this.#line];
      this.#changed(this.state().problem);
      void this.#send();
    });
    void this.#send();
  }

  /** Stops trying; what waits is kept in the browser for the next line of this lesson. */
  close(): void {
    if (this.#timer) clearTimeout(this.#timer);
    this.#timer = null;
    // What is on its way right now must not be taken up by another line, and sent twice.
    void this.#way.then(() => {
      this.#letGo?.();
      this.#letGo = null;
    });
  }

  /** Decides something: shown at once, sent in turn. */
  put(...entries: Entry[]): void {
    const seen = this.#door.read()?.lesson.revision ?? 0;
    this.#line.push(...entries.map((entry) => ({ entry, seen })));
    this.#changed(this.state().problem);
    void this.#send();
  }

  /** Tries anew what could not be sent. */
  retry(): void {
    void this.#send(false, true);
  }

  /** After another tab changed the same thing: this tab's change stands, or the other's does. */
  async settle(whose: 'mine' | 'theirs'): Promise<void> {
    if (whose === 'mine') return this.#send(true, true);
    this.#line = [];
    this.#changed(null);
    await this.#door.refetch();
  }

  #send(anyway = false, afresh = false): Promise<void> {
    if (this.#sending || this.#line.length === 0) return this.#way;
    // A choice of the teacher's, or a refusal, is waited for; an absent server is tried by the timer.
    if (this.state().problem && !afresh) return this.#way;
    this.#sending = true;
    this.#way = this.#sendAll(anyway);
    return this.#way;
  }

  async #sendAll(anyway: boolean): Promise<void> {
    const batch = batchOf(this.#line);
    try {
      const view = await this.#door.send({
        baseRevision: Math.max(this.#answered, Math.min(...batch.map(({ seen }) => seen))),
        entries: batch.map(({ entry }) => entry),
        anyway,
      });
      this.#line = this.#line.slice(batch.length);
      this.#answered = view.lesson.revision;
      this.#door.write(view);
      this.#changed(null);
    } catch (error) {
      const problem = codeOf(error);
      this.#changed(problem);
      if (problem === 'server-unreachable') {
        this.#timer = setTimeout(() => void this.#send(anyway, true), RETRY_MS);
      }
    } finally {
      this.#sending = false;
    }
    if (!this.state().problem && this.#line.length > 0 && this.#letGo) {
      this.#sending = true;
      await this.#sendAll(false);
    }
  }

  #changed(problem: string | null): void {
    const waiting = this.#line.map(({ entry }) => entry);
    keepWaiting(this.#lessonId, this.#tab, {
      baseRevision: Math.min(...this.#line.map(({ seen }) => seen), Number.MAX_SAFE_INTEGER),
      entries: waiting,
    });
    this.#shown.set({ waiting, problem });
  }
}

/**
 * A lesson with what waits laid over it, as the teacher has decided it. An undo can only be shown
 * once the server has answered: it alone has the whole list.
 */
export const withWaiting = (view: LessonView, waiting: readonly Entry[]): LessonView => {
  if (waiting.length === 0) return view;
  let { decisions } = view.lesson;
  for (const entry of waiting) {
    if (entry.do !== 'undo' && entry.do !== 'redo') decisions = applyEdit(decisions, entry);
  }
  return { ...view, lesson: { ...view.lesson, decisions } };
};

const doorOf = (client: QueryClient, lessonId: string): LessonDoor => ({
  send: (edits) => call('edit', { params: { lessonId }, body: edits }),
  read: () => client.getQueryData<LessonView>(KEYS.lesson(lessonId)),
  write: (view) => {
    // An answer to a question asked before would be older than this one.
    void client.cancelQueries({ queryKey: KEYS.lesson(lessonId) });
    client.setQueryData(KEYS.lesson(lessonId), view);
    void client.invalidateQueries({ queryKey: KEYS.lessons });
  },
  refetch: () => client.invalidateQueries({ queryKey: KEYS.lesson(lessonId) }),
});

export const EditLineContext = createContext<EditLine | null>(null);

/** The line of a lesson's edits, open while its page is. */
export const useNewEditLine = (lessonId: string): EditLine => {
  const client = useQueryClient();
  const line = useMemo(() => new EditLine(lessonId, doorOf(client, lessonId)), [lessonId, client]);
  useEffect(() => {
    line.open();
    return () => line.close();
  }, [line]);
  return line;
};

/** The state of a line, drawn anew when it changes. */
export const useEditState = (line: EditLine): EditState =>
  useSyncExternalStore(line.subscribe, line.state, line.state);

/** The way to decide something about the lesson whose page this is. */
export const useEdits = () => {
  const line = useContext(EditLineContext);
  if (!line) throw new Error('useEdits stands inside a lesson’s page');
  const state = useEditState(line);
  const put = useCallback((...entries: Entry[]) => line.put(...entries), [line]);
  return { line, state, put };
};
