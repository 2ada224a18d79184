import { filmOf } from '../film/film';
import type { Decisions } from '../edit/decisions';
import { lessonOf, takeOfLength } from '../testing/lessons';
import { namedCheck } from './named';
import { UNSEEN } from './pictures-seen';

const s = (seconds: number) => Math.round(seconds * 1_000_000);
const take = takeOfLength('take-one', s(40));
const bram = { name: 'Bram Okafor', address: 'bram@lantern-quay.example' };
const noor = { name: 'Noör Halden-Lind', address: null };
const wen = { name: 'Wen', address: null };
const plan = (title: string, description = '') => ({
  plan: { ...lessonOf([]).decisions.plan, title, description },
});
const cue = (id: string, at: number, text: string) => ({
  language: 'en',
  cue: {
    ...{ id, takeId: 'take-one', startUs: s(at), endUs: s(at + 3), text },
    ...{ words: null, timed: 'by-hand' as const, draft: false },
  },
});
const look = (
  decisions: Partial<Decisions>,
  texts: Record<string, number> = {},
  students = [bram, noor, wen],
) =>
  namedCheck(
    filmOf(lessonOf([take], decisions)),
    { ...UNSEEN, texts: new Map(Object.entries(texts)) },
    students,
  )[0];

it('says nothing where nobody is named, nor of a given name alone', () => {
  expect(look(plan('Plotting a course', 'For Bram, Wen and all others'))).toBeUndefined();
  expect(look(plan('For Bram Okafor'), {}, [])).toBeUndefined();
});
it('finds who is named in the title, in any case and accent', () => {
  const found = look(plan('Feedback for NOOR HALDEN LIND'))!;
  expect(found).toMatchObject({ verdict: 'look', mend: { step: 'plan' } });
  expect(found.sentence).toBe(
    'Noör Halden-Lind is named beside it: whoever may watch it learns that.',
  );
  expect(found.atUs).toBeUndefined();
});
it('finds who is named in captions, over the end of one as well, and nobody in what was cut', () => {
  const cues = [
    cue('cue-one', 4, 'As I said to Bram'),
    cue('cue-two', 8, 'Okafor last week'),
  ] as never;
  expect(look({ cues })).toMatchObject({ atUs: s(4), mend: { step: 'words' } });
  const cuts = [{ takeId: 'take-one', startUs: s(3), endUs: s(12) }];
  expect(look({ cues, cuts })).toBeUndefined();
});
it('finds who is named in a picture, by name or address, with the first place of them all', () => {
  const found = look(
    {},
    {
      'Inbox: bram@lantern-quay.example': s(12),
      'Halden-Lind, Noor': s(2),
      'noor halden-lind': s(6),
    },
  )!;
  expect(found.sentence).toBe(
    '2 students are named, Noör Halden-Lind first, at 0:06: whoever may watch it learns that.',
  );
  expect(found.mend).toMatchObject({ step: 'tidy' });
});
it('takes no part of a word for a name', () => {
  expect(look({}, { 'Abram Okaforson': s(2) })).toBeUndefined();
});
