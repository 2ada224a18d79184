import { LEAST_PASSPHRASE } from '@under-chalk/core/contract/session';
import * as z from 'zod';

/** The teacher's name as it is typed, with what is said of a wrong one. */
export const typedName = z
  .string()
  .trim()
  .min(1, 'Type the name that students shall see.')
  .max(140);

/** A new passphrase as it is typed. */
export const typedPassphrase = z
  .string()
  .min(LEAST_PASSPHRASE, `A passphrase has ${LEAST_PASSPHRASE} characters at least.`)
  .max(400);
