import { randomBytes } from 'node:crypto';
import { mkdir } from 'node:fs/promises';
import pLimit from 'p-limit';
import { Tickets } from './http/tickets';
import { EarlyPieces } from './jobs/ahead/early-pieces';
import { FilmSizes } from './jobs/ahead/film-sizes';
import { BinService } from './jobs/bin-service';
import { LessonArchiveService } from './jobs/lesson-archive/lesson-archive-service';
import { PreparedLists } from './jobs/prepared-lists';
import { StorageService } from './jobs/storage-service';
import { StorageStore } from './store/storage-store';
import { Covers } from './jobs/covers';
import { SubmissionService } from './jobs/submissions/submission-service';
import { FaceFinder } from './jobs/faces/face-finder';
import { FilmMaker, type Work } from './jobs/film-maker';
import { FilmStills } from './jobs/film-stills';
import { StillMaker } from './jobs/still-maker';
import { MaterialService } from './jobs/materials/material-service';
import { PagePictures } from './jobs/materials/page-pictures';
import { Notes } from './jobs/notes/notes';
import { NoiseReducedTracks } from './jobs/noise-reduction/noise-reduced-tracks';
import { calmOf } from './jobs/readings/calm';
import { loudnessOfTakes } from './jobs/readings/loudness';
import { PageReadings } from './jobs/readings/page-readings';
import { PictureReadings } from './jobs/readings/picture-readings';
import { PointerReadings } from './jobs/readings/pointer-readings';
import { registerTitleFont } from './jobs/title-font';
import { Stills } from './jobs/stills';
import { FilmStreams } from './jobs/stream/film-streams';
import { FilmPreviews } from './jobs/stream/film-previews';
import { FittedFilms } from './jobs/fitted-films';
import { Renditions } from './jobs/stream/renditions';
import { TakeService } from './jobs/take-service';
import type { Config, Shipped } from './config';
import type { Parts } from './http/context';
import type { Log } from './log';
import { AnswerStore } from './store/answer-store';
import { Launches } from './course-sites/launches';
import { Registrations } from './course-sites/registrations';
import { ScoreGiver } from './course-sites/score-giver';
import { ScoreStore } from './course-sites/score-store';
import { SiteStore } from './course-sites/site-store';
import { ToolKeys } from './course-sites/tool-keys';
import { SubmissionStore } from './store/submission-store';
import { AccountStore } from './store/account-store';
import { BinStore } from './store/bin-store';
import { openDatabase } from './store/database';
import { FilmStore } from './store/film-store';
import { MailService } from './mail/mail-service';
import { TestInbox } from './mail/test-inbox';
import { MailStore } from './store/mail-store';
import { GrantStore } from './store/grant-store';
import { ShareLinkStore } from './store/share-link-store';
import { StudentPageStore } from './store/student-page-store';
import { TokenFinder } from './store/token-finder';
import { LessonStore } from './store/lesson-store';
import { openSeal } from './store/link-seal';
import {
  savedLayoutsSchema,
  MOST_SAVED_LAYOUTS,
  type SavedLayout,
} from '@under-chalk/core/lesson/saved-layout';
import {
  MOST_SAVED_STYLES,
  savedStylesSchema,
  type SavedStyle,
} from '@under-chalk/core/lesson/saved-style';
import { KeptList } from './store/kept-list';
import { LessonArchiveStore } from './store/lesson-archive-store';
import { ClassPageStore } from './store/class-page-store';
import { ClassStore } from './store/class-store';
import { ClassMaterials } from './store/class-materials';
import { MaterialStore } from './store/material-store';
import { mediaIn } from './store/media-store';
import { DestinationStore } from './store/destination-store';
import { TranscriptSearch } from './store/transcript-search';
import { TakeStore } from './store/take-store';
import { ViewingStore } from './store/watched-store';
import { WordsJobs } from './words/words-jobs';

/** Room that small pictures may take, bytes, and how often what is over it is cleared away. */
const STILLS_BYTES = 1_000_000_000;
const TIDY_MS = 3_600_000;

