import { ANYONE, ownTimeOf, granteeKey, withOwnTime, type Grant } from './grant';

const LATE = '2026-12-04T20:00:00Z';
const CLASS: Grant = {
  grantee: { is: 'class', classId: 'coastal' },
  availableFrom: null,
  availableUntil: null,
};
const student = (studentId: string, availableUntil: string | null = null): Grant => ({
  ...{ grantee: { is: 'student', studentId }, availableFrom: null, availableUntil },
});

it('names whom a grant is for', () =>
  expect([ANYONE, CLASS, student('wen')].map(({ grantee }) => granteeKey(grantee))).toEqual([
    ...['anyone', 'class coastal', 'student wen'],
  ]));

it('gives one of a class a time of their own, and takes it away again', () => {
  const longer = withOwnTime([CLASS], 'wen', LATE);
  expect(longer).toEqual([CLASS, student('wen', LATE)]);
  expect([ownTimeOf(longer, 'wen'), ownTimeOf(longer, 'ines')]).toEqual([LATE, null]);
  expect(withOwnTime(longer, 'wen', null)).toEqual([CLASS]);
});

it('takes nothing from a student who is named alone', () => {
  const grants = [student('wen'), student('ines')];
  const longer = withOwnTime(grants, 'wen', LATE);
  expect(longer).toEqual([student('ines'), student('wen', LATE)]);
  expect(withOwnTime(longer, 'wen', null)).toEqual([student('ines'), student('wen')]);
});
