import { LEAST_PASSPHRASE } from '@under-chalk/core/contract/session';
import * as z from 'zod';
import type { TeacherMessageId } from '../../messages/use-text';

/** Arguments of the messages about them. */
export const LIMITS = { least: LEAST_PASSPHRASE };

/** The teacher's name as it is typed. Problems are message ids. */
export const typedName = z
  .string()
  .trim()
  .min(1, 'account.nameMissing' satisfies TeacherMessageId)
  .max(140);

/** A new passphrase as it is typed. Problems are message ids. */
export const typedPassphrase = z
  .string()
  .min(LEAST_PASSPHRASE, 'account.passphraseShort' satisfies TeacherMessageId)
  .max(400);
