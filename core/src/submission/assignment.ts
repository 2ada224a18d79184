import * as z from 'zod';
import { cleanText } from '../text/clean';

/** Ways in which something can be handed in: typed, a file, or half a minute of voice or camera. */
export const SUBMISSION_BY = ['words', 'file', 'voice', 'camera'] as const;
export const submissionBySchema = z.enum(SUBMISSION_BY);
export type SubmissionBy = z.infer<typeof submissionBySchema>;

export const MOST_ACTIVITY_SIGNS = 2_000;
export const MOST_NEXT_SIGNS = 500;

/** What a student does when they have watched a film. */
export const assignmentSchema = z
  .object({
    /** What is to be done. */
    text: z.string().overwrite(cleanText).trim().min(1).max(MOST_ACTIVITY_SIGNS),
    /** What comes when it is done; empty: nothing is said. */
    next: z.string().overwrite(cleanText).trim().max(MOST_NEXT_SIGNS).default(''),
    /** By when, ISO 8601 in UTC; null: whenever they like. What comes later is taken, and said to be late. */
    dueAt: z.iso.datetime().nullable(),
    /** How it can be handed in; none: it isn't. */
    by: z.array(submissionBySchema).max(SUBMISSION_BY.length).readonly(),
  })
  .readonly();
export type Assignment = z.infer<typeof assignmentSchema>;

/** Whether something came after the date. Both ISO 8601. */
export const isLate = (at: string, dueAt: string | null): boolean =>
  dueAt !== null && Date.parse(at) > Date.parse(dueAt);
