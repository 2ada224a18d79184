import { idSchema, usSchema } from '../../lesson/take';
import type { TimeRange } from '../../time/ranges';

/** A stretch of a take's recorded time, as edits about one name it. */
export const ENDS = { takeId: idSchema, startUs: usSchema, endUs: usSchema };

export const runsForward = (edit: TimeRange): boolean => edit.endUs > edit.startUs;
export const FORWARD = 'a stretch ends after it starts';

/** Stands in the words for an edit where its stretch is named: in film time, once the film is known (`film/step-in-words`). */
export const STRETCH = '{stretch}';
