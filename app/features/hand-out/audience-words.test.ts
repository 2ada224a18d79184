import { audienceInWords } from './audience-words';

const times = { availableFrom: null, availableUntil: null };
const ANYONE = { ...times, grantee: { is: 'anyone' as const }, name: '', students: 0 };
const of = (name: string) => ({
  ...{ ...times, name, students: 8 },
  grantee: { is: 'class' as const, classId: name },
});
const one = (name: string) => ({
  ...{ ...times, name, students: 1 },
  grantee: { is: 'student' as const, studentId: name },
});

it.each([
  ['anyone with the link', [ANYONE]],
  ['the class Knots', [of('Knots')]],
  ['anyone with the link and the class Knots', [ANYONE, of('Knots')]],
  ['the class Knots, Wen and Ines', [of('Knots'), one('Wen'), one('Ines')]],
  ['the class Knots', [of('Knots'), { ...one('Wen'), availableUntil: '2026-12-04T20:00:00Z' }]],
  ['4 students', [one('Wen'), one('Ines'), one('Bram'), one('Odo')]],
  ['nobody any more', []],
])('%s', (words, watchers) => expect(audienceInWords(watchers)).toBe(words));
