/** Things one after the other, as they are said: `this, that and those`. Empty for none. */
export const listed = (all: readonly string[]): string =>
  all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)!}`;
