export { isDiskFull } from './ffmpeg/disk-full';
export { PieceCache } from './film/cache';
export { renderFilm, type FilmJob, type FilmReport, type Progress } from './film/render-film';
export {
  FfmpegError,
  FfmpegTimeout,
  onTheClock,
  openOptions,
  run,
  start,
  type Demuxer,
  type Limits,
  type MediaFile,
} from './ffmpeg/run';
export { decodeRecordedSound } from './ffmpeg/recorded-sound';
