import * as z from 'zod';
import { fromSeconds, type Us } from '../time/us';

/** A place where a film goes, with that place's limits. */
export const destinationSchema = z
  .object({
    id: z.string().max(64),
    name: z.string(),
    leastUs: z.number().int().min(0),
    /** Null: no limit. */
    mostUs: z.number().int().positive().nullable(),
    mostBytes: z.number().int().positive().nullable(),
  })
  .readonly();
export type Destination = z.infer<typeof destinationSchema>;

export const FREE_DESTINATION_ID = 'anywhere';

const MEGABYTE = 1_000_000;

/** The destinations that ship with the app. */
export const DESTINATIONS: readonly Destination[] = [
  {
    id: 'three-minute-note',
    name: 'Three-minute note',
    leastUs: fromSeconds(5),
    mostUs: fromSeconds(180),
    mostBytes: 60 * MEGABYTE,
  },
  {
    id: 'course-film',
    name: 'Ten-minute course film',
    leastUs: fromSeconds(15),
    mostUs: fromSeconds(600),
    mostBytes: 250 * MEGABYTE,
  },
  {
    id: 'long-lesson',
    name: 'Long lesson',
    leastUs: 0,
    mostUs: fromSeconds(5400),
    mostBytes: 2000 * MEGABYTE,
  },
  {
    id: FREE_DESTINATION_ID,
    name: 'A file for anywhere',
    leastUs: 0,
    mostUs: null,
    mostBytes: null,
  },
];

/** The destination of an id; one that is unknown (made on another device, since deleted) has no limits. */
export const destinationOf = (id: string): Destination =>
  DESTINATIONS.find((destination) => destination.id === id) ??
  DESTINATIONS.find((destination) => destination.id === FREE_DESTINATION_ID)!;

/** Limits in a few words, for lists: `15 s to 10 min · up to 250 MB`. */
export const limitsInWords = (destination: Destination): string => {
  const length = (us: Us) => {
    const seconds = Math.round(us / 1_000_000);
    return seconds % 60 === 0 ? `${seconds / 60} min` : `${seconds} s`;
  };
  const parts: string[] = [];
  if (destination.mostUs !== null) {
    parts.push(
      destination.leastUs > 0
        ? `${length(destination.leastUs)} to ${length(destination.mostUs)}`
        : `up to ${length(destination.mostUs)}`,
    );
  }
  if (destination.mostBytes !== null) parts.push(`up to ${destination.mostBytes / MEGABYTE} MB`);
  return parts.length > 0 ? parts.join(' · ') : 'no limit';
};
