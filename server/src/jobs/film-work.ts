import { filmOf, type Film } from '@under-chalk/core/film/film';
import type { InkOf } from '@under-chalk/core/ink/changed-track';
import { takesShown } from '@under-chalk/core/lesson/cutaway';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { takesHeard } from '@under-chalk/core/sound/heard';
import { noiseReducedIn } from '@under-chalk/core/sound/track-sound';
import { sizeOf, type SizePx } from '@under-chalk/core/destination/picture-size';
import type { PictureSize } from '@under-chalk/core/destination/size-name';
import {
  isDiskFull,
  PieceCache,
  planFilm,
  renderFilm,
  takeUpPlan,
  type AskedPieces,
  type FilmPlan,
  type FilmReport as RenderReport,
  type Manifest,
  type PlannedFilm,
  type Progress,
} from '@under-chalk/render';
import { mkdir } from 'node:fs/promises';
import { dirname } from 'node:path';
import { AppError, type ErrorCode } from '@under-chalk/core/errors/errors';
import type { Folders, Shipped } from '../config';
import type { FilmStream } from '../store/film-store';
import { mediaIn, type MediaStore } from '../store/media-store';
import { Covers } from './covers';
import { FaceFinder } from './faces/face-finder';
import { FilmStills } from './film-stills';
import { StillMaker } from './still-maker';
import { inkOfFilm, seenInFilm } from './ink-of';
import { makeNoiseReduced } from './noise-reduction/make-noise-reduced';
import { marksOfTakes } from './readings/footage-marks';
import { loudnessOfTakes } from './readings/loudness';
import { speechOfTakes } from './readings/speech';
import { PagePictures } from './materials/page-pictures';
import { registerTitleFont } from './title-font';
import type { TakeTurn } from './turns';

/** A film to be made, as plain values: it crosses to another thread. */
export interface FilmWork {
  readonly lesson: Lesson;
  readonly size: PictureSize;
  readonly folders: Folders;
  readonly out: string;
  readonly shipped: Shipped;
  /** It was planned when it was asked for, and nothing has changed since. */
  readonly planned?: PlannedFilm;
}

/** How the making of a film came out. */
export interface FilmReport extends RenderReport {
  /** What the film is known by (`render`'s manifest). */
  readonly manifestId: string;
  readonly stream: FilmStream;
}

/** What it takes to play a film while it is made. */
export const streamOf = ({ chunks, sound }: Manifest, size: SizePx): FilmStream => ({
  ...{ chunks: [...chunks], sound: [...sound], size },
});

/**
 * Plans a film of a lesson from what its footage says: what was written, where a pointer was seen, how loud it is. Whoever asks
 * for a film and whoever makes it plan the same one.
 *
 * @param planned takes up what was planned elsewhere
 * @throws AppError `footage-missing`
 */
export const planOfLesson = async (
  lesson: Lesson,
  size: PictureSize,
  media: MediaStore,
  signal?: AbortSignal,
  planned?: PlannedFilm,
): Promise<{ readonly plan: FilmPlan; readonly film: Film; readonly inkOf: InkOf }> => {
  const film = filmOf(lesson);
  const inkOf = await inkOfFilm(film, media);
  const seenOf = await seenInFilm(film, media);
  if (planned) {
    return { plan: takeUpPlan(planned, film, sizeOf(lesson, size), inkOf, seenOf), film, inkOf };
  }
  const takes = takesHeard(film);
  const loudnessOf = await loudnessOfTakes(takes, media, signal);
  const speechOf = await speechOfTakes(takes, media);
  const { title } = lesson.decisions.plan;
  const marksOf = await marksOfTakes(lesson.takes, media);
  const about = { inkOf, seenOf, loudnessOf, speechOf, marksOf };
  const plan = await planFilm(film, sizeOf(lesson, size), title, about);
  return { plan, film, inkOf };
};

/** Makes a film. The same for the server's thread, the command line and tests. */
export const doFilmWork = async (
  work: FilmWork,
  onProgress: (progress: Progress) => void,
  signal?: AbortSignal,
  turn?: TakeTurn,
  asked?: AskedPieces,
): Promise<FilmReport> => {
  const { lesson, size, folders, out, shipped } = work;
  registerTitleFont(shipped.fontFile);
  await mkdir(dirname(out), { recursive: true });
  const media = mediaIn(folders);
  for (const take of [
    ...takesHeard(filmOf(lesson)),
    ...filmOf(lesson).spans.map((span) => span.take),
    ...takesShown(lesson.decisions.cutaways, lesson.takes),
  ]) {
    for (const track of take.tracks) {
      if (!media.hasMedia(track.id)) {
        throw new AppError('footage-missing', `track ${track.id}`);
      }
    }
  }
  const { plan, film, inkOf } = await planOfLesson(lesson, size, media, signal, work.planned);
  for (const { track, reduction } of noiseReducedIn(film)) {
    onProgress({ done: 0, doing: 'sound', leftUs: null });
    await makeNoiseReduced(media, track, reduction, undefined, signal);
  }
  const pages = new PagePictures(folders, shipped.readerScript);
  const faces = new FaceFinder(shipped.faceScript);
  const covers = new Covers(new StillMaker(folders.stills), new FilmStills(media, pages), faces);
  const report = await renderFilm({
    plan,
    mediaOf: media.media,
    noiseReducedOf: media.noiseReduced,
    inkOf,
    pageFile: pages.forFilm,
    cache: new PieceCache(folders.chunks),
    out,
    onProgress,
    // A film without its cover is better than none.
    coverFile: () =>
      covers.ofFilm(plan.manifest.id, () => Promise.resolve(lesson)).catch(() => null),
    ...(signal ? { signal } : {}),
    ...(turn ? { turn } : {}),
    ...(asked ? { asked } : {}),
  }).finally(() => Promise.all([pages.close(), faces.close()]));
  const { manifest } = plan;
  return { ...report, manifestId: manifest.id, stream: streamOf(manifest, sizeOf(lesson, size)) };
};

/** Why a film could not be made: a code of the table, and what only the log and the curious need. */
export const filmProblem = (error: unknown): { code: ErrorCode; detail: string } => {
  const detail = error instanceof Error ? error.message : String(error);
  if (error instanceof AppError) return { code: error.code, detail };
  if (isDiskFull(error)) return { code: 'disk-full', detail };
  if (error instanceof RangeError) return { code: 'nothing-in-film', detail };
  return { code: 'export-failed', detail };
};
