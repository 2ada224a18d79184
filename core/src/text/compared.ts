/** The order of two names by their code units: the same in every browser and on every server. */
export const compared = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
