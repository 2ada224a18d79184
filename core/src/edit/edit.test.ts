import { NEW_DECISIONS } from '../lesson/lesson';
import { RESTING_ARRANGEMENT } from '../lesson/arrangement';
import { applyEdit } from './apply-edit';
import { conflict } from './conflict';
import { editSchema, type Edit, type Entry } from './edit';
import { replay } from './history';

const takeId = 'take-one';
const cut = (startUs: number, endUs: number): Edit => ({ do: 'cut', takeId, startUs, endUs });
const restore = (startUs: number, endUs: number): Edit => ({
  do: 'restore',
  takeId,
  startUs,
  endUs,
});
const place = (id: string, at: number | null = null): Edit => ({
  do: 'place-take',
  takeId: id,
  at,
});
const arrange = (startUs: number, endUs: number, kind: 'camera' | 'surface'): Edit => ({
  do: 'arrange',
  takeId,
  startUs,
  endUs,
  arrangement: { ...RESTING_ARRANGEMENT, kind },
});
const after = (...edits: Edit[]) => edits.reduce(applyEdit, NEW_DECISIONS);

describe('cutting', () => {
  it('joins cuts that touch and leaves other takes alone', () => {
    const { cuts } = after(
      cut(10, 20),
      { ...cut(0, 99), takeId: 'take-two' } as Edit,
      cut(20, 30),
      cut(50, 60),
    );
    expect(cuts).toContainEqual({ takeId, startUs: 10, endUs: 30 });
    expect(cuts).toContainEqual({ takeId: 'take-two', startUs: 0, endUs: 99 });
    expect(cuts).toHaveLength(3);
  });
  it('restores a part of a cut', () =>
    expect(after(cut(10, 40), restore(20, 30)).cuts).toEqual([
      { takeId, startUs: 10, endUs: 20 },
      { takeId, startUs: 30, endUs: 40 },
    ]));
});

describe('placing takes', () => {
  it('puts them in order, moves them and leaves them out', () => {
    const ids = (edits: Edit[]) => after(...edits).placed.map((placed) => placed.takeId);
    const three = [place('take-one'), place('take-two'), place('take-three')];
    expect(ids(three)).toEqual(['take-one', 'take-two', 'take-three']);
    expect(ids([...three, place('take-three', 0)])).toEqual(['take-three', 'take-one', 'take-two']);
    expect(ids([...three, { do: 'leave-out-take', takeId: 'take-two' }])).toEqual([
      'take-one',
      'take-three',
    ]);
  });
  it('keeps the trim of a take that moves', () => {
    const trim: Edit = { do: 'trim', takeId, startUs: 5, endUs: 50 };
    expect(after(place(takeId), trim, place('take-two'), place(takeId, 1)).placed[1]).toEqual({
      takeId,
      startUs: 5,
      endUs: 50,
    });
  });
});

describe('arranging', () => {
  it('replaces what lay under the stretch, and only that', () => {
    const { arranged } = after(arrange(0, 100, 'camera'), arrange(40, 60, 'surface'));
    expect(
      arranged.map(({ startUs, endUs, arrangement }) => [startUs, endUs, arrangement.kind]),
    ).toEqual([
      [0, 40, 'camera'],
      [40, 60, 'surface'],
      [60, 100, 'camera'],
    ]);
  });
});

describe('undo and redo', () => {
  const entries: Entry[] = [place(takeId), cut(0, 10), cut(20, 30)];
  const cuts = (...more: Entry[]) => replay([...entries, ...more]).decisions.cuts.length;
  const undo: Entry = { do: 'undo' };
  const redo: Entry = { do: 'redo' };
  it('takes back one at a time and brings them back in turn', () => {
    expect(cuts()).toBe(2);
    expect(cuts(undo)).toBe(1);
    expect(cuts(undo, undo)).toBe(0);
    expect(cuts(undo, undo, redo)).toBe(1);
    expect(cuts(undo, undo, redo, redo, redo)).toBe(2);
  });
  it('forgets what could be redone once something new is done', () => {
    expect(cuts(undo, cut(40, 50), redo)).toBe(2);
    expect(replay([...entries, undo, cut(40, 50)]).canRedo).toBe(false);
  });
  it('never takes a recording or the title away', () => {
    const history = replay([
      ...entries,
      { do: 'plan', set: { title: 'Tide heights' } },
      undo,
      undo,
      undo,
      undo,
    ]);
    expect(history.decisions.placed).toHaveLength(1);
    expect(history.decisions.plan.title).toBe('Tide heights');
    expect(history.canUndo).toBe(false);
  });
  it('keeps what can be redone when only the title changed', () =>
    expect(cuts(undo, { do: 'plan', set: { unit: 'Week 4' } }, redo)).toBe(2));
});

describe('conflict', () => {
  it('lets edits of different things through', () => {
    expect(conflict(cut(0, 10), cut(5, 20))).toBe(false);
    expect(conflict(cut(0, 10), arrange(0, 10, 'camera'))).toBe(false);
    expect(conflict(cut(0, 10), { do: 'plan', set: { title: 'x' } })).toBe(false);
    expect(conflict({ do: 'plan', set: { title: 'x' } }, { do: 'plan', set: { unit: 'y' } })).toBe(
      false,
    );
  });
  it('stops what would be overwritten', () => {
    expect(conflict(cut(0, 10), restore(5, 6))).toBe(true);
    expect(conflict(arrange(0, 10, 'camera'), arrange(9, 12, 'surface'))).toBe(true);
    expect(conflict({ do: 'plan', set: { title: 'x' } }, { do: 'plan', set: { title: 'z' } })).toBe(
      true,
    );
    expect(conflict(cut(0, 10), { do: 'undo' })).toBe(true);
  });
  it('lets the same decision made twice through', () =>
    expect(conflict({ do: 'soften', changeUs: 0 }, { do: 'soften', changeUs: 0 })).toBe(false));
});

describe('the border', () => {
  it('refuses a stretch that runs backwards, an odd identifier and half a microsecond', () => {
    expect(editSchema.safeParse(cut(10, 10)).success).toBe(false);
    expect(editSchema.safeParse({ ...cut(0, 10), takeId: '../../etc' }).success).toBe(false);
    expect(editSchema.safeParse(cut(0.5, 10)).success).toBe(false);
    expect(editSchema.safeParse(cut(0, 10)).success).toBe(true);
  });
});
