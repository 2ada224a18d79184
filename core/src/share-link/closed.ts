/** Why a link leads to no film at this moment: codes of the table of errors. */
export const CLOSED = [
  'not-found',
  'not-open-yet',
  'no-longer-open',
  'not-for-you',
  'pin-needed',
] as const;
export type Closed = (typeof CLOSED)[number];
