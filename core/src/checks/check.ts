import type { Act } from '../edit/edit';
import type { Id } from '../lesson/take';
import type { Us } from '../time/us';

/** What is mended by a press: by what is decided then and there, by processing a take again, at a step of the lesson, or where it is chosen. */
export type Mend =
  | { readonly words: string; readonly acts: readonly Act[] }
  | { readonly words: string; readonly processTakeId: Id }
  | { readonly words: string; readonly opens: 'cover' | 'licence' }
  | { readonly words: string; readonly step: 'plan' | 'record' | 'tidy' | 'words' };

/** One line of the last look. */
export interface Check {
  readonly id:
    | 'title'
    | 'incomplete'
    | 'length'
    | 'sound'
    | 'loudness'
    | 'too-loud'
    | 'room'
    | 'dead-air'
    | 'picture'
    | 'cover'
    | 'licence'
    | 'face'
    | 'small-text'
    | 'flaw'
    | 'named'
    | 'bytes'
    | 'captions'
    | 'practice';
  readonly verdict: 'good' | 'look' | 'stop';
  readonly sentence: string;
  /** The first place of the film that it is about, µs; absent: the whole of it. */
  readonly atUs?: Us;
  readonly mend?: Mend;
}
