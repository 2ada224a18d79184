/** How many of a sorted list are no greater than a value; found by halving. */
export const countUpTo = (sorted: readonly number[], value: number): number => {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! > value) high = middle;
    else low = middle + 1;
  }
  return low;
};
