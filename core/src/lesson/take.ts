import * as z from 'zod';

/**
 * Identifiers are made by whoever makes the thing (a browser may be offline), so their form is
 * checked at every border: they become file names on the server.
 */
export const idSchema = z.string().regex(/^[a-z0-9][a-z0-9-]{5,63}$/, 'not an identifier of ours');
export type Id = z.infer<typeof idSchema>;

/** Longest a take may be: a day, µs. */
export const LONGEST_TAKE_US = 86_400_000_000;

/** A time in recorded time, whole µs from the start of its take. */
export const usSchema = z.number().int().min(0).max(LONGEST_TAKE_US);

export const trackKindSchema = z.enum(['surface', 'camera', 'voice', 'computer-sound', 'ink']);
export type TrackKind = z.infer<typeof trackKindSchema>;

/** What the surface of a take was. */
export const takeSourceSchema = z.enum(['screen', 'camera', 'sound', 'film', 'board']);
export type TakeSource = z.infer<typeof takeSourceSchema>;

/** One stream of a take. Timestamps inside its media file are recorded time of the take. */
export const trackSchema = z
  .object({
    id: idSchema,
    kind: trackKindSchema,
    durationUs: usSchema,
    /** Size as shown, after any rotation the file asks for. 0 for sound; of ink that of a page, in no real pixels. */
    widthPx: z.number().int().min(0),
    heightPx: z.number().int().min(0),
    /** SHA-256 of its media, hexadecimal, taken when it was processed; empty before, and where that was long ago. */
    digest: z.string().max(64),
  })
  .readonly();
export type Track = z.infer<typeof trackSchema>;

/**
 * - `recording`: pieces are still coming in
 * - `processing`: all that will come is here; it is being measured and indexed
 * - `ready`: can be tidied and exported
 * - `unusable`: nothing in it can be played; `problem` says why
 */
export const takeStateSchema = z.enum(['recording', 'processing', 'ready', 'unusable']);
export type TakeState = z.infer<typeof takeStateSchema>;

/** One unbroken recording: what was recorded, and never changes. */
export const takeSchema = z
  .object({
    id: idSchema,
    source: takeSourceSchema,
    /** Recorded with the simulated devices that ship with the app. */
    practice: z.boolean(),
    state: takeStateSchema,
    /** A code from the table of errors: why it is `unusable`, or what of a `ready` one can't be read. */
    problem: z.string().nullable(),
    /** Recording ended without the stop button: a closed tab, a crash, a lost connection. */
    cutShort: z.boolean(),
    recordedAt: z.string(),
    durationUs: usSchema,
    tracks: z.array(trackSchema).readonly(),
  })
  .readonly();
export type Take = z.infer<typeof takeSchema>;

/** The take's track of a kind, if it has one. */
export const trackOf = (take: Take, kind: TrackKind): Track | undefined =>
  take.tracks.find((track) => track.kind === kind);

/**
 * What a take shows beside the camera: what was captured, or the board that was written on. Ink over a face alone is no
 * surface of its own.
 */
export const surfaceOf = (take: Take): Track | undefined =>
  trackOf(take, 'surface') ?? (take.source === 'board' ? trackOf(take, 'ink') : undefined);

/** What a picture of a take is of: its surface, or the camera where it has none; or the camera in any case. */
export const pictureTrackOf = (
  take: Take,
  of: 'surface' | 'camera' = 'surface',
): Track | undefined => (of === 'surface' ? surfaceOf(take) : undefined) ?? trackOf(take, 'camera');
