import type { HeardText } from '@under-chalk/core/words/drafted';

/** Sound to be listened to: a file of 16-bit samples in one channel ({@link HEARD_RATE}). */
export interface Sound {
  readonly path: string;
  readonly durationUs: number;
}

/** Writes down what is said. What it gives is a draft: it is for somebody to look through. */
export interface Recogniser {
  /** Whether it knows a language (its base, as `en`). */
  readonly knows: (language: string) => boolean;
  /**
   * @param onProgress told what share of the sound has been listened to
   * @throws AppError `listener-failed`; the signal's reason
   */
  readonly recognise: (
    sound: Sound,
    language: string,
    onProgress: (share: number) => void,
    signal?: AbortSignal,
  ) => Promise<HeardText[]>;
}
