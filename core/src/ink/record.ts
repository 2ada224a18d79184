import * as z from 'zod';
import { idSchema, usSchema } from '../lesson/take';
import { materialPageSchema } from '../material/material';
import { cleanText } from '../text/clean';
import { paperSchema, penSchema } from './pen';

/** Farthest that anything can lie from a page's corner, widths of the page. */
const FARTHEST = 50;
/** A place, or a way: widths of the page. */
export const placeSchema = z.number().min(-FARTHEST).max(FARTHEST);
const place = placeSchema;

/**
 * A sample of a stroke: µs since the one before (the first: since its record), where it is (fractions of the page's
 * width, from its upper left corner), and the pressure, 0 to 1.
 */
export const sampleSchema = z.tuple([
  z.number().int().min(0).max(600_000_000),
  place,
  place,
  z.number().min(0).max(1),
]);
export type InkSample = z.infer<typeof sampleSchema>;

/** Samples in one record: what is drawn in a fraction of a second. */
export const MOST_SAMPLES = 2_000;
const MOST_STROKES = 5_000;

/** The words of a stroke of text. */
export const strokeTextSchema = z.string().max(2_000).overwrite(cleanText);

/** When it happened, in recorded time. */
const at = usSchema;
const strokes = z.array(idSchema).min(1).max(MOST_STROKES).readonly();

/** Something that happened to ink while a take was recorded. */
export const inkRecordSchema = z.discriminatedUnion('do', [
  /** A page is turned to; one that isn't there yet is added after all others. With `of`: a material's page lies on it. */
  z
    .object({
      at,
      do: z.literal('page'),
      page: idSchema,
      paper: paperSchema,
      of: materialPageSchema.optional(),
    })
    .readonly(),
  /** A part of the page is shown: the place of its upper left corner, and how much larger it is than the whole. */
  z
    .object({ at, do: z.literal('view'), x: place, y: place, zoom: z.number().min(0.1).max(20) })
    .readonly(),
  /** A stroke begins on the page that is shown. */
  z
    .object({
      at,
      do: z.literal('begin'),
      stroke: idSchema,
      pen: penSchema,
      text: strokeTextSchema.optional(),
    })
    .readonly(),
  /** It goes on. */
  z
    .object({
      at,
      do: z.literal('draw'),
      stroke: idSchema,
      samples: z.array(sampleSchema).min(1).max(MOST_SAMPLES).readonly(),
    })
    .readonly(),
  /** It is done. With samples: these are its points now, as where it was straightened. */
  z
    .object({
      at,
      do: z.literal('end'),
      stroke: idSchema,
      samples: z.array(sampleSchema).min(1).max(MOST_SAMPLES).readonly().optional(),
    })
    .readonly(),
  /** Strokes are wiped; wiping is taken back; they are moved. */
  z.object({ at, do: z.literal('wipe'), strokes }).readonly(),
  z.object({ at, do: z.literal('unwipe'), strokes }).readonly(),
  z.object({ at, do: z.literal('shift'), strokes, x: place, y: place }).readonly(),
  /** Something points: µs since the sample before, and where, widths of what is shown. */
  z
    .object({
      at,
      do: z.literal('point'),
      samples: z
        .array(z.tuple([z.number().int().min(0).max(600_000_000), place, place]))
        .min(1)
        .max(MOST_SAMPLES)
        .readonly(),
    })
    .readonly(),
  /** It is pressed; it is let go; nothing points any more. */
  z.object({ at, do: z.literal('press'), x: place, y: place }).readonly(),
  z.object({ at, do: z.literal('release') }).readonly(),
  z.object({ at, do: z.literal('away') }).readonly(),
]);
export type InkRecord = z.infer<typeof inkRecordSchema>;

/** Longest line of a track of ink, characters: a record with all the samples it may have. */
const MOST_LINE = 200_000;

/** A record as it stands in its track: a line of JSON. */
export const inkLine = (record: InkRecord): string => `${JSON.stringify(record)}\n`;

/** What is in a track of ink. */
export interface ReadInk {
  readonly records: readonly InkRecord[];
  /** Lines that are none of ours, or of a later version. */
  readonly unread: number;
}

/**
 * Reads a track of ink: a record a line. Half a record, at the end, is none. Times never run backwards: a record that
 * says so happened when the one before did.
 */
export const readInk = (text: string): ReadInk => {
  const records: InkRecord[] = [];
  let unread = 0;
  let lastUs = 0;
  for (
    let from = 0, end = text.indexOf('\n');
    end >= 0;
    from = end + 1, end = text.indexOf('\n', from)
  ) {
    if (end - from > MOST_LINE) {
      unread++;
      continue;
    }
    const record = readLine(text.slice(from, end));
    if (!record) {
      unread++;
      continue;
    }
    lastUs = Math.max(lastUs, record.at);
    records.push(record.at === lastUs ? record : { ...record, at: lastUs });
  }
  return { records, unread };
};

const readLine = (line: string): InkRecord | null => {
  try {
    return inkRecordSchema.safeParse(JSON.parse(line)).data ?? null;
  } catch {
    return null; // Not JSON: counted by the caller.
  }
};
