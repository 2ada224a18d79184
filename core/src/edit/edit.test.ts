import { DEFAULT_LAYOUT } from '../lesson/layout';
import { applyEdit } from './apply-edit';
import { conflictWith } from './conflict';
import { NEW_DECISIONS } from './decisions';
import { editSchema, type Act, type Edit } from './edit';
import { entriesOf, readEntry, type Entry } from './entry';
import { continued, replay } from './history';
import { placedIn } from '../lesson/lesson';
import { rankAt, rankBetween } from '../lesson/placement';
import type { Step } from './steps';

const conflict = (a: Act, b: Act): boolean => conflictWith([a])(b);

const takeId = 'take-one';
const cut = (startUs: number, endUs: number): Edit => ({ do: 'cut', takeId, startUs, endUs });
const restore = (startUs: number, endUs: number): Edit => ({
  do: 'restore',
  takeId,
  startUs,
  endUs,
});
const place = (id: string, rank: string, of = id): Edit => ({
  do: 'place',
  placement: { id, takeId: of, rank },
  arrives: false,
});
const setLayout = (startUs: number, endUs: number, kind: 'camera' | 'surface'): Edit => ({
  do: 'set-layout',
  takeId,
  startUs,
  endUs,
  layout: { ...DEFAULT_LAYOUT, kind },
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
  const ids = (edits: Edit[]) => placedIn({ decisions: after(...edits) }).map(({ id }) => id);
  const three = [place('take-one', 'a0'), place('take-two', 'a1'), place('take-three', 'a2')];
  it('puts them in order, moves them and leaves them out', () => {
    expect(ids(three)).toEqual(['take-one', 'take-two', 'take-three']);
    expect(ids([...three, place('take-three', 'Zz')])).toEqual([
      'take-three',
      'take-one',
      'take-two',
    ]);
    expect(ids([...three, { do: 'exclude-take', placementId: 'take-two' }])).toEqual([
      'take-one',
      'take-three',
    ]);
  });
  it('keeps the trim and the place of a take that moves, is left out and comes back', () => {
    const trim: Edit = { do: 'trim', placementId: takeId, startUs: 5, endUs: 50 };
    const leaveOut: Edit = { do: 'exclude-take', placementId: takeId };
    const moved = after(...three, trim, place(takeId, 'a1V'), leaveOut, {
      do: 'include-take',
      placementId: takeId,
    });
    expect(
      placedIn({ decisions: moved }).map(({ id, startUs, endUs }) => [id, startUs, endUs]),
    ).toEqual([
      ['take-two', 0, null],
      [takeId, 5, 50],
      ['take-three', 0, null],
    ]);
  });
  it('lets a take stand twice, each time with a trim of its own', () => {
    const { length } = placedIn({
      decisions: after(place(takeId, 'a0'), place('again-one', 'a1', takeId)),
    });
    expect(length).toBe(2);
  });
  it('finds a rank between any two, before all and after all, and beside equals', () => {
    const others = [
      { id: 'place-a', takeId, rank: 'a0' },
      { id: 'place-b', takeId, rank: 'a0' },
      { id: 'place-c', takeId, rank: 'a1' },
    ];
    const at = (index: number | null) => rankAt(others, index);
    expect(at(0) < 'a0').toBe(true);
    expect(at(1) > 'a0' && at(1) < 'a1').toBe(true);
    expect(at(2) > 'a0' && at(2) < 'a1').toBe(true);
    expect(at(null) > 'a1').toBe(true);
    let [low, high] = ['a0', 'a1'];
    for (let times = 0; times < 200; times++) {
      const between = rankBetween(low, high);
      expect(low < between && between < high).toBe(true);
      if (times % 3 === 0) low = between;
      else high = between;
    }
    expect(editSchema.safeParse(place(takeId, 'no rank!')).success).toBe(false);
  });
});

describe('arranging', () => {
  it('replaces what lay under the stretch, and only that', () => {
    const { layouts } = after(setLayout(0, 100, 'camera'), setLayout(40, 60, 'surface'));
    expect(layouts.map(({ startUs, endUs, layout }) => [startUs, endUs, layout.kind])).toEqual([
      [0, 40, 'camera'],
      [40, 60, 'surface'],
      [60, 100, 'camera'],
    ]);
  });
});

let count = 0;
const newId = () => `entry-${++count}`;
const press = (...acts: Act[]): Entry[] => entriesOf(acts, newId);

