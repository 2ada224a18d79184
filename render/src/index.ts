export { limited, type Limits } from './ffmpeg/limited';
export { isDiskFull } from './ffmpeg/disk-full';
export { PieceCache } from './film/cache';
export { renderFilm, type FilmJob, type FilmReport, type Progress } from './film/render-film';
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
export { planFilm, type FilmPlan, type Manifest, type Piece } from './plan/plan-film';
export { loadPages, pagesIn, type PageFile } from './road/pages';
export { framesFilter, openPictures, picturesFrom, SCALING } from './ffmpeg/pictures';
export { exactReader } from './ffmpeg/pipes';
export { decodeRecordedSound } from './ffmpeg/recorded-sound';
