import { stepOf, type Span } from '@under-chalk/core/film/span';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import { changesShown } from '@under-chalk/core/ink/changed-track';
import { takeOf } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Id, type Track } from '@under-chalk/core/lesson/take';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { framesShown } from '@under-chalk/core/scene/frames-text';
import { everyLayer, isPictureLayer, type Layer } from '@under-chalk/core/scene/layers';
import type { Scene, SceneReader } from '@under-chalk/core/scene/scene';
import { frameToUs } from '@under-chalk/core/time/frames';
import type { Us } from '@under-chalk/core/time/us';
import { versionOf } from '@under-chalk/paint';
import { RENDER_PATHS, type RenderPath } from '../paths/paths';
import { markAt, NO_MARKS, type MarksOf } from './footage-marks';

/**
 * Length of a chunk in frames, and the grid of recorded time its borders lie on: 2.67 s, where frames of the
 * picture and of AAC sound at 48 kHz meet (`plan/sound`). A cut costs the two chunks that it lies in.
 */
export const CHUNK_FRAMES = 80;

/** Where nothing is shown but what is drawn: to begin a piece costs more there than to make it. */
const DRAWN_FRAMES = 3 * CHUNK_FRAMES;

/** A film begins with a shorter piece, for nobody sees anything before it is made: 1.07 s. */
export const FIRST_FRAMES = 32;

/** A piece left over at the edge of a cut that is shorter than this is joined to its neighbour. */
const LEAST_FRAMES = 16;

/** A stretch of the film that is encoded by itself and named by what it shows. */
export interface Chunk {
  readonly span: Span;
  /** Frame of the film where it begins. */
  readonly filmFrame: number;
  readonly frames: number;
  readonly renderPath: RenderPath;
  /** Tracks whose pictures and ink it reads. */
  readonly tracks: readonly Track[];
  /** Everything its picture depends on besides the encoder, as canonical text. Equal text, equal picture. */
  readonly shows: string;
}

/** A chunk to be made, as a plain value: whoever has the footage can make it. */
export interface ChunkWork {
  readonly renderPath: RenderPath;
  /** What its frames show, in order. */
  readonly scenes: readonly Scene[];
  /** The tracks whose pictures and ink are in them. */
  readonly tracks: readonly Track[];
  readonly size: SizePx;
}

/** Borders from one frame to another along the grid, without pieces that are too short at either edge. */
const borders = (from: number, to: number, step: number): number[] => {
  const list = [from];
  const first = Math.ceil((from + LEAST_FRAMES) / step) * step;
  for (let border = first; border <= to - LEAST_FRAMES; border += step) list.push(border);
  list.push(to);
  return list;
};

/** A frame of recorded time, µs. */
const FRAME_US = frameToUs(1);

/** Scenes of frames of the film that follow on one another. */
export function* scenesOf(
  scenes: SceneReader,
  { filmFrame, frames }: Pick<Chunk, 'filmFrame' | 'frames'>,
): Generator<Scene, void> {
  for (let frame = filmFrame; frame < filmFrame + frames; frame++) yield scenes.sceneOf(frame)!;
}

/**
 * Footage as what is in it: up to what is shown, where that is known, so that it has its name while the take is still recorded.
 *
 * @param lastUs recorded time of the last that is shown of it; null where that isn't known
 */
const mediaText = (
  { id, digest, durationUs, widthPx, heightPx }: Track,
  lastUs: Us | undefined,
  marksOf: MarksOf,
) => {
  // A picture is shown from half a frame before the time that it was recorded for.
  const mark = lastUs === undefined ? undefined : markAt(marksOf(id), lastUs + FRAME_US);
  // What was processed before digests were taken is known by its name and length alone.
  return mark ? [id, mark.digest, widthPx, heightPx] : [id, digest, durationUs, widthPx, heightPx];
};

