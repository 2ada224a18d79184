import type * as z from 'zod';

/** A value that is kept as JSON; null where it can't be read: one damaged row must not hide all others. */
export const readJson = <T>(schema: z.ZodType<T>, text: string): T | null => {
  try {
    return schema.parse(JSON.parse(text));
  } catch {
    return null;
  }
};
