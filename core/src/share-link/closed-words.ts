import { ERRORS } from '../errors/errors';
import type { Closed } from './closed';

/** What is said where a link leads to no film at this moment, and what can be done. */
export const CLOSED_WORDS = {
  'not-found': {
    message: 'There is no film at this address.',
    hint: 'Ask your teacher for the new link.',
  },
  'not-open-yet': ERRORS['not-open-yet'],
  'no-longer-open': ERRORS['no-longer-open'],
  'not-for-you': ERRORS['not-for-you'],
  'pin-needed': ERRORS['pin-needed'],
} as const satisfies Record<Closed, { readonly message: string; readonly hint: string }>;
