import type { LessonView, NewEntries } from '@under-chalk/core/contract/lessons';
import type { Edit, Entry } from '@under-chalk/core/edit/edit';
import { TellableError, type ErrorCode } from '@under-chalk/core/errors/errors';
import { replay } from '@under-chalk/core/edit/history';
import { lessonOf } from '@under-chalk/core/lesson/examples';
import { EditLine, withWaiting } from './edits';

const title = (text: string): Edit => ({ do: 'plan', set: { title: text } });
const unit = (text: string): Edit => ({ do: 'plan', set: { unit: text } });

/** A server's side of the door, kept in memory, that can be shut and can refuse. */
const door = () => {
  const entries: Entry[] = [];
  const asked: NewEntries[] = [];
  let refusal: ErrorCode | null = null;
  const view = (): LessonView => {
    const { decisions, canUndo, canRedo } = replay(entries);
    return { lesson: { ...lessonOf([]), decisions, revision: entries.length }, canUndo, canRedo };
  };
  let shown: LessonView = view();
  return {
    asked,
    refuse: (code: ErrorCode | null) => {
      refusal = code;
    },
    title: () => view().lesson.decisions.plan.title,
    send: async (edits: NewEntries) => {
      asked.push(edits);
      if (refusal && !(refusal === 'changed-elsewhere' && edits.anyway)) {
        throw new TellableError(refusal);
      }
      entries.push(...edits.entries);
      return view();
    },
    read: () => shown,
    write: (next: LessonView) => {
      shown = next;
    },
    refetch: async () => {
      shown = view();
    },
  };
};

const breathe = () => new Promise((resolve) => setTimeout(resolve, 5));
beforeEach(() => localStorage.clear());

describe('edits on their way', () => {
  it('are as many as they like: they go in batches that the server takes', async () => {
    const there = door();
    const line = new EditLine('lesson-one', there);
    line.open();
    const cut = (startUs: number): Edit => ({
      do: 'cut',
      takeId: 'take-one',
      startUs,
      endUs: startUs + 1,
    });
    line.put(...Array.from({ length: 650 }, (_, index) => cut(index * 10)));
    const words: Edit = {
      do: 'set-point',
      point: { id: 'point-one', text: '', show: '', words: 'x'.repeat(20_000), rank: 0 },
    };
    line.put(...Array(40).fill(words));
    await breathe();
    expect(there.asked.every(({ entries }) => entries.length <= 200)).toBe(true);
    expect(there.asked.every((sent) => JSON.stringify(sent).length < 1_000_000)).toBe(true);
    expect(there.asked.flatMap(({ entries }) => entries)).toHaveLength(690);
    expect(line.state().waiting).toEqual([]);
  });
  it('go out in order, and what is decided while one is away goes with the next', async () => {
    const there = door();
    const line = new EditLine('lesson-one', there);
    line.open();
    line.put(title('a'));
    line.put(title('b'));
    line.put(unit('4'));
    await breathe();
    expect(there.asked.map(({ entries }) => entries.length)).toEqual([1, 2]);
    expect(there.title()).toBe('b');
    // Its own first edit is no news to the second request.
    expect(there.asked.map(({ baseRevision }) => baseRevision)).toEqual([0, 1]);
    expect(line.state()).toEqual({ waiting: [], problem: null });
  });

  it('wait for a server that is away, in the browser too, and go when it is back', async () => {
    const there = door();
    there.refuse('server-unreachable');
    const line = new EditLine('lesson-one', there);
    line.open();
    line.put(title('kept'));
    await breathe();
    expect(line.state()).toEqual({ waiting: [title('kept')], problem: 'server-unreachable' });
    expect(Object.keys(localStorage)).toHaveLength(1);
    there.refuse(null);
    line.retry();
    await breathe();
    expect(there.title()).toBe('kept');
    expect(Object.keys(localStorage)).toHaveLength(0);
    line.close();
  });

  it('wait for a choice when another tab decided the same thing', async () => {
    const there = door();
    there.refuse('changed-elsewhere');
    const line = new EditLine('lesson-one', there);
    line.open();
    line.put(title('mine'));
    await breathe();
    line.put(unit('5'));
    await breathe();
    expect(there.asked).toHaveLength(1);
    await line.settle('mine');
    expect(there.asked.at(-1)).toMatchObject({ anyway: true, entries: [title('mine'), unit('5')] });
    expect(line.state().problem).toBeNull();
    expect(there.title()).toBe('mine');
  });

  it('are let go of when the other stands', async () => {
    const there = door();
    there.refuse('changed-elsewhere');
    const line = new EditLine('lesson-one', there);
    line.open();
    line.put(title('mine'));
    await breathe();
    await line.settle('theirs');
    expect(line.state()).toEqual({ waiting: [], problem: null });
    expect(there.title()).toBe('');
  });
});

describe('a lesson with what waits laid over it', () => {
  const view: LessonView = { lesson: lessonOf([]), canUndo: true, canRedo: false };
  it('shows decisions at once, and leaves an undo to the server', () => {
    const shown = withWaiting(view, [title('now'), { do: 'undo' }]);
    expect(shown.lesson.decisions.plan.title).toBe('now');
    expect(withWaiting(view, [])).toBe(view);
  });
});
