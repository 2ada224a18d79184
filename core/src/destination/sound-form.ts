import * as z from 'zod';

/** How a film's sound alone is given: as it is in the film, or as every player of old takes it. */
export const soundFormSchema = z.enum(['m4a', 'mp3']);
export type SoundForm = z.infer<typeof soundFormSchema>;
