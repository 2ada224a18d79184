import { saidOf, type Step } from '../edit/steps';
import type { Edit } from '../edit/edit';
import { LONGEST_TAKE_US } from '../lesson/take';
import { DEFAULT_LAYOUT } from '../lesson/layout';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { filmOf } from './film';
import { allInWords, stepInWords } from './step-in-words';

const s = (seconds: number) => seconds * 1_000_000;
const takes = [takeOfLength('take-one', s(120)), takeOfLength('take-two', s(60))];
const cut = (startUs: number, endUs: number, takeId = 'take-one'): Edit => ({
  ...{ do: 'cut', takeId, startUs, endUs },
});
const stepOf = (...edits: Edit[]): Step => ({
  entries: edits.map((_, index) => `entry-${index}`),
  group: null,
  said: edits.map(saidOf),
});
/** 30 s of the first take are cut, and the second plays at double speed. */
const film = filmOf(
  lessonOf(takes, {
    cuts: [{ takeId: 'take-one', startUs: s(10), endUs: s(40) }],
    speeds: [{ takeId: 'take-two', startUs: 0, endUs: s(60), speed: 200 }],
  }),
);
const words = (...edits: Edit[]) => stepInWords(film, stepOf(...edits));

it('names the place and the duration in the film', () => {
  expect(words(cut(s(72), s(76)))).toBe('cut 4 s at 0:42');
  expect(words(cut(s(10), s(40)))).toBe('cut 30 s at 0:10');
  expect(words(cut(s(20), s(40), 'take-two'))).toBe('cut 10 s at 1:40');
});

it('names the take for a stretch that reaches its end', () => {
  expect(words(cut(s(72), LONGEST_TAKE_US))).toBe('cut all of Take 1 from 0:42 on');
  expect(words(cut(0, LONGEST_TAKE_US - s(120), 'take-two'))).toBe('cut all of Take 2');
  expect(words(cut(0, s(1), 'take-gone'))).toBe('cut all of a take');
});

it('names the new value, and shortens a long list', () => {
  const layout = { ...DEFAULT_LAYOUT, kind: 'camera' as const };
  const stretch = { takeId: 'take-one', startUs: 0, endUs: s(4) };
  expect(words({ do: 'set-layout', ...stretch, layout })).toBe(
    'showed camera only for 4 s at 0:00',
  );
  expect(words(cut(0, s(4)), { do: 'set-default-layout', layout })).toBe(
    'cut 4 s at 0:00 and changed the default layout',
  );
  expect(words(cut(0, s(4)), cut(s(4), s(5)), cut(s(6), s(7)))).toBe('cut 4 s at 0:00 and 2 more');
  expect(allInWords(film, [cut(0, s(4)), cut(0, s(4))].map(saidOf))).toBe('cut 4 s at 0:00');
});
