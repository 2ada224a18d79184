import { readWatched, writeWatched } from '@under-chalk/core/watched/kept-text';
import {
  shareWatched,
  unwatched,
  withPlayed,
  type Played,
} from '@under-chalk/core/watched/seconds';
import { asTimespan, type SiteApi } from './site-api';

/** Most that a site keeps for a page (`cmi.suspend_data`, §3.4.4). */
const MOST_SIGNS = 4_096;

/** What a course site knows of somebody who watches, and is told: where they were, what they have watched, whether that is all of it. */
export class ToldWatched {
  readonly #api: SiteApi | null;
  readonly #complete: number;
  #watched: string;
  /** Where they were, s. */
  readonly fromS: number;

  /**
   * @param seconds of the film
   * @param complete the share of it that is all of it, 0 to 1
   */
  constructor(api: SiteApi | null, seconds: number, complete: number) {
    this.#api = api;
    this.#complete = complete;
    api?.LMSInitialize('');
    const known = api?.LMSGetValue('cmi.suspend_data') ?? '';
    this.#watched = known === '' ? unwatched(seconds) : readWatched(known, seconds);
    const place = Number(api?.LMSGetValue('cmi.core.lesson_location') || 0);
    this.fromS = place > 0 && place < seconds - 1 ? place : 0;
    // Who has completed it stays so, however little is watched now.
    if (api && !this.isComplete && !this.#wasComplete())
      this.#set('cmi.core.lesson_status', 'incomplete');
  }

  get share(): number {
    return shareWatched(this.#watched);
  }

  get isComplete(): boolean {
    return this.share >= this.#complete;
  }

  /** Tells what was played since, and where the film is. */
  played(played: readonly Played[], atS: number): void {
    this.#watched = withPlayed(this.#watched, played);
    if (!this.#api) return;
    this.#set('cmi.suspend_data', writeWatched(this.#watched, MOST_SIGNS));
    this.#set('cmi.core.lesson_location', atS.toFixed(1));
    this.#set('cmi.core.score.min', '0');
    this.#set('cmi.core.score.max', '100');
    this.#set('cmi.core.score.raw', String(Math.round(this.share * 100)));
    if (this.isComplete) this.#set('cmi.core.lesson_status', 'completed');
    this.#api.LMSCommit('');
  }

  /** Nothing more is told. @param seconds how long the page was open */
  end(seconds: number): void {
    this.#set('cmi.core.session_time', asTimespan(seconds));
    this.#api?.LMSFinish('');
  }

  #wasComplete(): boolean {
    return ['completed', 'passed'].includes(this.#api?.LMSGetValue('cmi.core.lesson_status') ?? '');
  }

  #set(name: string, value: string): void {
    this.#api?.LMSSetValue(name, value);
  }
}
