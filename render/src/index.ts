export { limited, type Limits } from './ffmpeg/limited';
export { watchWork, type WorkClock } from './ffmpeg/work-clock';
export { isDiskFull } from './ffmpeg/disk-full';
export { reduceNoiseInPart, reduceNoiseInTrack, type SoundWithNoise } from './film/reduce-noise';
export { fitFilm } from './film/fit-film';
export { PieceCache } from './film/cache';
export { paintStill, type StillJob } from './film/film-still';
export { WATCHED_MS } from './film/in-turns';
export { AskedPieces, type AskedPiece } from './film/piece-order';
export {
  chunkPath,
  renderFilm,
  soundPath,
  type FilmJob,
  type FilmReport,
  type Progress,
} from './film/render-film';
export { boxesOf, type BoxAt } from './ffmpeg/box-walk';
export { encodedStill, stillText } from './stream/encoded-still';
export {
  codecOf,
  pictureHead,
  pictureSegmentIn,
  readFilmIndex,
  segmentOfChunk,
  segmentOfPiece,
  soundHead,
  soundSegmentIn,
  type FilmIndex,
} from './stream/segment-bytes';
export { makeRendition, renditionSizeOf } from './stream/rendition';
export { makePreviews } from './stream/preview-picture';
export {
  feed,
  FfmpegError,
  FfmpegTimeout,
  onTheClock,
  openOptions,
  run,
  seekTo,
  start,
  type Demuxer,
  type MediaFile,
  type Running,
} from './ffmpeg/run';
export { planChunks, type Chunk } from './plan/chunks';
export { markAt, NO_MARKS, type FootageMark, type MarksOf } from './plan/footage-marks';
export { renderChunk } from './film/render-chunk';
export {
  chunkKey,
  planFilm,
  takeUpPlan,
  workOfChunk,
  type FilmPlan,
  type Manifest,
  type Piece,
  type PlannedFilm,
} from './plan/plan-film';
export { loadPages, pagesIn, type PageFile } from './paths/pages';
export { framesFilter, openPictures, picturesFrom } from './ffmpeg/pictures';
export { exactReader } from './ffmpeg/pipes';
export { decodeRecordedSound } from './ffmpeg/recorded-sound';
