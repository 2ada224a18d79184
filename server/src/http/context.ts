import type { Config } from '../config';
import type { StorageService } from '../jobs/storage-service';
import type { BinService } from '../jobs/bin-service';
import type { LessonArchiveService } from '../jobs/lesson-archive/lesson-archive-service';
import type { InPackage } from '../jobs/course-package';
import type { FilmMaker } from '../jobs/film-maker';
import type { Covers } from '../jobs/covers';
import type { MaterialService } from '../jobs/materials/material-service';
import type { PagePictures } from '../jobs/materials/page-pictures';
import type { Notes } from '../jobs/notes/notes';
import type { NoiseReducedTracks } from '../jobs/noise-reduction/noise-reduced-tracks';
import type { PageReadings } from '../jobs/readings/page-readings';
import type { PictureReadings } from '../jobs/readings/picture-readings';
import type { PointerReadings } from '../jobs/readings/pointer-readings';
import type { Stills } from '../jobs/stills';
import type { FilmStreams } from '../jobs/stream/film-streams';
import type { FittedFilms } from '../jobs/fitted-films';
import type { FilmPreviews } from '../jobs/stream/film-previews';
import type { Renditions } from '../jobs/stream/renditions';
import type { EarlyPieces } from '../jobs/ahead/early-pieces';
import type { FilmSizes } from '../jobs/ahead/film-sizes';
import type { TakeService } from '../jobs/take-service';
import type { Tickets } from './tickets';
import type { Log } from '../log';
import type { MailService } from '../mail/mail-service';
import type { TestInbox } from '../mail/test-inbox';
import type { MailStore } from '../store/mail-store';
import type { SubmissionService } from '../jobs/submissions/submission-service';
import type { AnswerStore } from '../store/answer-store';
import type { Launches } from '../course-sites/launches';
import type { Registrations } from '../course-sites/registrations';
import type { ScoreGiver } from '../course-sites/score-giver';
import type { ScoreStore } from '../course-sites/score-store';
import type { SiteStore } from '../course-sites/site-store';
import type { ToolKeys } from '../course-sites/tool-keys';
import type { LinkSeal } from '../store/link-seal';
import type { SubmissionStore } from '../store/submission-store';
import type { AccountStore } from '../store/account-store';
import type { BinStore } from '../store/bin-store';
import type { FilmStore } from '../store/film-store';
import type { ShareLinkStore } from '../store/share-link-store';
import type { LessonStore } from '../store/lesson-store';
import type { SavedLayout } from '@under-chalk/core/lesson/saved-layout';
import type { SavedStyle } from '@under-chalk/core/lesson/saved-style';
import type { KeptList } from '../store/kept-list';
import type { GrantStore } from '../store/grant-store';
import type { StudentPageStore } from '../store/student-page-store';
import type { TokenFinder } from '../store/token-finder';
import type { ClassPageStore } from '../store/class-page-store';
import type { ClassStore } from '../store/class-store';
import type { ClassMaterials } from '../store/class-materials';
import type { MaterialStore } from '../store/material-store';
import type { MediaStore } from '../store/media-store';
import type { DestinationStore } from '../store/destination-store';
import type { TranscriptSearch } from '../store/transcript-search';
import type { TakeStore } from '../store/take-store';
import type { ViewingStore } from '../store/watched-store';
import type { WordsJobs } from '../words/words-jobs';

/** All that routes work with. */
export interface Parts {
  readonly config: Config;
  readonly accounts: AccountStore;
  readonly lessons: LessonStore;
  readonly takes: TakeStore;
  readonly destinations: DestinationStore;
  readonly layouts: KeptList<SavedLayout>;
  readonly savedStyles: KeptList<SavedStyle>;
  readonly films: FilmStore;
  readonly shareLinks: ShareLinkStore;
  readonly grants: GrantStore;
  readonly studentPages: StudentPageStore;
  readonly classPages: ClassPageStore;
  readonly tokens: TokenFinder;
  readonly tickets: Tickets;
  readonly watched: ViewingStore;
  readonly answers: AnswerStore;
  readonly submissions: SubmissionStore;
  readonly sites: SiteStore;
  readonly launches: Launches;
  readonly registrations: Registrations;
  readonly toolKeys: ToolKeys;
  readonly siteScores: ScoreStore;
  readonly scoreGiver: ScoreGiver;
  /** For what goes out and comes back to us unchanged. */
  readonly seal: LinkSeal;
  readonly submissionService: SubmissionService;
  readonly mails: MailStore;
  readonly mailService: MailService;
  readonly testInbox: TestInbox;
  readonly media: MediaStore;
  readonly bin: BinStore;
  readonly binService: BinService;
  readonly storageService: StorageService;
  readonly bundles: LessonArchiveService;
  readonly maker: FilmMaker;
  readonly streams: FilmStreams;
  readonly renditions: Renditions;
  readonly fittedFilms: FittedFilms;
  readonly takeService: TakeService;
  readonly earlyPieces: EarlyPieces;
  readonly filmSizes: FilmSizes;
  readonly materials: MaterialStore;
  readonly classMaterials: ClassMaterials;
  readonly classes: ClassStore;
  readonly materialService: MaterialService;
  readonly pages: PagePictures;
  readonly pointers: PointerReadings;
  readonly pictures: PictureReadings;
  readonly pageReadings: PageReadings;
  readonly noiseReduced: NoiseReducedTracks;
  /** The program of the thread that compares voices; empty: it is done in the server’s own. */
  readonly likenessScript: string;
  /** What goes into packages for course sites: the program of their page, and the schemas they keep to. */
  readonly packaged: Pick<InPackage, 'player' | 'schemas'>;
  readonly stills: Stills;
  readonly covers: Covers;
  readonly previews: FilmPreviews;
  readonly notes: Notes;
  readonly said: TranscriptSearch;
  readonly wordsJobs: WordsJobs;
  /** Printed where the app is started; whoever knows it may set the passphrase. */
  readonly setUpCode: string;
  readonly log: Log;
}

/** What middleware leaves for routes. */
export interface State {
  /** It is the teacher: by a session, or in the demo by being on this machine. */
  teacher: boolean;
  /** The session's token, when a cookie brought one. */
  session: string | null;
  /** A cookie that the browser brought. */
  cookie: (name: string) => string | null;
  /** Names the request in each of its lines. */
  log: Log;
}
