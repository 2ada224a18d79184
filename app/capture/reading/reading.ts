import type { Given } from './given';

/** A track being read. */
export interface Reading {
  readonly given: Given;
  /** What must be handed over with it, and not copied. */
  readonly transfer: Transferable[];
  close(): void;
}
