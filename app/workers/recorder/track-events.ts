import type { Recovery } from '../../capture/recorder-messages';

/** What a track tells while it is recorded. */
export interface TrackEvents {
  /** Its first picture or sound is being encoded. */
  first(): void;
  /** An encoder failed, and this is how it was followed. */
  recovered(recovery: Recovery): void;
}
