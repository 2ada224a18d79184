import type { Class } from './class';

/** The class and unit that a lesson says it is of. */
export interface Named {
  readonly className: string;
  readonly unit: string;
}

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
