import { filmInteractionsOf } from '@under-chalk/core/interaction/film-interactions';
import type { FilmInteraction } from '@under-chalk/core/interaction/interaction';
import {
  readDescriptionsOf,
  type ReadDescription,
} from '@under-chalk/core/words/audio-description';
import { readWordsOf } from '@under-chalk/core/words/given';
import type { ReadWords } from '@under-chalk/core/words/read-cue';
import { chaptersOf, type Chapter } from '@under-chalk/core/film/chapters';
import type { Film } from '@under-chalk/core/film/film';
import { isFound, type Cover } from '@under-chalk/core/lesson/cover';
import { toldLicence, type ToldLicence } from '@under-chalk/core/lesson/licence';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { readScenes, type SceneReader } from '@under-chalk/core/scene/scene';
import { NO_INK, type InkOf } from '@under-chalk/core/ink/changed-track';
import { clicksIn } from '@under-chalk/core/pointer/click-sound';
import { NO_SPEECH, type SpeechOf } from '@under-chalk/core/sound/ducking';
import { levelsIn, NOT_MEASURED, type LoudnessOf } from '@under-chalk/core/sound/levelling';
import { NONE_SEEN, type SeenPointerOf } from '@under-chalk/core/pointer/path';
import { createHash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { encoderFor } from '../ffmpeg/encoder';
import { keyText, planChunks, scenesOf, type Chunk, type ChunkWork } from './chunks';
import { NO_MARKS, type MarksOf } from './footage-marks';
import { planSound, soundText, type SoundPiece } from './sound';

/** A part of a film that is made by itself, and where it is kept. */
export interface Piece {
  readonly key: string;
  /** Frames of the picture; of sound, packets of 1,024 samples. */
  readonly frames: number;
}

/** What a film is made of, as a plain value. */
export interface Manifest {
  /** A digest of all that follows: the same film has the same, another has another. */
  readonly id: string;
  readonly title: string;
  readonly frames: number;
  readonly chapters: readonly Chapter[];
  /** What is said, in each language, to be shown by whoever plays it; absent where there is none. */
  readonly words?: readonly ReadWords[];
  /** Its cover, where one was chosen, and what others may do with it, where that was said: both are in the file. */
  readonly cover?: Cover;
  readonly licence?: ToldLicence;
  /** What stands beside it where it is watched: another of these is another film, made of the same pieces. */
  readonly beside?: {
    readonly description?: string;
    readonly described?: readonly ReadDescription[];
    readonly interactions?: readonly FilmInteraction[];
  };
  readonly chunks: readonly Piece[];
  readonly sound: readonly Piece[];
}

/** A film that has been planned, as a plain value: it goes to whoever makes it. */
export interface PlannedFilm {
  readonly manifest: Manifest;
  readonly chunks: readonly Omit<Chunk, 'shows' | 'span'>[];
  readonly sound: readonly SoundPiece[];
}

/** A film's manifest, and what has to be done for each of its pieces. */
export interface FilmPlan {
  readonly planned: PlannedFilm;
  readonly manifest: Manifest;
  readonly chunkWork: (index: number) => ChunkWork;
  readonly soundWork: (index: number) => SoundPiece;
}

const digestOf = (text: string): string =>
  createHash('sha256').update(text).digest('hex').slice(0, 40);

/** A film with nothing beside it keeps the name that it had before there could be any. */
const besideOf = (film: Film): Pick<Manifest, 'beside'> => {
  const { description } = film.lesson.decisions.plan;
  const [described, interactions] = [readDescriptionsOf(film), filmInteractionsOf(film)];
  if (description === '' && described.length === 0 && interactions.length === 0) return {};
  return {
    beside: {
      ...(description === '' ? {} : { description }),
      ...(described.length > 0 ? { described } : {}),
      ...(interactions.length > 0 ? { interactions } : {}),
    },
  };
};

/** What is known of the footage of a film, besides what its lesson says. */
export interface FilmReadings {
  /** What was written while its takes were recorded. */
  readonly inkOf?: InkOf;
  /** Pointers that were seen in their pictures. */
  readonly seenOf?: SeenPointerOf;
  /** How loud its sound tracks are. */
  readonly loudnessOf?: LoudnessOf;
  /** Where somebody speaks. */
  readonly speechOf?: SpeechOf;
  /** What its tracks are known by, up to a time. */
  readonly marksOf?: MarksOf;
}

/** The server answers others in between: so many chunks are planned at a time. */
const AT_ONCE = 20;

/** Changes whenever a chunk of the same plan would be made with other pixels. */
const PICTURE_VERSION = 'zimg';

/** What names a chunk of a film of some size. */
export const chunkKey = (chunk: Chunk, size: SizePx): string =>
  digestOf(keyText(chunk, size, [...encoderFor(chunk.tracks, size), PICTURE_VERSION]));

/** Plans a film: what pieces it is made of, and what names them. */
export const planFilm = async (
  film: Film,
  size: SizePx,
  title: string,
  {
    inkOf = NO_INK,
    seenOf = NONE_SEEN,
    loudnessOf = NOT_MEASURED,
    speechOf = NO_SPEECH,
    marksOf = NO_MARKS,
  }: FilmReadings = {},
): Promise<FilmPlan> => {
  const scenes = readScenes(film, inkOf, seenOf);
  const chunks: PlannedFilm['chunks'][number][] = [];
  const keys: string[] = [];
  for (const chunk of planChunks(scenes, marksOf)) {
    keys.push(chunkKey(chunk, size));
    const { filmFrame, frames, renderPath, tracks } = chunk;
    chunks.push({ filmFrame, frames, renderPath, tracks });
    if (chunks.length % AT_ONCE === 0) await setImmediate();
  }
  const { decisions } = film.lesson;
  const levels = levelsIn(decisions, loudnessOf, speechOf);
  const sound = planSound(film, clicksIn(decisions, inkOf, seenOf), levels);
  const words = readWordsOf(film);
  const parts = {
    title,
    frames: film.frames,
    chapters: chaptersOf(film),
    // A film without words keeps the name that it had before there were any.
    ...(words.length > 0 ? { words } : {}),
    ...(isFound(decisions.cover) ? {} : { cover: decisions.cover }),
    ...(decisions.licence ? { licence: toldLicence(decisions.licence) } : {}),
    ...besideOf(film),
    chunks: chunks.map(({ frames }, index) => ({ key: keys[index]!, frames })),
    sound: sound.map((piece) => ({ key: digestOf(soundText(piece)), frames: piece.packets })),
  };
  const manifest = { id: digestOf(JSON.stringify(parts)), ...parts };
  return workOf({ manifest, chunks, sound }, scenes, size);
};

/** What has to be done for a chunk. */
export const workOfChunk = (
  chunk: Omit<Chunk, 'shows' | 'span'>,
  scenes: SceneReader,
  size: SizePx,
): ChunkWork => ({
  renderPath: chunk.renderPath,
  scenes: [...scenesOf(scenes, chunk)],
  tracks: chunk.tracks,
  size,
});

const workOf = (planned: PlannedFilm, scenes: SceneReader, size: SizePx): FilmPlan => ({
  planned,
  manifest: planned.manifest,
  chunkWork: (index) => workOfChunk(planned.chunks[index]!, scenes, size),
  soundWork: (index) => planned.sound[index]!,
});

/** Takes up a film that was planned elsewhere, of the same lesson and the same readings. */
export const takeUpPlan = (
  planned: PlannedFilm,
  film: Film,
  size: SizePx,
  inkOf: InkOf = NO_INK,
  seenOf: SeenPointerOf = NONE_SEEN,
): FilmPlan => workOf(planned, readScenes(film, inkOf, seenOf), size);
