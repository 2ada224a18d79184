import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { define, ok } from './endpoint';

/** What can be thrown away. */
export const binKindSchema = z.enum(['lesson', 'take', 'film']);
export type BinKind = z.infer<typeof binKindSchema>;

/** Days that what is thrown away stays in the bin. */
export const BIN_DAYS = 30;

export const binRowSchema = z.object({
  kind: binKindSchema,
  id: idSchema,
  /** Title of the lesson that it is, or belongs to. */
  title: z.string(),
  lengthUs: usSchema,
  /** When it was recorded or made. */
  madeAt: z.string(),
  removedAt: z.string(),
  /** When it goes for good. */
  goesAt: z.string(),
  /** Room that goes with it, bytes. */
  bytes: z.number().int(),
});
export type BinRow = z.infer<typeof binRowSchema>;

const inBin = z.object({ kind: binKindSchema, id: idSchema });

export const BIN = define({
  bin: {
    method: 'get',
    path: '/api/bin',
    summary: `What was thrown away in the last ${BIN_DAYS} days, latest first.`,
    answer: z.array(binRowSchema),
  },
  moveToBin: {
    method: 'post',
    path: '/api/bin/:kind/:id',
    summary: `Put a lesson, a take or a film into the bin. It goes for good after ${BIN_DAYS} days; until then it can be brought back. A film at a link, and a take that another lesson shows too, are refused.`,
    params: inBin,
    answer: ok,
  },
  restoreFromBin: {
    method: 'post',
    path: '/api/bin/:kind/:id/restore',
    summary: 'Bring something back from the bin.',
    params: inBin,
    answer: ok,
  },
  purgeFromBin: {
    method: 'delete',
    path: '/api/bin/:kind/:id',
    summary: 'Let something in the bin go for good, now.',
    params: inBin,
    answer: ok,
  },
});
