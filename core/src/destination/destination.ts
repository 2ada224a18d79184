import * as z from 'zod';
import { cleanLine } from '../text/clean';
import { formatSpoken, fromSeconds } from '../time/us';
import { pictureSizeSchema } from './size-name';

export const destinationIdSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{3,63}$/, 'not an identifier of ours');

/** A place where a film goes, with that place's limits. */
export const destinationSchema = z
  .object({
    id: destinationIdSchema,
    name: z.string().overwrite(cleanLine).trim().min(1).max(80),
    leastUs: z.number().int().min(0),
    /** Null: no limit. */
    mostUs: z.number().int().positive().nullable(),
    mostBytes: z.number().int().positive().nullable(),
    /** The size of picture the place wants. */
    size: pictureSizeSchema,
    /** Whether the place takes no film without captions. */
    captionsRequired: z.boolean(),
  })
  .refine((place) => place.mostUs === null || place.mostUs > place.leastUs, {
    path: ['mostUs'],
    error: 'The most must be longer than the least.',
  })
  .readonly();
export type Destination = z.infer<typeof destinationSchema>;

export const FREE_DESTINATION_ID = 'anywhere';

/** Bytes in a megabyte, as places count them. */
export const MEGABYTE = 1_000_000;

/** Bytes in words, as places count them: whole megabytes, one at least. */
export const megabytes = (bytes: number): string =>
  `${Math.max(1, Math.round(bytes / MEGABYTE))} MB`;

/** What one is without limits: the last resort of every list. */
export const FREE_DESTINATION: Destination = {
  id: FREE_DESTINATION_ID,
  name: 'A file for anywhere',
  leastUs: 0,
  mostUs: null,
  mostBytes: null,
  size: '720p',
  captionsRequired: false,
};

/** The destinations that ship with the app; the teacher can change them, and add others. */
export const FIRST_DESTINATIONS: readonly Destination[] = [
  {
    id: 'three-minute-note',
    name: 'Three-minute note',
    leastUs: fromSeconds(5),
    mostUs: fromSeconds(180),
    mostBytes: 60 * MEGABYTE,
    size: '720p',
    captionsRequired: false,
  },
  {
    id: 'course-film',
    name: 'Ten-minute course film',
    leastUs: fromSeconds(15),
    mostUs: fromSeconds(600),
    mostBytes: 250 * MEGABYTE,
    size: '720p',
    captionsRequired: true,
  },
  {
    id: 'long-lesson',
    name: 'Long lesson',
    leastUs: 0,
    mostUs: fromSeconds(5400),
    mostBytes: 2000 * MEGABYTE,
    size: '1080p',
    captionsRequired: false,
  },
  FREE_DESTINATION,
];

/** Where films go, and where attention usually ends: what the teacher has set. */
export const destinationsSchema = z.object({
  destinations: z.array(destinationSchema),
  attentionUs: z.number().int().min(fromSeconds(30)).max(fromSeconds(7200)),
});
export type Destinations = z.infer<typeof destinationsSchema>;

/** The destination of an id; one that is unknown (since deleted) has no limits. */
export const destinationOf = (destinations: readonly Destination[], id: string): Destination =>
  destinations.find((destination) => destination.id === id) ??
  destinations.find((destination) => destination.id === FREE_DESTINATION_ID) ??
  FREE_DESTINATION;

/** Limits in a few words, for lists: `15 s to 10 min · up to 250 MB · captions`. */
export const limitsInWords = (destination: Destination): string => {
  const { leastUs, mostUs, mostBytes, captionsRequired } = destination;
  const parts: string[] = [];
  if (mostUs !== null) {
    parts.push(
      leastUs > 0
        ? `${formatSpoken(leastUs)} to ${formatSpoken(mostUs)}`
        : `up to ${formatSpoken(mostUs)}`,
    );
  } else if (leastUs > 0) parts.push(`at least ${formatSpoken(leastUs)}`);
  if (mostBytes !== null) parts.push(`up to ${megabytes(mostBytes)}`);
  if (captionsRequired) parts.push('captions required');
  return parts.length > 0 ? parts.join(' · ') : 'no limit';
};