const chunkOf = (
  scenes: SceneReader,
  known: ReadonlyMap<Id, Track>,
  span: Span,
  filmFrame: number,
  frames: number,
  marksOf: MarksOf,
): Chunk => {
  const kinds = new Set<Layer['kind']>();
  /** Of each track that is shown, the last recorded time. */
  const shown = new Map<Id, Us>();
  /** Which looks of what was written are shown, by take. */
  const looks = new Map<Id, Set<Us>>();
  let laid = true;
  function* watched() {
    for (const scene of scenesOf(scenes, { filmFrame, frames })) {
      for (const layer of everyLayer(scene.layers)) {
        kinds.add(layer.kind);
        if (layer.kind === 'ink') {
          looks.set(layer.takeId, (looks.get(layer.takeId) ?? new Set()).add(layer.sinceUs));
        }
        if (isPictureLayer(layer)) {
          shown.set(layer.trackId, Math.max(shown.get(layer.trackId) ?? 0, layer.takeUs));
          laid &&= layer.opacity === 1;
        }
      }
      yield scene;
    }
  }
  const { text, still } = framesShown(watched());
  const renderPath: RenderPath = still && laid ? 'filters' : 'painter';
  for (const [takeId, of] of looks) {
    const take = takeOf(scenes.film.lesson, takeId);
    const ink = take && trackOf(take, 'ink');
    if (ink) shown.set(ink.id, Math.max(...of));
  }
  const tracks = [...shown.keys()].map((id) => known.get(id)!);
  const versions = [...kinds].sort().map((kind) => [kind, versionOf(kind)]);
  const media = tracks.map((track) => mediaText(track, shown.get(track.id), marksOf));
  // What was recorded is known by its track; here stands what was written and changed afterwards.
  const changed = [...looks].flatMap(([takeId, of]) => {
    const written = scenes.inkOf(takeId);
    return written ? changesShown(written, [...of]) : [];
  });
  const shows = JSON.stringify([
    renderPath,
    RENDER_PATHS[renderPath],
    versions,
    media,
    frames,
    text,
    changed,
  ]);
  return { span, filmFrame, frames, renderPath, tracks, shows };
};

/**
 * Divides a film into chunks, one after another. Borders lie where anything begins or ends, or begins or ends
 * to move, and otherwise on a grid of *recorded* time, so that an edit elsewhere moves no border here and a
 * chunk that was rendered once fits again.
 *
 * @param marksOf what its footage is known by, up to a time
 * @param fromFrame chunks that end before this frame of the film are left out
 */
export function* planChunks(
  scenes: SceneReader,
  marksOf: MarksOf = NO_MARKS,
  fromFrame = 0,
): Generator<Chunk, void> {
  const { film } = scenes;
  const tracks = new Map(
    film.lesson.takes.flatMap((take) => take.tracks.map((track) => [track.id, track])),
  );
  let next = 0;
  for (const span of film.spans) {
    const end = span.filmFrame + span.frames;
    // The grid lies on the lattice of recorded time that the span's speed has: at its own, on recorded frames.
    const inRecorded = stepOf(span, 0);
    const drawn = ofMedium(span.take.tracks, 'picture').length === 0;
    const step = drawn ? DRAWN_FRAMES : CHUNK_FRAMES;
    for (; scenes.borders[next] !== undefined && scenes.borders[next]! < end; next++) {
      const from = scenes.borders[next]!;
      const to = Math.min(end, scenes.borders[next + 1] ?? end);
      const grid = borders(from + inRecorded, to + inRecorded, step);
      for (const [index, start] of grid.slice(0, -1).entries()) {
        const [filmFrame, frames] = [start - inRecorded, grid[index + 1]! - start];
        if (frames <= 0 || filmFrame + frames <= fromFrame) continue;
        const first = filmFrame === 0 && frames >= FIRST_FRAMES + LEAST_FRAMES ? FIRST_FRAMES : 0;
        if (first > fromFrame) yield chunkOf(scenes, tracks, span, 0, first, marksOf);
        yield chunkOf(scenes, tracks, span, filmFrame + first, frames - first, marksOf);
      }
    }
  }
}

/** What names a chunk: its content, the picture size and the encoder's settings. To be hashed. */
export const keyText = (chunk: Chunk, size: SizePx, encoder: readonly string[]): string =>
  JSON.stringify([chunk.shows, size.widthPx, size.heightPx, encoder]);
