import type { Us } from '@under-chalk/core/time/us';

/** What all parts of settling a take need to know. */
export interface Settling {
  readonly signal: AbortSignal;
  /** Footage of others, and not a recording of ours: it can be anything, and it gives way. */
  readonly foreign: boolean;
  /** Where the take begins by the timestamps of what came in, µs. 0 for a recording: they are recorded time. */
  readonly originUs: Us;
  /** A name for something half made. */
  readonly draft: () => string;
}