describe('undo and redo', () => {
  const entries: Entry[] = [
    ...press({ ...place(takeId, 'a0'), arrives: true } as Edit),
    ...press(cut(0, 10)),
    ...press(cut(20, 30)),
  ];
  /** Presses one after another: what is undone is what the history says is next. */
  const pressed = (...presses: ('undo' | 'redo' | Edit[])[]) =>
    presses.reduce((history, one) => {
      if (typeof one !== 'string') return continued(history, press(...one));
      const step = history.steps[one].at(-1);
      return step ? continued(history, press({ do: one, entries: step.entries })) : history;
    }, replay(entries));
  const cuts = (...presses: Parameters<typeof pressed>) =>
    pressed(...presses).decisions.cuts.length;
  it('takes back one at a time and brings them back in turn', () => {
    expect(cuts()).toBe(2);
    expect(cuts('undo')).toBe(1);
    expect(cuts('undo', 'undo')).toBe(0);
    expect(cuts('undo', 'undo', 'redo')).toBe(1);
    expect(cuts('undo', 'undo', 'redo', 'redo', 'redo')).toBe(2);
  });
  it('forgets what could be redone once something new is done', () => {
    expect(cuts('undo', [cut(40, 50)], 'redo')).toBe(2);
    expect(pressed('undo', [cut(40, 50)]).steps.redo).toEqual([]);
  });
  const said = (step: Step) => step.said.map(({ words, of }) => [words, of?.startUs, of?.endUs]);
  it('takes all of one press back at once, and says what it was', () => {
    const both = pressed([cut(40, 50), restore(0, 5)]);
    expect(both.steps.undo.map(said)).toEqual([
      [['cut {stretch}', 0, 10]],
      [['cut {stretch}', 20, 30]],
      [
        ['cut {stretch}', 40, 50],
        ['brought back {stretch}', 0, 5],
      ],
    ]);
    expect(pressed([cut(40, 50), restore(0, 5)], 'undo').decisions.cuts).toHaveLength(2);
  });
  it('takes back any step, not only the last', () => {
    const [first] = replay(entries).steps.undo;
    const { decisions, steps } = continued(
      replay(entries),
      press({ do: 'undo', entries: first!.entries }),
    );
    expect(decisions.cuts).toEqual([{ takeId, startUs: 20, endUs: 30 }]);
    expect(steps.redo.map(said)).toEqual([[['cut {stretch}', 0, 10]]]);
  });
  it('never takes a recording or the title away', () => {
    const history = pressed(
      [{ do: 'plan', set: { title: 'Tide heights' } }],
      ...Array<'undo'>(4).fill('undo'),
    );
    expect(history.decisions.placements).toHaveLength(1);
    expect(history.decisions.plan.title).toBe('Tide heights');
    expect(history.steps.undo).toEqual([]);
  });
  it('keeps what can be redone when only the title changed', () =>
    expect(cuts('undo', [{ do: 'plan', set: { unit: 'Week 4' } }], 'redo')).toBe(2));
  it('is the same however the list is divided', () => {
    const all = pressed('undo', [cut(40, 50), cut(60, 70)], 'undo', 'redo').entries;
    for (let at = 0; at <= all.length; at++) {
      expect(continued(replay(all.slice(0, at)), all.slice(at))).toEqual(replay(all));
    }
  });
});

describe('entries of another time', () => {
  it('of a kind of tomorrow are kept, counted and passed over', () => {
    const strange = readEntry(
      JSON.stringify({ id: 'from-tomorrow', by: 'teacher', edit: { do: 'hologram' } }),
      'row-one',
    );
    expect(strange).toEqual({ id: 'from-tomorrow', unknown: true });
    expect(readEntry('{not even', 'row-two')).toEqual({ id: 'row-two', unknown: true });
    const history = replay([...press(cut(0, 10)), strange, ...press(cut(20, 30))]);
    expect(history.unknown).toBe(1);
    expect(history.decisions.cuts).toHaveLength(2);
  });
});

describe('conflict', () => {
  it('lets edits of different things through', () => {
    expect(conflict(cut(0, 10), cut(5, 20))).toBe(false);
    expect(conflict(cut(0, 10), setLayout(0, 10, 'camera'))).toBe(false);
    expect(conflict(cut(0, 10), { do: 'plan', set: { title: 'x' } })).toBe(false);
    expect(conflict({ do: 'plan', set: { title: 'x' } }, { do: 'plan', set: { unit: 'y' } })).toBe(
      false,
    );
  });
  it('stops what would be overwritten', () => {
    expect(conflict(cut(0, 10), restore(5, 6))).toBe(true);
    expect(conflict(setLayout(0, 10, 'camera'), setLayout(9, 12, 'surface'))).toBe(true);
    expect(conflict({ do: 'plan', set: { title: 'x' } }, { do: 'plan', set: { title: 'z' } })).toBe(
      true,
    );
    const stands = (how: 'undo' | 'redo', ...entries: string[]): Act => ({ do: how, entries });
    expect(conflict(stands('undo', 'entry-a'), stands('redo', 'entry-b', 'entry-a'))).toBe(true);
    expect(conflict(stands('undo', 'entry-a'), stands('undo', 'entry-a'))).toBe(false);
    expect(conflict(cut(0, 10), stands('undo', 'entry-a'))).toBe(false);
  });
  it('lets the same decision made twice through', () =>
    expect(
      conflict(
        { do: 'set-layout-transition', layoutTransitionUs: 0 },
        { do: 'set-layout-transition', layoutTransitionUs: 0 },
      ),
    ).toBe(false));
});

describe('the border', () => {
  it('refuses a stretch that runs backwards, an odd identifier and half a microsecond', () => {
    expect(editSchema.safeParse(cut(10, 10)).success).toBe(false);
    expect(editSchema.safeParse({ ...cut(0, 10), takeId: '../../etc' }).success).toBe(false);
    expect(editSchema.safeParse(cut(0.5, 10)).success).toBe(false);
    expect(editSchema.safeParse(cut(0, 10)).success).toBe(true);
  });
});
