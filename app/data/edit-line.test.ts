import type { NewEntries, PutDown } from '@under-chalk/core/contract/lessons';
import { conflictWith } from '@under-chalk/core/edit/conflict';
import { isEdit, type Act, type Edit } from '@under-chalk/core/edit/edit';
import type { Entry } from '@under-chalk/core/edit/entry';
import { continued, NEW_HISTORY, replay } from '@under-chalk/core/edit/history';
import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { lessonOf } from '@under-chalk/core/testing/lessons';
import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { EditLine } from './edit-line';
import { withWaiting } from './lesson-ahead';

const title = (text: string): Edit => ({ do: 'plan', set: { title: text } });
const unit = (text: string): Edit => ({ do: 'plan', set: { unit: text } });
const cut = (startUs: number): Edit => ({
  ...{ do: 'cut', takeId: 'take-one' },
  ...{ startUs, endUs: startUs + 1 },
});

/** A server's side of the door, kept in memory, that can be shut, can refuse, and can lose its answers. */
const door = () => {
  let history = NEW_HISTORY;
  const asked: NewEntries[] = [];
  let refuses: (edits: NewEntries) => ErrorCode | null = () => null;
  let losesAnswers = false;
  const view = () => ({
    lesson: { ...lessonOf([]), decisions: history.decisions, revision: history.entries.length },
    steps: history.steps,
    unknown: 0,
    making: {},
  });
  let shown = view();
  const send = async (edits: NewEntries): Promise<PutDown> => {
    asked.push(edits);
    const code = refuses(edits);
    if (code) throw new AppError(code);
    const own = new Set(edits.entries.map(({ id }) => id));
    const others = history.entries.slice(edits.baseRevision) as Entry[];
    const collided = edits.entries
      .filter(({ id }) => !edits.anyway?.includes(id))
      .filter(({ edit }) =>
        conflictWith(others.filter(({ id }) => !own.has(id)).map((other) => other.edit))(edit),
      )
      .map(({ id }) => id);
    history = continued(
      history,
      edits.entries.filter(({ id }) => !collided.includes(id)),
    );
    if (losesAnswers) throw new AppError('server-unreachable');
    const since = history.entries.slice(edits.baseRevision) as Entry[];
    const layable = since.every(({ edit }) => isEdit(edit));
    return {
      revision: history.entries.length,
      since,
      decisions: layable ? null : history.decisions,
      steps: history.steps,
      unknown: 0,
      collided,
    };
  };
  return {
    asked,
    refuse: (when: typeof refuses) => {
      refuses = when;
    },
    loseAnswers: (lost: boolean) => {
      losesAnswers = lost;
    },
    /** Another tab decides something. */
    other: (...acts: Act[]) => {
      history = continued(
        history,
        acts.map((edit, index) => ({
          id: `other-${history.entries.length + index}`,
          by: 'teacher' as const,
          edit,
        })),
      );
    },
    entries: () => history.entries,
    decisions: () => history.decisions,
    shown: () => shown,
    door: {
      send,
      read: () => shown,
      write: (next: typeof shown) => {
        shown = next;
      },
      refetch: async () => {
        shown = view();
      },
    },
  };
};

const breathe = () => new Promise((resolve) => setTimeout(resolve, 25));
const held: string[] = [];
globalThis.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
  localStorage.clear();
  held.length = 0;
  Object.defineProperty(navigator, 'locks', {
    configurable: true,
    value: {
      request: async (name: string, work: () => Promise<void>) => {
        held.push(name);
        await work();
        held.splice(held.indexOf(name), 1);
      },
      query: async () => ({ held: held.map((name) => ({ name })) }),
    },
  });
});

const opened = async (there = door()) => {
  const line = new EditLine('lesson-one', there.door);
  line.open();
  await breathe();
  return { there, line };
};
const idle = { waiting: [], held: [], problem: null };

