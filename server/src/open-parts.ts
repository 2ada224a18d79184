import { randomBytes } from 'node:crypto';
import { Covers } from './jobs/covers';
import { FilmMaker, type Work } from './jobs/film-maker';
import { StillMaker } from './jobs/still-maker';
import { Stills } from './jobs/stills';
import { TakeKeeper } from './jobs/take-keeper';
import type { Config } from './config';
import type { Parts } from './http/context';
import type { Log } from './log';
import { AccountStore } from './store/account-store';
import { openDatabase } from './store/database';
import { FilmStore } from './store/film-store';
import { LessonStore } from './store/lesson-store';
import { DestinationStore } from './store/destination-store';
import { TakeStore } from './store/take-store';

/** Room that small pictures may take, bytes, and how often what is over it is cleared away. */
const STILLS_BYTES = 1_000_000_000;
const TIDY_MS = 3_600_000;

/** Opens the stores. `start` begins the jobs; `close` ends all in the reverse order. */
export const openParts = async (
  config: Config,
  work: Work,
  fontFile: string | null,
  log: Log,
): Promise<{ parts: Parts; start(): Promise<void>; close(): Promise<void> }> => {
  const db = await openDatabase(config.folders.database);
  const takes = new TakeStore(db);
  const lessons = new LessonStore(db, takes);
  const films = new FilmStore(db);
  const maker = new FilmMaker({ films, lessons, config, work, fontFile, log });
  const keeper = new TakeKeeper(takes, config.folders, log);
  const stillMaker = new StillMaker(config.folders.stills);
  let tidying: NodeJS.Timeout | null = null;
  const tidy = () =>
    stillMaker
      .prune(STILLS_BYTES)
      .catch((error: unknown) => log.warn('stills can’t be cleared away', error));
  const parts: Parts = {
    config,
    accounts: new AccountStore(db),
    lessons,
    takes,
    destinations: new DestinationStore(db),
    films,
    maker,
    keeper,
    stills: new Stills(config.folders, stillMaker),
    covers: new Covers(stillMaker),
    setUpCode: randomBytes(9).toString('base64url'),
    log,
  };
  return {
    parts,
    async start() {
      await keeper.start();
      await maker.start();
      await tidy();
      tidying = setInterval(() => void tidy(), TIDY_MS);
      tidying.unref();
    },
    async close() {
      if (tidying) clearInterval(tidying);
      await maker.close();
      await keeper.close();
      await db.destroy();
    },
  };
};
