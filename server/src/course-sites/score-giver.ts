import {
  scoreMessage,
  scoreOf,
  SCORE_SCOPE,
  SCORE_TYPE,
  type Score,
} from '@under-chalk/core/course-site/score';
import { isOfSite } from '@under-chalk/core/course-site/site';
import { AppError } from '@under-chalk/core/errors/errors';
import { shareWatched } from '@under-chalk/core/watched/seconds';
import { Rounds } from '../jobs/rounds';
import { wordsFor } from '../jobs/words-for';
import type { Log } from '../log';
import type { AnswerStore } from '../store/answer-store';
import type { FilmStore } from '../store/film-store';
import type { ShareLinkStore } from '../store/share-link-store';
import type { LessonStore } from '../store/lesson-store';
import type { ViewingStore } from '../store/watched-store';
import { askedSite, leaveTo } from './site-client';
import type { DueScore, ScoreStore } from './score-store';
import type { SiteStore } from './site-store';
import type { ToolKeys } from './tool-keys';

/** What somebody does is told this much later, with what they do until then, ms. */
const SOON_MS = 10_000;
/** What a score waits before it is tried again, ms; from the last one on, always so long. */
const AGAIN_MS = [30_000, 120_000, 600_000, 3_600_000];
/** Answers after which it is tried again: the site is away, busy, or wants other leave. All others of 400 and more are for good. */
const FOR_NOW = new Set([401, 403, 408, 425, 429]);

interface Needs {
  readonly scores: ScoreStore;
  readonly sites: SiteStore;
  readonly toolKeys: ToolKeys;
  readonly films: FilmStore;
  readonly lessons: LessonStore;
  readonly shareLinks: ShareLinkStore;
  readonly watched: ViewingStore;
  readonly answers: AnswerStore;
  readonly log: Log;
}

/** Where scores of a column are given: its address may have values of its own. */
const scoresAddress = (lineItem: string): string => {
  const address = new URL(lineItem);
  address.pathname = `${address.pathname.replace(/\/$/, '')}/scores`;
  return address.href;
};

const isSame = (one: Score | null, other: Score): boolean =>
  one?.given === other.given && one.most === other.most && one.done === other.done;

/**
 * Tells courses what those who came from them have done with a film (LTI Assignment and Grade Services 2.0), where whoever put it in wanted
 * it so. What can't be told just now is kept, and told later: over a restart too.
 */
export class ScoreGiver {
  readonly #needs: Needs;
  readonly #rounds: Rounds;

  constructor(needs: Needs) {
    this.#needs = needs;
    this.#rounds = new Rounds(() => this.#giveDue(), 'scores can’t be given', needs.log);
  }

  /** Takes up what waits. */
  begin(): void {
    this.#rounds.begin();
  }

  /** A student has watched or answered something of a film. */
  async changed(shareLinkId: string, studentId: string): Promise<void> {
    const at = Date.now() + SOON_MS;
    if (await this.#needs.scores.changed(shareLinkId, studentId, at)) this.#rounds.beginAt(at);
  }

  close(): Promise<void> {
    return this.#rounds.close();
  }

  /** @returns when something is due again, ms since 1970; null: nothing is */
  async #giveDue(): Promise<number | null> {
    const { scores } = this.#needs;
    const due = await scores.due(Date.now());
    for (const siteId of new Set(due.map((one) => one.siteId))) {
      await this.#giveTo(
        siteId,
        due.filter((one) => one.siteId === siteId),
      );
    }
    return this.#rounds.closed ? null : scores.nextDue();
  }

  /** Gives a site what is due to it, with one leave for all. */
  async #giveTo(siteId: string, due: readonly DueScore[]): Promise<void> {
    const { scores, sites, toolKeys, log } = this.#needs;
    let leave: Promise<string> | null = null;
    for (const one of due) {
      if (this.#rounds.closed) return;
      const again = () => Date.now() + AGAIN_MS[Math.min(one.tries, AGAIN_MS.length - 1)]!;
      try {
        const now = await this.#scoreNow(one);
        // To have opened it, or answered one wrong, is nothing to be told of yet.
        if (one.given === null && now.given === 0 && !now.done) {
          await scores.given(one, null, Date.now() + SOON_MS);
          continue;
        }
        if (!isSame(one.given, now)) {
          const site = await sites.get(siteId);
          if (!isOfSite(site, one.lineItem)) {
            await scores.failed(one, 'its column is at another host', null);
            continue;
          }
          leave ??= leaveTo(SCORE_SCOPE, site, toolKeys);
          const status = await this.#give(one, now, await leave);
          if (status >= 400) {
            const over = status < 500 && !FOR_NOW.has(status);
            await scores.failed(one, `it answers ${status}`, over ? null : again());
            log.warn(`a score was not taken${over ? '' : ', and is tried again'}: ${status}`);
            continue;
          }
        }
        await scores.given(one, now, Date.now() + SOON_MS);
      } catch (error) {
        // What it is about was taken away meanwhile: it goes with it.
        const gone = error instanceof AppError && error.code === 'not-found';
        await scores.failed(one, gone ? 'gone' : 'it does not answer', gone ? null : again());
        log.warn('a score could not be given', error);
      }
    }
  }

  async #give(one: DueScore, score: Score, leave: string): Promise<number> {
    const told = scoreMessage(score, { userId: one.sub, at: new Date(one.changedAt) });
    const { status } = await askedSite(scoresAddress(one.lineItem), {
      method: 'POST',
      headers: { Authorization: leave, 'Content-Type': SCORE_TYPE },
      body: JSON.stringify(told),
    });
    return status;
  }

  async #scoreNow({ shareLinkId, studentId, gives, given }: DueScore): Promise<Score> {
    const { shareLinks, films, watched, answers } = this.#needs;
    const { film_id } = await shareLinks.get(shareLinkId);
    const { interactions } = await wordsFor(this.#needs, await films.get(film_id));
    const rows = await watched.ofStudent(shareLinkId, studentId);
    const theirs = await answers.ofStudent(shareLinkId, studentId);
    const score = scoreOf(gives, interactions, {
      share: Math.max(0, ...rows.map(({ seconds }) => shareWatched(seconds))),
      answers: new Map(theirs.map(({ interaction_id, answer }) => [interaction_id, answer])),
    });
    // Of what was watched once nothing is taken back: not by a film that was mended, nor by what is kept for a time only.
    const before = given?.most === score.most && gives === 'watched' ? given : null;
    return {
      ...score,
      given: Math.max(score.given, before?.given ?? 0),
      done: score.done || before?.done === true,
    };
  }
}