describe('edits on their way', () => {
  it('are as many as they like: they go in batches that the server takes, no press divided', async () => {
    const { there, line } = await opened();
    for (let press = 0; press < 65; press++) {
      line.put(...Array.from({ length: 10 }, (_, index) => cut(press * 100 + index * 10)));
    }
    const words: Edit = {
      do: 'set-topic',
      topic: { id: 'point-one', text: '', show: '', words: 'x'.repeat(20_000), rank: 0 },
    };
    for (let times = 0; times < 40; times++) line.put(words);
    await breathe();
    expect(there.asked.every(({ entries }) => entries.length <= 200)).toBe(true);
    expect(there.asked.every((sent) => JSON.stringify(sent).length < 1_000_000)).toBe(true);
    for (const { entries } of there.asked) {
      const groups = entries.flatMap(({ group }) => group ?? []);
      for (const group of new Set(groups)) {
        expect(groups.filter((one) => one === group)).toHaveLength(10);
      }
    }
    expect(there.asked.flatMap(({ entries }) => entries)).toHaveLength(690);
    expect(line.state()).toEqual(idle);
    line.close();
  });

  it('go out in order, and what is decided while one is away goes with the next', async () => {
    const { there, line } = await opened();
    line.put(title('a'));
    line.put(title('b'));
    line.put(unit('4'));
    await breathe();
    expect(there.asked.map(({ entries }) => entries.length)).toEqual([1, 2]);
    expect(there.decisions().plan.title).toBe('b');
    // Its own first edit is no news to the second request.
    expect(there.asked.map(({ baseRevision }) => baseRevision)).toEqual([0, 1]);
    expect(there.shown().lesson.decisions).toEqual(there.decisions());
    expect(line.state()).toEqual(idle);
    line.close();
  });

  it('wait for a server that is away, in the browser too, and go from another tab when it is back', async () => {
    const { there, line } = await opened();
    there.refuse(() => 'server-unreachable');
    line.put(title('kept'));
    line.put(cut(10), cut(30));
    await breathe();
    expect(line.state()).toMatchObject({ problem: 'server-unreachable' });
    // One that is alive keeps its own.
    const beside = await opened(door());
    expect(beside.there.asked).toEqual([]);
    beside.line.close();
    line.close();
    await breathe();
    there.refuse(() => null);
    const next = await opened(there);
    await breathe();
    expect(there.decisions().plan.title).toBe('kept');
    expect(there.decisions().cuts).toHaveLength(2);
    expect(there.decisions()).toEqual(there.shown().lesson.decisions);
    next.line.close();
    await breathe();
    const last = await opened(there);
    expect(last.line.state()).toEqual(idle);
    expect(there.entries()).toHaveLength(3);
    last.line.close();
  });

  it('are put down once when an answer is lost', async () => {
    const { there, line } = await opened();
    there.loseAnswers(true);
    line.put(title('once'));
    line.put(cut(10));
    await breathe();
    there.loseAnswers(false);
    line.put(cut(50));
    line.retry();
    await breathe();
    expect(there.entries()).toHaveLength(3);
    expect(there.shown().lesson.decisions).toEqual(there.decisions());
    expect(line.state()).toEqual(idle);
    line.close();
  });

  it('that collide are asked about by themselves, and the rest of the line stands', async () => {
    const { there, line } = await opened();
    there.other(title('theirs'), unit('9'));
    line.put(title('mine'));
    line.put(cut(10));
    line.put(unit('5'));
    await breathe();
    expect(line.state()).toMatchObject({
      waiting: [],
      held: [
        { said: [{ words: 'changed the plan', of: null }] },
        { said: [{ words: 'changed the plan', of: null }] },
      ],
      problem: null,
    });
    expect(there.decisions().cuts).toHaveLength(1);
    expect(there.shown().lesson.decisions.plan).toMatchObject({ title: 'theirs', unit: '9' });
    const [mine, other] = line.state().held;
    line.resolve(mine!, 'mine');
    line.resolve(other!, 'theirs');
    await breathe();
    expect(line.state()).toEqual(idle);
    expect(there.decisions().plan).toMatchObject({ title: 'mine', unit: '9' });
    line.close();
  });

  it('that collided are asked about again by the next tab', async () => {
    const { there, line } = await opened();
    there.other(title('theirs'));
    line.put(title('mine'));
    await breathe();
    line.close();
    await breathe();
    const next = await opened(there);
    expect(next.line.state().held).toHaveLength(1);
    next.line.resolve(next.line.state().held[0]!, 'theirs');
    await breathe();
    next.line.close();
    await breathe();
    const last = await opened(there);
    expect(last.line.state()).toEqual(idle);
    last.line.close();
  });

  it('are not held up by one that is refused: it is known which, and can be left', async () => {
    const { there, line } = await opened();
    there.refuse(({ entries }) =>
      entries.some(({ edit }) => edit.do === 'plan') ? 'bad-request' : null,
    );
    line.put(cut(10));
    line.put(cut(20));
    line.put(title('refused'));
    line.put(cut(30));
    await breathe();
    expect(there.decisions().cuts).toHaveLength(2);
    expect(line.state().problem).toBe('bad-request');
    expect(line.state().waiting).toHaveLength(2);
    line.leave();
    await breathe();
    expect(there.decisions().cuts).toHaveLength(3);
    expect(line.state()).toEqual(idle);
    line.close();
  });

});

describe('a lesson with what waits laid over it', () => {
  const base = replay([{ id: 'entry-one', by: 'teacher', edit: cut(0) }]);
  const view = {
    lesson: { ...lessonOf([]), decisions: base.decisions },
    steps: base.steps,
    unknown: 0,
    making: {},
  };
  const waits = (id: string, edit: Act): Entry => ({ id, by: 'teacher', edit });
  it('shows decisions at once, and what undo would take back now', () => {
    const shown = withWaiting(view, [waits('entry-two', cut(50)), waits('entry-three', unit('4'))]);
    expect(shown.lesson.decisions.cuts).toHaveLength(2);
    expect(shown.steps.undo.map(({ entries }) => entries)).toEqual([['entry-one'], ['entry-two']]);
    expect(withWaiting(view, [])).toBe(view);
  });
  it('takes back at once what waits too, and leaves the rest to the server', () => {
    const undone = withWaiting(view, [
      waits('entry-two', cut(50)),
      waits('undo-two', { do: 'undo', entries: ['entry-two'] }),
      waits('undo-one', { do: 'undo', entries: ['entry-one'] }),
    ]);
    expect(undone.lesson.decisions.cuts).toHaveLength(1);
    expect(undone.steps.undo).toEqual([]);
    expect(undone.steps.redo.map(({ entries }) => entries)).toEqual([['entry-two'], ['entry-one']]);
  });
});
