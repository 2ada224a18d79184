/**
 * How fast recorded time goes by in the film: so many recorded frames in so many of the film. Both are whole and have no
 * common divisor. Frames of the film that go by at a rate lie on a lattice over recorded time that begins at 0: which
 * recorded frames are shown doesn't depend on where a stretch begins, and two stretches take as long as both in one.
 */
export interface Rate {
  readonly recorded: number;
  readonly film: number;
}

/** As it was recorded. */
export const AT_SPEED: Rate = { recorded: 1, film: 1 };

export const sameRate = (a: Rate, b: Rate): boolean =>
  a.recorded === b.recorded && a.film === b.film;

/** The first step of a rate's lattice that shows a recorded frame, or one after it. */
export const stepFrom = ({ recorded, film }: Rate, recordedFrame: number): number =>
  Math.ceil((recordedFrame * film) / recorded);

/** The recorded frame that a step of a rate's lattice shows. */
export const frameAtStep = ({ recorded, film }: Rate, step: number): number =>
  Math.floor((step * recorded) / film);
