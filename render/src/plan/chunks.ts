import { sectionsOf, type Section } from '@under-chalk/core/film/sections';
import type { Film } from '@under-chalk/core/film/film';
import { cropOf } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Id } from '@under-chalk/core/lesson/take';
import type { SizePx } from '@under-chalk/core/place/picture-size';
import { sceneInSection, type Scene } from '@under-chalk/core/scene/scene';
import { PAINTER_VERSION } from '@under-chalk/paint';

/** Length of a chunk in frames, and the grid of recorded time its borders lie on: 5 s. */
export const CHUNK_FRAMES = 150;
/** A piece left over at the edge of a cut that is shorter than this is joined to its neighbour. */
const LEAST_FRAMES = 45;

/**
 * How a chunk is made. `filters`: everything in it stands still, so ffmpeg lays it together.
 * `painter`: something moves, so it is painted frame by frame.
 */
export type Road = 'filters' | 'painter';

/** A stretch of the film that is encoded by itself and named by what it shows. */
export interface Chunk {
  readonly section: Section;
  readonly startFrame: number;
  readonly endFrame: number;
  readonly filmFrame: number;
  readonly road: Road;
  /** Tracks whose pictures it reads. */
  readonly trackIds: readonly Id[];
  /** Everything its picture depends on besides the encoder, as canonical text. Equal text, equal picture. */
  readonly shows: string;
}

const framesOf = (chunk: { startFrame: number; endFrame: number }) =>
  chunk.endFrame - chunk.startFrame;

/** Borders from one frame to another along the grid, without pieces that are too short at either edge. */
const borders = (from: number, to: number): number[] => {
  const list = [from];
  const first = Math.ceil((from + LEAST_FRAMES) / CHUNK_FRAMES) * CHUNK_FRAMES;
  for (let border = first; border <= to - LEAST_FRAMES; border += CHUNK_FRAMES) list.push(border);
  list.push(to);
  return list;
};

/** The scene without its times: what stands still in it. */
const stillText = (scene: Scene) =>
  JSON.stringify({
    ...scene,
    layers: scene.layers.map((layer) => ({ ...layer, takeUs: undefined })),
  });

const chunkOf = (film: Film, section: Section, startFrame: number, endFrame: number): Chunk => {
  const offset = startFrame - section.startFrame;
  const moving = offset < section.changeFrames;
  const tracks = [trackOf(section.take, 'surface'), trackOf(section.take, 'camera')];
  const first = sceneInSection(film, section, offset);
  const shown = new Set(first.layers.map((layer) => layer.trackId));
  const trackIds = tracks
    .flatMap((track) => (track ? [track.id] : []))
    .filter((id) => moving || shown.has(id));
  // A take cut short by a crash can grow when the rest of its footage arrives.
  const media = tracks.flatMap((track) => (track ? [[track.id, track.durationUs]] : []));
  // A still chunk without pictures shows the same at any time.
  const frames = trackIds.length > 0 ? [startFrame, endFrame] : [0, endFrame - startFrame];
  const shows = moving
    ? JSON.stringify([
        PAINTER_VERSION,
        'moving',
        frames,
        media,
        film.lesson.decisions.frame,
        cropOf(film.lesson, section.take.id),
        section.before,
        section.arrangement,
        section.changeFrames,
        offset,
      ])
    : JSON.stringify([
        PAINTER_VERSION,
        'still',
        frames,
        trackIds.length > 0 ? media : [],
        stillText(first),
      ]);
  return {
    section,
    startFrame,
    endFrame,
    filmFrame: section.filmFrame + offset,
    road: moving ? 'painter' : 'filters',
    trackIds,
    shows,
  };
};

/**
 * Divides a film into chunks. Borders lie where a cut, an arrangement or a soft change begins or ends,
 * and otherwise on a grid of *recorded* time, so that an edit elsewhere moves no border here and a
 * chunk that was rendered once fits again.
 */
export const planChunks = (film: Film): Chunk[] =>
  sectionsOf(film).flatMap((section) => {
    const settled = section.startFrame + section.changeFrames;
    const parts: [number, number][] = [];
    if (settled > section.startFrame) parts.push([section.startFrame, settled]);
    const still = borders(settled, section.endFrame);
    still.slice(1).forEach((to, index) => {
      if (to > still[index]!) parts.push([still[index]!, to]);
    });
    return parts.map(([from, to]) => chunkOf(film, section, from, to));
  });

/** What names a chunk: its content, the picture size and the encoder's settings. To be hashed. */
export const keyText = (chunk: Chunk, size: SizePx, encoder: readonly string[]): string =>
  JSON.stringify([chunk.shows, size.widthPx, size.heightPx, encoder]);

/** Frames in a list of chunks. */
export const countFrames = (chunks: readonly Chunk[]): number =>
  chunks.reduce((sum, chunk) => sum + framesOf(chunk), 0);
