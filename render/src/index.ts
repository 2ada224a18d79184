export { PieceCache } from './film/cache';
export { renderFilm, type FilmJob, type FilmReport, type Progress } from './film/render-film';
export {
  FfmpegError,
  isDiskFull,
  openOptions,
  run,
  type Demuxer,
  type MediaFile,
} from './ffmpeg/run';
export { decodeRecordedSound } from './ffmpeg/recorded-sound';
