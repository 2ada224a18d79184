/** So many of something, in words. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  count === 0 ? `no ${many}` : count === 1 ? `one ${one}` : `${count} ${many}`;
