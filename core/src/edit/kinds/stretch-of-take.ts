import { idSchema, usSchema } from '../../lesson/take';
import type { TimeRange } from '../../time/ranges';

/** A stretch of a take's recorded time, as edits about one name it. */
export const ENDS = { takeId: idSchema, startUs: usSchema, endUs: usSchema };

export const runsForward = (edit: TimeRange): boolean => edit.endUs > edit.startUs;
export const FORWARD = 'a stretch ends after it starts';

/** Placeholder for the edit's stretch in its description. `film/step-in-words` replaces it with film times. */
export const STRETCH = '{stretch}';
