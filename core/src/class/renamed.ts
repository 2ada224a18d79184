import type { Class } from './class';

/** The class and unit that a lesson says it is of. */
export interface Named {
  readonly className: string;
  readonly unit: string;
}

/** Whether a class, or one of its units, has another name from now on. */
export const hasOtherNames = (before: Class, after: Class): boolean =>
  after.name !== before.name ||
  before.units.some(
    ({ id, name }) => (after.units.find((unit) => unit.id === id)?.name ?? name) !== name,
  );

/**
 * What a lesson says when its class or units have other names from now on: it stays with them. Null: it says so already, or is of
 * another class.
 */
export const followed = ({ className, unit }: Named, before: Class, after: Class): Named | null => {
  if (className !== before.name) return null;
  const its = before.units.find(({ name }) => name === unit);
  // Of a unit that is taken out it goes on saying so: nobody has said where else it belongs.
  const now = after.units.find(({ id }) => id === its?.id)?.name ?? unit;
  return now === unit && after.name === className ? null : { className: after.name, unit: now };
};
