/** What a lesson is found by, in the list of all. */
export interface Listed {
  readonly id: string;
  readonly title: string;
  readonly className: string;
  readonly unit: string;
  readonly handedOut: boolean;
  /** Put away: it works as before, and isn't in the way. */
  readonly archived: boolean;
}

/** Lessons of a class and unit. */
export interface LessonGroup<T extends Listed> {
  /** `class · unit`; empty for those of none. */
  readonly name: string;
  readonly lessons: readonly T[];
}

/** Letters without their accents and case: what is typed in a hurry finds what was written with care. */
const plain = (text: string): string =>
  text.normalize('NFKD').replace(/\p{M}/gu, '').toLocaleLowerCase();

/** Those whose title, class or unit have every word that is looked for, in their order. */
export const lessonsFound = <T extends Listed>(lessons: readonly T[], looked: string): T[] => {
  const words = plain(looked).split(/\s+/).filter(Boolean);
  return lessons.filter(({ title, className, unit }) => {
    const text = plain(`${title} ${className} ${unit}`);
    return words.every((word) => text.includes(word));
  });
};

/** Which lessons are wanted, by how far they have come. */
export type Standing = 'all' | 'to-do' | 'handed-out' | 'archived';

/** Those that stand so, in their order; what is in the archive stands nowhere else. */
export const standingSo = <T extends Listed>(lessons: readonly T[], standing: Standing): T[] =>
  lessons.filter(({ handedOut, archived }) =>
    standing === 'archived'
      ? archived
      : !archived && (standing === 'all' || handedOut === (standing === 'handed-out')),
  );

/** The first so many lessons of groups, in their order; groups of which nothing is left are left out. */
export const firstOf = <T extends Listed>(
  groups: readonly LessonGroup<T>[],
  most: number,
): LessonGroup<T>[] => {
  let left = most;
  return groups.flatMap(({ name, lessons }) => {
    const taken = lessons.slice(0, left);
    left -= taken.length;
    return taken.length > 0 ? [{ name, lessons: taken }] : [];
  });
};

/** The lesson to go on with: the one changed last that isn't handed out. `lessons`: last changed first. */
export const nextLesson = <T extends Listed>(lessons: readonly T[]): T | null =>
  lessons.find(({ handedOut }) => !handedOut) ?? null;

/** By class and unit; the group with the lesson changed last comes first. `lessons`: last changed first. */
export const byClassAndUnit = <T extends Listed>(lessons: readonly T[]): LessonGroup<T>[] => {
  const groups = new Map<string, T[]>();
  for (const lesson of lessons) {
    const name = [lesson.className, lesson.unit].filter(Boolean).join(' · ');
    groups.set(name, [...(groups.get(name) ?? []), lesson]);
  }
  return [...groups].map(([name, of]) => ({ name, lessons: of }));
};
