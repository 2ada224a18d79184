import { randomBytes } from 'node:crypto';
import { Covers } from './jobs/covers';
import { FilmMaker, type Work } from './jobs/film-maker';
import { Stills } from './jobs/stills';
import { TakeKeeper } from './jobs/take-keeper';
import type { Config } from './config';
import type { Log, Parts } from './http/context';
import { AccountStore } from './store/account-store';
import { openDatabase } from './store/database';
import { FilmStore } from './store/film-store';
import { LessonStore } from './store/lesson-store';
import { PlaceStore } from './store/place-store';
import { TakeStore } from './store/take-store';

/** Opens the stores and starts the jobs. `close` ends them in the reverse order. */
export const openParts = async (
  config: Config,
  work: Work,
  fontFile: string | null,
  log: Log,
): Promise<{ parts: Parts; close(): Promise<void> }> => {
  const db = await openDatabase(config.folders.database);
  const takes = new TakeStore(db);
  const lessons = new LessonStore(db, takes);
  const films = new FilmStore(db);
  const maker = new FilmMaker({ films, lessons, config, work, fontFile, log });
  const keeper = new TakeKeeper(takes, config.folders, log);
  const parts: Parts = {
    config,
    accounts: new AccountStore(db),
    lessons,
    takes,
    places: new PlaceStore(db),
    films,
    maker,
    keeper,
    stills: new Stills(config.folders),
    covers: new Covers(config.folders),
    setUpCode: randomBytes(9).toString('base64url'),
    log,
  };
  await keeper.start();
  await maker.start();
  return {
    parts,
    async close() {
      await maker.close();
      await keeper.close();
      await db.destroy();
    },
  };
};
