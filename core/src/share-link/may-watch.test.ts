import { ANYONE, type Grant } from './grant';
import { mayWatch, type Asking, type Availability, type Verdict } from './may-watch';

const [EARLY, NOON, LATE, LATER] = [
  '2026-11-30T08:00:00Z',
  '2026-11-30T12:00:00Z',
  '2026-12-04T20:00:00Z',
  '2026-12-11T20:00:00Z',
];
const LINK: Asking = { is: 'link' };
const WEN: Asking = { is: 'student', studentId: 'wen', classIds: ['coastal', 'knots'] };
const INES: Asking = { is: 'student', studentId: 'ines', classIds: ['knots'] };
const NOBODY: Asking = { is: 'student', studentId: 'gone', classIds: [] };

const grant = (
  grantee: Grant['grantee'],
  availableFrom: string | null = null,
  availableUntil: string | null = null,
) => ({
  ...{ grantee, availableFrom, availableUntil },
});
const toClass = (classId: string, ...times: (string | null)[]) =>
  grant({ is: 'class', classId }, ...times);
const toStudent = (studentId: string, ...times: (string | null)[]) =>
  grant({ is: 'student', studentId }, ...times);
const OF_ANYONE: Availability = {
  revokedAt: null,
  availableFrom: null,
  availableUntil: null,
  grants: [ANYONE],
};

describe('when', () => {
  it.each<[string, Partial<Availability>, string, Verdict, string | null]>([
    ['with no dates', {}, NOON, 'open', null],
    ['before it opens', { availableFrom: NOON }, EARLY, 'not-yet', NOON],
    ['at the moment it opens', { availableFrom: NOON }, NOON, 'open', null],
    ['after it has opened', { availableFrom: EARLY }, NOON, 'open', null],
    ['before it closes', { availableUntil: NOON }, EARLY, 'open', NOON],
    ['at the moment it closes', { availableUntil: NOON }, NOON, 'over', NOON],
    ['after it has closed', { availableUntil: EARLY }, NOON, 'over', EARLY],
    ['between the two', { availableFrom: EARLY, availableUntil: LATE }, NOON, 'open', LATE],
    ['before the two', { availableFrom: NOON, availableUntil: LATE }, EARLY, 'not-yet', NOON],
    ['after the two', { availableFrom: EARLY, availableUntil: NOON }, LATE, 'over', NOON],
    [
      'where the end comes first',
      { availableFrom: LATE, availableUntil: EARLY },
      NOON,
      'over',
      EARLY,
    ],
    ['taken away', { revokedAt: EARLY }, NOON, 'revoked', null],
    ['taken away, not open yet', { revokedAt: EARLY, availableFrom: LATE }, NOON, 'revoked', null],
  ])('%s', (_, availability, now, is, when) => {
    for (const asking of [LINK, WEN, NOBODY]) {
      expect(mayWatch(asking, { ...OF_ANYONE, ...availability }, Date.parse(now))).toEqual({
        is,
        when,
      });
    }
  });
});

describe('who', () => {
  it.each<[string, readonly Grant[], readonly [Verdict, Verdict, Verdict, Verdict]]>([
    // Somebody with the link; Wen, in both classes; Ines, in one; somebody who is in none.
    ['anyone', [ANYONE], ['open', 'open', 'open', 'open']],
    ['nobody', [], ['not-theirs', 'not-theirs', 'not-theirs', 'not-theirs']],
    ['a class', [toClass('coastal')], ['not-theirs', 'open', 'not-theirs', 'not-theirs']],
    ['another class', [toClass('knots')], ['not-theirs', 'open', 'open', 'not-theirs']],
    ['a student', [toStudent('ines')], ['not-theirs', 'not-theirs', 'open', 'not-theirs']],
    [
      'two students',
      [toStudent('ines'), toStudent('wen')],
      ['not-theirs', 'open', 'open', 'not-theirs'],
    ],
    [
      'a class, and one student besides',
      [toClass('coastal'), toStudent('ines')],
      ['not-theirs', 'open', 'open', 'not-theirs'],
    ],
    [
      'a student who has left, by name',
      [toStudent('gone')],
      ['not-theirs', 'not-theirs', 'not-theirs', 'open'],
    ],
    ['anyone, and a class', [ANYONE, toClass('coastal')], ['open', 'open', 'open', 'open']],
    ['a class that is no more', [toClass('none')], Array(4).fill('not-theirs') as never],
  ])('%s', (_, grants, verdicts) => {
    const now = Date.parse(NOON);
    const given = (asking: Asking) => mayWatch(asking, { ...OF_ANYONE, grants }, now).is;
    expect([LINK, WEN, INES, NOBODY].map(given)).toEqual(verdicts);
    const gone = { ...OF_ANYONE, grants, revokedAt: EARLY };
    for (const asking of [LINK, WEN, INES, NOBODY])
      expect(mayWatch(asking, gone, now).is).toBe('revoked');
  });
});

describe('by a class’s own page', () => {
  const asking: Asking = { is: 'class', classId: 'coastal' };
  it.each<[string, readonly Grant[], Verdict]>([
    ['what is for anyone', [ANYONE], 'open'],
    ['what is for the class', [toClass('coastal')], 'open'],
    ['not what is for another class', [toClass('knots')], 'not-theirs'],
    ['not what is for a student, whoever it is', [toStudent('wen')], 'not-theirs'],
    ['what is for the class, until it is over', [toClass('coastal', null, EARLY)], 'over'],
  ])('%s', (_, grants, is) =>
    expect(mayWatch(asking, { ...OF_ANYONE, grants }, Date.parse(NOON)).is).toBe(is),
  );
});

describe('a grant with times of its own', () => {
  const closed: Availability = { ...OF_ANYONE, availableUntil: NOON };
  it.each<[string, Availability, Asking, string, Verdict, string | null]>([
    ['goes on', { ...closed, grants: [toStudent('wen', null, LATE)] }, WEN, NOON, 'open', LATE],
    ['ends', { ...closed, grants: [toStudent('wen', null, LATE)] }, WEN, LATE, 'over', LATE],
    [
      'begins before',
      { ...OF_ANYONE, availableFrom: LATE, grants: [toStudent('wen', EARLY)] },
      WEN,
      NOON,
      'open',
      null,
    ],
    [
      'goes on for one of a class',
      { ...closed, grants: [toClass('knots'), toStudent('wen', null, LATE)] },
      WEN,
      NOON,
      'open',
      LATE,
    ],
    [
      'closes for whom it does last',
      { ...closed, grants: [toClass('knots'), toStudent('wen', null, LATE)] },
      WEN,
      EARLY,
      'open',
      LATE,
    ],
    [
      'and not for the others',
      { ...closed, grants: [toClass('knots'), toStudent('wen', null, LATE)] },
      INES,
      NOON,
      'over',
      NOON,
    ],
    [
      'is told by what closed last',
      { ...closed, grants: [toClass('knots'), toStudent('wen', null, LATE)] },
      WEN,
      LATER,
      'over',
      LATE,
    ],
    [
      'is told by what opens soonest',
      { ...OF_ANYONE, grants: [toClass('knots', LATER), toClass('coastal', LATE)] },
      WEN,
      NOON,
      'not-yet',
      LATE,
    ],
    [
      'and what opens is better than what is over',
      { ...OF_ANYONE, grants: [toClass('knots', null, EARLY), toClass('coastal', LATE)] },
      WEN,
      NOON,
      'not-yet',
      LATE,
    ],
  ])('%s', (_, availability, asking, now, is, when) =>
    expect(mayWatch(asking, availability, Date.parse(now))).toEqual({ is, when }),
  );
});
