/**
 * Whether a recorder has time to spare: nothing was left out since it was asked last.
 *
 * @param leftOut how many pictures have been left out so far
 */
export const easeOf = (leftOut: () => number): (() => boolean) => {
  let before = leftOut();
  return () => {
    const now = leftOut();
    const atEase = now === before;
    before = now;
    return atEase;
  };
};
