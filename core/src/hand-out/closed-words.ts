import { ERRORS } from '../errors/errors';
import type { Closed } from './closed';

/** What is said where a link leads to no film at this moment, and what can be done. */
export const CLOSED_WORDS = {
  'not-found': {
    sentence: 'There is no film at this address.',
    next: 'Ask your teacher for the new link.',
  },
  'not-open-yet': ERRORS['not-open-yet'],
  'no-longer-open': ERRORS['no-longer-open'],
  'not-for-you': ERRORS['not-for-you'],
  'number-needed': ERRORS['number-needed'],
} as const satisfies Record<Closed, { readonly sentence: string; readonly next: string }>;
