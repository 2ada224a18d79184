import type { Class, Unit } from './class';

/** What a page needs to know of a film to put it in its place. */
export interface OnPage {
  readonly lessonId: string;
  /** The class and the unit that its lesson names. */
  readonly className: string;
  readonly unit: string;
  /** Classes that it was handed out to. */
  readonly classIds: readonly string[];
  /** When it was, or will be, put up: what comes last is what is on now. ISO 8601. */
  readonly upAt: string;
  /** It can be watched now. */
  readonly open: boolean;
}

/** Films of one unit, in the order that their teacher gave them, else in which they were put up; an unnamed one has those that are of none. */
export interface UnitOnPage<F> {
  readonly name: string;
  readonly films: readonly F[];
}

export interface PageContentOf<F> {
  readonly classes: readonly {
    readonly name: string;
    /** The unit that something was put up in last; it moves down by itself when the next one is. */
    readonly now: UnitOnPage<F> | null;
    /** The others, in the class's order; those of none last. */
    readonly units: readonly UnitOnPage<F>[];
  }[];
  /** Films that belong to none of the classes. */
  readonly own: readonly F[];
}

/**
 * The class that a film stands under: the one that its lesson names, else the first that it was handed out to.
 *
 * @param classes that the student is in
 */
const classFor = ({ className, classIds }: OnPage, classes: readonly Class[]): Class | undefined =>
  classes.find(({ name }) => name === className) ?? classes.find(({ id }) => classIds.includes(id));

/** Where films stand that are of none. */
const NO_UNIT: Pick<Unit, 'name' | 'lessons'> = { name: '' };

/** Films of a unit, those first that stand in its order. The others stay as they are. */
export const ordered = <F extends { readonly lessonId: string }>(
  films: readonly F[],
  { lessons = [] }: Pick<Unit, 'lessons'>,
): F[] => {
  const place = new Map(lessons.map((id, at) => [id, at]));
  const placeOf = ({ lessonId }: F) => place.get(lessonId) ?? lessons.length;
  return [...films].sort((a, b) => placeOf(a) - placeOf(b));
};

/** Puts films in order: by class, what is on now on top, the rest below by unit. Classes without a film are left out. */
export const pageContentOf = <F extends OnPage>(
  classes: readonly Class[],
  films: readonly F[],
): PageContentOf<F> => {
  const inOrder = [...films].sort((a, b) => Date.parse(a.upAt) - Date.parse(b.upAt));
  const of = new Map<Class | undefined, F[]>();
  for (const film of inOrder) {
    const where = classFor(film, classes);
    of.set(where, [...(of.get(where) ?? []), film]);
  }
  const own = of.get(undefined) ?? [];
  return {
    classes: classes.flatMap((one) => {
      const theirs = of.get(one);
      if (!theirs) return [];
      const known = new Set(one.units.map(({ name }) => name));
      const unitOf = ({ unit }: F) => (known.has(unit) ? unit : '');
      const units = [...one.units, NO_UNIT]
        .map((unit) => ({
          name: unit.name,
          films: ordered(
            theirs.filter((film) => unitOf(film) === unit.name),
            unit,
          ),
        }))
        .filter((unit) => unit.films.length > 0);
      const last = theirs.findLast(({ open }) => open);
      const now = last ? (units.find(({ name }) => name === unitOf(last)) ?? null) : null;
      return [{ name: one.name, now, units: units.filter((unit) => unit !== now) }];
    }),
    own,
  };
};
