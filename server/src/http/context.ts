import type { Config } from '../config';
import type { FilmMaker } from '../jobs/film-maker';
import type { Covers } from '../jobs/covers';
import type { Stills } from '../jobs/stills';
import type { TakeKeeper } from '../jobs/take-keeper';
import type { AccountStore } from '../store/account-store';
import type { FilmStore } from '../store/film-store';
import type { LessonStore } from '../store/lesson-store';
import type { PlaceStore } from '../store/place-store';
import type { TakeStore } from '../store/take-store';

export type Log = (message: string, error?: unknown) => void;

/** All that routes work with. */
export interface Parts {
  readonly config: Config;
  readonly accounts: AccountStore;
  readonly lessons: LessonStore;
  readonly takes: TakeStore;
  readonly places: PlaceStore;
  readonly films: FilmStore;
  readonly maker: FilmMaker;
  readonly keeper: TakeKeeper;
  readonly stills: Stills;
  readonly covers: Covers;
  /** Printed where the app is started; whoever knows it may set the passphrase. */
  readonly setUpCode: string;
  readonly log: Log;
}

/** What middleware leaves for routes. */
export interface State {
  signedIn: boolean;
  /** The session's token, when a cookie brought one. */
  token: string | null;
}
