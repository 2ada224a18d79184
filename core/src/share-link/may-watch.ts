import type { Grant } from './grant';

/** A link, as far as it says who may watch it and when. Times are ISO 8601, in UTC. */
export interface Availability {
  /** Since when it is taken away; null: it isn't. */
  readonly revokedAt: string | null;
  /** From when on; null: from the beginning. */
  readonly availableFrom: string | null;
  /** Until when; null: with no end. */
  readonly availableUntil: string | null;
  readonly grants: readonly Grant[];
}

/** Who asks: somebody with the link, whoever comes by a class's own page, or a student by an address of their own. */
export type Asking =
  | { readonly is: 'link' }
  | { readonly is: 'class'; readonly classId: string }
  | {
      readonly is: 'student';
      readonly studentId: string;
      /** The classes that they are in now. */
      readonly classIds: readonly string[];
    };

export type Verdict = 'open' | 'not-yet' | 'over' | 'revoked' | 'not-theirs';

/** Whether something may be watched, and the moment that this is about: when it opens, closes, or closed; null: none. */
export interface MayWatch {
  readonly is: Verdict;
  readonly when: string | null;
}

/** Whether a grant is for whoever asks. What is for anyone is for a student, too. */
const isFor = ({ grantee }: Grant, asking: Asking): boolean => {
  if (grantee.is === 'anyone') return true;
  if (asking.is === 'link') return false;
  if (grantee.is === 'student')
    return asking.is === 'student' && grantee.studentId === asking.studentId;
  return asking.is === 'class'
    ? grantee.classId === asking.classId
    : asking.classIds.includes(grantee.classId);
};

/** Of a stretch of time: it opens at the very moment that it says, and closes at it. */
const within = (
  availableFrom: string | null,
  availableUntil: string | null,
  nowMs: number,
): MayWatch => {
  if (availableUntil !== null && nowMs >= Date.parse(availableUntil))
    return { is: 'over', when: availableUntil };
  if (availableFrom !== null && nowMs < Date.parse(availableFrom))
    return { is: 'not-yet', when: availableFrom };
  return { is: 'open', when: availableUntil };
};

const RANK: Record<Verdict, number> = {
  ...{ open: 4, 'not-yet': 3, over: 2, 'not-theirs': 1, revoked: 0 },
};

/** The better of two: what opens sooner, and what closes, or closed, last. */
const better = (a: MayWatch, b: MayWatch): MayWatch => {
  if (a.is !== b.is) return RANK[a.is] > RANK[b.is] ? a : b;
  if (a.when === null) return a;
  if (b.when === null) return b;
  const sooner = Date.parse(a.when) <= Date.parse(b.when);
  return sooner === (a.is === 'not-yet') ? a : b;
};

/**
 * The one function that decides whether somebody may watch a link at a time: the best that one of their grants gives. A grant
 * with times of its own isn't bound by those of the link; nothing that was taken away is open to anybody.
 *
 * @param nowMs since 1970
 */
export const mayWatch = (
  asking: Asking,
  { revokedAt, availableFrom, availableUntil, grants }: Availability,
  nowMs: number,
): MayWatch => {
  if (revokedAt !== null) return { is: 'revoked', when: null };
  return grants
    .filter((grant) => isFor(grant, asking))
    .map((grant) =>
      within(grant.availableFrom ?? availableFrom, grant.availableUntil ?? availableUntil, nowMs),
    )
    .reduce(better, { is: 'not-theirs', when: null });
};
