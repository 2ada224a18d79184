import type { Film } from '../film/film';
import { spanAt } from '../film/film';
import { recordedIn, type Span } from '../film/span';
import type { InkOf } from '../ink/changed-track';
import { aspectOf } from '../lesson/layout';
import { zoomedTo, isCloser, shareOf } from '../lesson/close-up';
import type { Crop } from '../lesson/crop';
import { surfaceOf, type Take } from '../lesson/take';
import type { FlawKind, PicturesRead } from '../picture/reading';
import { aroundAll, pointOf } from '../scene/geometry';
import { everyLayer } from '../scene/layers';
import { readScenes } from '../scene/scene';
import { FILM_FPS, frameToUs } from '../time/frames';
import type { TimeRange } from '../time/ranges';
import type { Us } from '../time/us';
import { isReadLayer, textSeenIn, type ReadLayer, type TextSeen } from './text-seen';

/** A phone that is held upright is so wide, px; letters that are lower on it can't be read. */
export const PHONE_PX = 390;
export const LEAST_LETTERS_PX = 9;

/** It is looked at this often, frames. */
const STEP = FILM_FPS;
/** It matters where so many signs are too small, and they are most of what can be read. */
const LEAST_SIGNS = 12;
/** What isn't shown for so long nobody reads, and nobody minds, µs. */
const LEAST_US: Us = 3_000_000;

/** A stretch of the film, within one span. */
interface Seen extends TimeRange {
  readonly span: Span;
  /** The same in recorded time of its take. */
  readonly recorded: TimeRange;
}

/** A stretch in which most of what can be read is too small on a phone. */
export interface SmallText extends Seen {
  /** How high its letters are there, px: of half of its signs, at most. */
  readonly lettersPx: number;
  /** What to come closer to, so that they are large enough and all of them are still seen; null: there is no such part. */
  readonly part: Crop | null;
}

/** A stretch in which a picture isn't as it was meant. */
export interface FlawSeen extends Seen {
  readonly is: FlawKind;
  readonly of: 'surface' | 'camera';
}

/** What the pictures of a film look like to who watches it. */
export interface PicturesSeen {
  readonly small: readonly SmallText[];
  readonly flaws: readonly FlawSeen[];
  /** What could be read in them, with when it is seen first, in film time. */
  readonly texts: ReadonlyMap<string, Us>;
}

/** Not looked at. */
export const UNSEEN: PicturesSeen = { small: [], flaws: [], texts: new Map() };

/** The letters' height that half of some text's signs have at most, of the frame's height. */
const middling = (texts: readonly TextSeen[]): number => {
  const sorted = [...texts].sort((a, b) => a.letters - b.letters);
  const half = sorted.reduce((sum, { signs }) => sum + signs, 0) / 2;
  let count = 0;
  return sorted.find(({ signs }) => (count += signs) >= half)?.letters ?? 0;
};

const signsOf = (texts: readonly TextSeen[]) => texts.reduce((sum, { signs }) => sum + signs, 0);

/** Text that is too small in a frame, and what of the surface it takes up, if it is on a take's surface. */
interface SmallNow {
  readonly texts: readonly TextSeen[];
  readonly on: ReadLayer | null;
}

const isSurface = (layer: ReadLayer, take: Take): boolean => {
  const surface = surfaceOf(take);
  if (layer.kind === 'ink') return surface?.kind === 'ink' && layer.takeId === take.id;
  return layer.kind === 'picture' && layer.trackId === surface?.id;
};

const smallIn = (
  layers: readonly ReadLayer[],
  { take }: Span,
  heightPx: number,
  textsOf: (layer: ReadLayer) => TextSeen[],
): { readonly small: SmallNow | null; readonly all: readonly TextSeen[] } => {
  const read = layers.map((layer) => ({ layer, texts: textsOf(layer) }));
  const all = read.flatMap(({ texts }) => texts);
  const isSmall = ({ letters }: TextSeen) => letters * heightPx < LEAST_LETTERS_PX;
  const texts = all.filter(isSmall);
  const signs = signsOf(texts);
  if (signs < LEAST_SIGNS || signs * 2 <= signsOf(all)) return { small: null, all };
  const on = read.filter((one) => one.texts.some(isSmall));
  const [only] = on;
  return {
    small: { texts, on: on.length === 1 && isSurface(only!.layer, take) ? only!.layer : null },
    all,
  };
};