/** Opens the stores. `start` begins the jobs; `close` ends all in the reverse order. */
export const openParts = async (
  config: Config,
  work: Work,
  shipped: Shipped,
  log: Log,
): Promise<{ parts: Parts; start(): Promise<void>; close(): Promise<void> }> => {
  await mkdir(config.folders.home, { recursive: true });
  const seal = await openSeal(config.folders.home);
  const db = await openDatabase(config.folders.database, config.synchronous);
  const takes = new TakeStore(db);
  const lessons = new LessonStore(db, takes);
  const films = new FilmStore(db);
  const media = mediaIn(config.folders);
  const grants = new GrantStore(db);
  const studentPages = new StudentPageStore(db, seal);
  const classPages = new ClassPageStore(db, seal);
  const tokens = new TokenFinder(db, grants, { studentPages, classPages });
  const shareLinks = new ShareLinkStore(db, seal, grants, tokens);
  const accounts = new AccountStore(db);
  const mails = new MailStore(db, seal);
  const watched = new ViewingStore(db);
  const answers = new AnswerStore(db);
  const submissions = new SubmissionStore(db);
  const sites = new SiteStore(db);
  const toolKeys = new ToolKeys(db, seal);
  const siteScores = new ScoreStore(db);
  const scoreGiver = new ScoreGiver({
    ...{ scores: siteScores, sites, toolKeys, films, lessons, shareLinks, watched, answers, log },
  });
  const submissionService = new SubmissionService({
    ...{ folders: config.folders, submissions, log, readerScript: shipped.readerScript },
  });
  const testInbox = new TestInbox(config.folders.testInbox);
  const classes = new ClassStore(db);
  const mailService = new MailService({
    ...{ mails, testInbox, accounts, classes, films, grants, shareLinks, studentPages, log },
  });
  const pages = new PagePictures(config.folders, shipped.readerScript);
  const stillMaker = new StillMaker(config.folders.stills);
  const faces = new FaceFinder(shipped.faceScript);
  const covers = new Covers(stillMaker, new FilmStills(media, pages), faces);
  const maker: FilmMaker = new FilmMaker({
    ...{ films, lessons, media, config, work, shipped, log },
    onMade: (filmId) => void renditionIfShared(filmId),
    onBegun: () => filmSizes.stop(),
  });
  const streams = new FilmStreams({ films, media, maker, chunksFolder: config.folders.chunks });
  const renditions = new Renditions({ films, media, streams, log });
  const fittedFilms = new FittedFilms({ films, media, log });
  const renditionIfShared = async (filmId: string) => {
    if ((await shareLinks.filmsGiven()).includes(filmId)) await renditions.want(filmId);
  };
  /** Its loudness will be asked for: it is measured as soon as it can be. */
  const measureEarly = async (takeId: string) => {
    try {
      await loudnessOfTakes([await takes.get(takeId)], media, stopping.signal);
    } catch (error) {
      if (!stopping.signal.aborted) log.warn(`take ${takeId}: how loud it is can’t be told`, error);
    }
  };
  const stopping = new AbortController();
  const noiseReduced = new NoiseReducedTracks({
    ...{ media, folders: config.folders, script: shipped.noiseReductionScript, log },
  });
  // Neither is in a hurry, and each would have a core for itself.
  const inTurn = pLimit(1);
  const calm = calmOf(takes);
  const pointers = new PointerReadings({
    ...{ takes, media, script: config.readings ? shipped.pointerScript : '', log, inTurn, calm },
  });
  const script = config.readings ? shipped.pictureScript : '';
  const pictures = new PictureReadings({ takes, media, script, log, inTurn, calm });
  const pageReadings = new PageReadings({
    folders: config.folders,
    pages,
    script,
    log,
    inTurn,
    calm,
  });
  const destinations = new DestinationStore(db);
  const takeService: TakeService = new TakeService(takes, media, log, {
    ended: (takeId) => earlyPieces.end(takeId),
    ready: (takeId) => {
      void pointers.ready(takeId).then(() => pictures.ready(takeId));
      void measureEarly(takeId);
    },
  });
  const earlyPieces = new EarlyPieces({
    ...{ takes, lessons, destinations, config, shipped, log },
    soFar: (trackId) => takeService.soFar(trackId),
    isIdle: () => maker.isIdle,
  });
  const filmSizes: FilmSizes = new FilmSizes({
    ...{ media, config, shipped, log, calm },
    isIdle: () => maker.isIdle,
  });
  const wordsJobs = new WordsJobs(log);
  const bin = new BinStore(db);
  registerTitleFont(shipped.fontFile);
  const classMaterials = new ClassMaterials(db);
  const materials = new MaterialStore(db, classMaterials);
  const { folders } = config;
  const materialService = new MaterialService({ materials, pages, media, folders, log });
  const bundles = new LessonArchiveService({
    bundles: new LessonArchiveStore(db),
    ...{ db, folders, classMaterials, media, takeService, materialService, log },
    mostBytes: config.mostBytes,
  });
  const binService = new BinService({
    ...{ bin, lessons, takes, media, takeService, maker, materialService, classMaterials, classes },
    ...{ shareLinks, watched, log },
  });
  let tidying: NodeJS.Timeout | null = null;
  const tidy = async () => {
    await binService.sweep();
    await submissionService.sweep();
    await bundles.sweep();
    for (const cache of [stillMaker, pages]) {
      await cache
        .prune(STILLS_BYTES)
        .catch((error: unknown) => log.warn('pictures can’t be cleared away', error));
    }
  };
  const said = new TranscriptSearch(db, async (id) => (await lessons.view(id)).lesson, log);
  const preparedLists = new PreparedLists(db, lessons, said, log);
  const parts: Parts = {
    config,
    accounts,
    lessons,
    takes,
    destinations,
    layouts: new KeptList<SavedLayout>(db, {
      ...{ name: 'layouts', schema: savedLayoutsSchema, most: MOST_SAVED_LAYOUTS },
      full: 'too-many-layouts',
    }),
    savedStyles: new KeptList<SavedStyle>(db, {
      ...{
        name: 'savedStyles',
        schema: savedStylesSchema,
        most: MOST_SAVED_STYLES,
        full: 'too-many-saved-styles',
      },
    }),
    films,
    ...{
      shareLinks,
      grants,
      studentPages,
      classPages,
      tokens,
      tickets: new Tickets(seal.for('segment tickets')),
      mails,
      mailService,
      testInbox,
      watched,
      ...{ answers, submissions, submissionService },
      ...{ sites, launches: new Launches(sites, seal.for('launch states')), toolKeys, seal },
      ...{
        siteScores,
        scoreGiver,
        registrations: new Registrations(sites, seal.for('registration tickets')),
      },
    },
    media,
    bin,
    binService,
    storageService: new StorageService({
      ...{ folders: config.folders, room: new StorageStore(db), media, films, binService },
    }),
    bundles,
    maker,
    ...{ streams, renditions, fittedFilms },
    ...{ takeService, earlyPieces, filmSizes },
    materials,
    ...{ classMaterials, classes },
    materialService,
    pages,
    ...{ pointers, pictures, pageReadings },
    noiseReduced,
    likenessScript: shipped.likenessScript,
    packaged: { player: shipped.coursePlayer, schemas: shipped.scormSchemas },
    stills: new Stills(media, stillMaker, pages),
    covers,
    previews: new FilmPreviews(stillMaker, media),
    said,
    wordsJobs,
    notes: new Notes(media, pages, shipped.fontFile),
    setUpCode: randomBytes(9).toString('base64url'),
    log,
  };
  return {
    parts,
    async start() {
      await takeService.start();
      await maker.start();
      await materialService.takeUp();
      await pointers.start();
      await bundles.start();
      mailService.send();
      scoreGiver.begin();
      preparedLists.begin();
      for (const filmId of await shareLinks.filmsGiven()) void renditions.want(filmId);
      await tidy();
      tidying = setInterval(() => void tidy(), TIDY_MS);
      tidying.unref();
    },
    async close() {
      stopping.abort(new Error('the server is stopping'));
      if (tidying) clearInterval(tidying);
      fittedFilms.close();
      await watched.close();
      await mailService.close();
      await scoreGiver.close();
      await preparedLists.close();
      await testInbox.close();
      await renditions.close();
      await wordsJobs.close();
      await bundles.close();
      await earlyPieces.close();
      await filmSizes.close();
      await maker.close();
      await takeService.close();
      await materialService.close();
      await pointers.close();
      await pictures.close();
      await pageReadings.close();
      await faces.close();
      await noiseReduced.close();
      await db.destroy();
    },
  };
};
