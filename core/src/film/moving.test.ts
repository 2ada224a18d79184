import * as fc from 'fast-check';
import { replay } from '../edit/history';
import type { Edit } from '../edit/edit';
import { placedIn } from '../lesson/lesson';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { shownIn as framesShown } from '../testing/shown';
import { applyEdit } from '../edit/apply-edit';
import { filmOf, spanAt, type Film } from './film';
import { divide, moveStretch } from './moving';
import { recordedFrameIn } from './span';
import type { Lesson } from '../lesson/lesson';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const takes = [takeOfLength('take-one', s(10)), takeOfLength('take-two', s(6))];

const after = (lesson: Lesson, edits: readonly Edit[]): Lesson => ({
  ...lesson,
  decisions: edits.reduce((decisions, edit) => applyEdit(decisions, edit), lesson.decisions),
});
const shownIn = (film: Film): string[] =>
  framesShown(film).map(({ takeId, frame }) => `${takeId} ${frame}`);
const namer = () => {
  let count = 0;
  return () => `new-place-${++count}`;
};
const windows = (lesson: Lesson) =>
  placedIn(lesson).map(({ id, takeId, startUs, endUs }) => [
    id,
    takeId,
    startUs / 1e6,
    endUs && endUs / 1e6,
  ]);

describe('dividing', () => {
  it('leaves the film as it is, and makes two of one', () => {
    const lesson = lessonOf(takes, { cuts: [{ takeId: 'take-one', startUs: s(2), endUs: s(3) }] });
    const now = after(lesson, divide(lesson, { placementId: 'take-one', takeUs: s(4) }, namer()));
    expect(shownIn(filmOf(now))).toEqual(shownIn(filmOf(lesson)));
    expect(windows(now)).toEqual([
      ['take-one', 'take-one', 0, 4],
      ['new-place-1', 'take-one', 4, null],
      ['take-two', 'take-two', 0, null],
    ]);
  });
  it('has nothing to do at either end, or where there is no such place', () => {
    const lesson = lessonOf(takes);
    for (const takeUs of [0, s(10), s(12)]) {
      expect(divide(lesson, { placementId: 'take-one', takeUs }, namer())).toEqual([]);
    }
    expect(divide(lesson, { placementId: 'gone', takeUs: s(2) }, namer())).toEqual([]);
  });
});

describe('moving a stretch', () => {
  it('takes it from between what stays, and puts it between what is there', () => {
    const lesson = lessonOf(takes);
    const { edits, placementId } = moveStretch(
      lesson,
      { placementId: 'take-one', startUs: s(2), endUs: s(3) },
      { placementId: 'take-two', takeUs: s(4) },
      namer(),
    )!;
    const now = after(lesson, edits);
    expect(placedIn(now)[3]!.id).toBe(placementId);
    expect(windows(now).map(([, ...rest]) => rest)).toEqual([
      ['take-one', 0, 2],
      ['take-one', 3, null],
      ['take-two', 0, 4],
      ['take-one', 2, 3],
      ['take-two', 4, null],
    ]);
    // What stays keeps its name; a whole place that is moved keeps it, too, and nothing new is made.
    expect(placedIn(now)[0]!.id).toBe('take-one');
    const whole = { placementId: 'take-two', startUs: 0, endUs: s(6) };
    const first = moveStretch(
      lesson,
      whole,
      { placementId: 'take-one', takeUs: 0 },
      namer(),
    )!.edits;
    expect(first.map((edit) => edit.do)).toEqual(['place']);
    expect(windows(after(lesson, first)).map(([id]) => id)).toEqual(['take-two', 'take-one']);
    // Its beginning is moved away: the name stays with the rest.
    const head = { placementId: 'take-one', startUs: 0, endUs: s(4) };
    expect(windows(after(lesson, moveStretch(lesson, head, null, namer())!.edits))).toEqual([
      ['take-one', 'take-one', 4, null],
      ['take-two', 'take-two', 0, null],
      ['new-place-1', 'take-one', 0, 4],
    ]);
  });

  it('moves the very frames, whatever stands there, and one undo has it as it was', () => {
    const tenth = fc.integer({ min: 0, max: 100 }).map((at) => s(at / 10));
    const place = fc.constantFrom('take-one', 'take-two', 'third');
    fc.assert(
      fc.property(
        fc.tuple(place, tenth, tenth),
        fc.option(fc.tuple(place, tenth)),
        fc.array(fc.tuple(fc.constantFrom('take-one', 'take-two'), tenth, tenth), { maxLength: 2 }),
        ([from, a, b], gap, cut) => {
          const lesson = lessonOf(takes, {
            placements: [
              { id: 'take-one', takeId: 'take-one', rank: 'a0' },
              { id: 'take-two', takeId: 'take-two', rank: 'a1' },
              { id: 'third', takeId: 'take-one', rank: 'a2' },
            ],
            trims: [{ placementId: 'third', startUs: s(3), endUs: s(8) }],
          });
          const cuts = cut
            .map(([takeId, one, other]) => ({
              ...{ takeId, startUs: Math.min(one, other), endUs: Math.max(one, other) },
            }))
            .filter(({ startUs, endUs }) => endUs > startUs)
            .map((one): Edit => ({ do: 'cut', ...one }));
          const before = after(lesson, cuts);
          const stretch = { placementId: from, startUs: Math.min(a, b), endUs: Math.max(a, b) };
          const to = gap && { placementId: gap[0], takeUs: gap[1] };
          const edits = moveStretch(before, stretch, to, namer())?.edits ?? [];
          const now = after(before, edits);
          const [was, is] = [shownIn(filmOf(before)), shownIn(filmOf(now))];
          expect([...is].sort()).toEqual([...was].sort());
          // Taken out of both, the rest is in the same order.
          const film = filmOf(before);
          const isMoved = was.map((_, at) => {
            const span = spanAt(film, at)!;
            const us = (recordedFrameIn(span, at) * 1e6) / 30;
            return span.placementId === from && us >= stretch.startUs - 1 && us < stretch.endUs - 1;
          });
          const moving = was.filter((_, at) => isMoved[at]);
          const staying = was.filter((_, at) => !isMoved[at]);
          const text = is.join('|');
          if (edits.length > 0 && moving.length > 0) expect(text).toContain(moving.join('|'));
          const at = text.indexOf(moving.join('|'));
          const left = (text.slice(0, at) + text.slice(at + moving.join('|').length))
            .split('|')
            .filter(Boolean);
          // A take that stands twice can have the same frames at both of its places.
          if (moving.length > 0 && text.indexOf(moving.join('|'), at + 1) < 0) {
            expect(left).toEqual(staying);
          }
        },
      ),
      { seed: 11, numRuns: 150 },
    );
  });
});

it('is one list of edits that a server takes', () => {
  const lesson = lessonOf(takes);
  const { edits } = moveStretch(
    lesson,
    { placementId: 'take-one', startUs: s(2), endUs: s(3) },
    null,
    namer(),
  )!;
  expect(edits.length).toBeGreaterThan(2);
  const entries = edits.map((edit, index) => ({
    id: `entry-${index}`,
    by: 'teacher' as const,
    edit,
  }));
  expect(replay(entries).decisions.placements.length).toBeGreaterThan(1);
});