/** The part of the surface that shows some text large enough, all of it; null where there is none. */
const partFor = ({ texts, on }: SmallNow, lettersPx: number): Crop | null => {
  if (!on) return null;
  const box = aroundAll(texts);
  const start = pointOf(on, box);
  const end = pointOf(on, { x: box.x + box.width, y: box.y + box.height });
  const [left, top] = [Math.max(0, start.x), Math.max(0, start.y)];
  const text = {
    ...{ x: left, y: top },
    width: Math.min(1, end.x) - left,
    height: Math.min(1, end.y) - top,
  };
  // As much closer as the letters need, and a little more for what is rounded; what lies round the text comes along.
  const share = lettersPx / (LEAST_LETTERS_PX * 1.03);
  if (shareOf(on.from, text) > share) return null;
  const [width, height] = [on.from.width * share, on.from.height * share];
  const part = zoomedTo(on.from, {
    x: text.x + (text.width - width) / 2,
    y: text.y + (text.height - height) / 2,
    ...{ width, height },
  });
  return isCloser(on.from, part) ? part : null;
};

const PARTS_APART = 0.03;

const isNearly = (a: Crop | null, b: Crop | null): boolean =>
  a && b
    ? (['x', 'y', 'width', 'height'] as const).every(
        (side) => Math.abs(a[side] - b[side]) <= PARTS_APART,
      )
    : a === b;

/** Puts a moment to the stretch that it goes on, or begins another. */
const goOn = <S extends Seen>(
  all: S[],
  span: Span,
  frame: number,
  goesOn: (last: S) => boolean,
  make: (seen: Seen, last: S | null) => S,
): void => {
  const until = Math.min(frame + STEP, span.filmFrame + span.frames);
  const endUs = frameToUs(until);
  // Not always the last: surface and camera can each have one at a time.
  const at = all.findLastIndex(
    (last) => last.span === span && last.endUs >= frameToUs(frame) && goesOn(last),
  );
  const from = all[at] ?? null;
  const recorded = {
    startUs: from?.recorded.startUs ?? recordedIn(span, frame),
    endUs: Math.min(span.take.durationUs, recordedIn(span, until)),
  };
  const seen = make({ span, startUs: from?.startUs ?? frameToUs(frame), endUs, recorded }, from);
  if (from) all[at] = seen;
  else all.push(seen);
};

const lasts = ({ startUs, endUs }: TimeRange) => endUs - startUs >= LEAST_US;

/**
 * Looks through a film as it is on a phone: what can't be read there, and where a picture isn't as it was meant. Pure, and a second
 * of the film at a time: an hour takes some milliseconds.
 *
 * @param read what is known of its pictures
 */
export const seePictures = (film: Film, inkOf: InkOf, read: PicturesRead): PicturesSeen => {
  const scenes = readScenes(film, inkOf);
  const heightPx = PHONE_PX / aspectOf(film.lesson.decisions.frame.shape);
  const kinds = new Map(
    film.lesson.takes.flatMap(({ tracks }) => tracks.map(({ id, kind }) => [id, kind])),
  );
  const small: SmallText[] = [];
  const flaws: FlawSeen[] = [];
  const texts = new Map<string, Us>();
  for (let frame = 0; frame < film.frames; frame += STEP) {
    const span = spanAt(film, frame);
    const scene = scenes.sceneOf(frame);
    if (!span || !scene) continue;
    const layers = [...everyLayer(scene.layers)].filter(isReadLayer);
    const now = smallIn(layers, span, heightPx, (layer) => textSeenIn(layer, inkOf, read));
    for (const { text } of now.all) if (!texts.has(text)) texts.set(text, frameToUs(frame));
    if (now.small) {
      const { small: found } = now;
      const lettersPx = middling(found.texts) * heightPx;
      const part = partFor(found, lettersPx);
      goOn(
        small,
        span,
        frame,
        (last) => isNearly(last.part, part),
        (seen, last) => ({
          ...seen,
          lettersPx: Math.min(last?.lettersPx ?? lettersPx, lettersPx),
          part: last?.part ?? part,
        }),
      );
    }
    for (const layer of layers) {
      if (layer.kind !== 'picture') continue;
      const { takeUs, trackId } = layer;
      const flaw = read
        .ofTrack(trackId)
        ?.flaws.find(({ startUs, endUs }) => startUs <= takeUs && takeUs < endUs);
      if (!flaw) continue;
      const of: FlawSeen['of'] = kinds.get(trackId) === 'camera' ? 'camera' : 'surface';
      const isSame = (last: FlawSeen) => last.is === flaw.is && last.of === of;
      goOn(flaws, span, frame, isSame, (seen) => ({ ...seen, is: flaw.is, of }));
    }
  }
  return {
    small: small.filter(lasts),
    flaws: flaws.filter((flaw) => flaw.is === 'torn' || lasts(flaw)),
    texts,
  };
};
