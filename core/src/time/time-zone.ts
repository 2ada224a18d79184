import * as z from 'zod';

const isTimeZone = (name: string): boolean => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
};

/** Name of a time zone in the IANA database, such as `Europe/Berlin`. */
export const timeZoneSchema = z.string().max(64).refine(isTimeZone, 'no time zone');
