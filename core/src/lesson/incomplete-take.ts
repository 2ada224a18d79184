import type { Take } from './take';

/** Problems that are gone when the take is processed again: what came in is kept. */
const MAY_PASS = [
  'called-off',
  'take-unreadable',
  'footage-too-slow',
  'picture-unreadable',
  'sound-unreadable',
];

/** Whether a part of a take is missing though the rest of it can be used. */
export const isIncomplete = ({ state, problem }: Pick<Take, 'state' | 'problem'>): boolean =>
  state === 'ready' && problem !== null;

/** Whether processing a take again may help. */
export const canProcessAgain = ({ state, problem }: Pick<Take, 'state' | 'problem'>): boolean =>
  (state === 'unusable' || state === 'ready') && MAY_PASS.includes(problem ?? '');
