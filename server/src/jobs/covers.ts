import type { CoverChoices } from '@under-chalk/core/contract/lessons';
import { recordedAt } from '@under-chalk/core/film/film';
import { cardPlaceOf } from '@under-chalk/core/lesson/title-card';
import type { Cover } from '@under-chalk/core/lesson/cover';
import { AppError } from '@under-chalk/core/errors/errors';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import {
  BLANK,
  coverTimes,
  FULL_ENOUGH,
  looksOf,
  proposed,
  takenOf,
  type LookedAt,
} from '@under-chalk/core/checks/cover-choice';
import { areEyesShut } from '@under-chalk/core/checks/eyes';
import { coverScene, showsChosen } from '@under-chalk/core/scene/cover-scene';
import type { Scene } from '@under-chalk/core/scene/scene';
import { openOptions, run } from '@under-chalk/render';
import type { Us } from '@under-chalk/core/time/us';
import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { writeFile } from 'node:fs/promises';
import type { FaceFinder } from './faces/face-finder';
import type { FilmStills, OpenFilm } from './film-stills';
import type { StillMaker } from './still-maker';

export const COVER_PX = 1280;
/** Moments are looked at in this width; for faces in the other. */
const LOOK_PX = 320;
const FACE_PX = 640;
/** A camera that is so high, a share of the frame, may show a face that can be told of. */
const LARGE_CAMERA = 0.4;
/** Where eyes are shut, a moment near by is taken, µs away: a blink is over by then. */
const BESIDE_A_BLINK_US = [400_000, -400_000];
/** Of JPEG, 0 to 100. */
const QUALITY = 82;
/** Part of every cover's name: raise it when they are painted differently. */
const VERSION = 3;
/** Moments are proposed out of the likely ones and so many at even distances. */
const EVENLY = 6;
const MOST_PROPOSED = 6;

const LIMITS = { deadlineMs: 20_000, memoryBytes: 4e9 };

/** What a film's cover is kept as. */
const nameOf = (film: string): string => `cover ${VERSION} ${film}`;

const showsLargeCamera = ({ film }: OpenFilm, scene: Scene): boolean =>
  scene.layers.some(
    (layer) =>
      layer.kind === 'picture' &&
      layer.to.height >= LARGE_CAMERA &&
      film.lesson.takes.some(({ tracks }) =>
        tracks.some(({ id, kind }) => id === layer.trackId && kind === 'camera'),
      ),
  );

/** Moments of a film, µs: those that are proposed, and the one that is taken where none is chosen. */
interface Found {
  readonly moments: readonly Us[];
  readonly foundUs: Us;
}

/** The still pictures that films are known by, painted as the films have them: they are there before the films are made. */
export class Covers {
  readonly #maker: StillMaker;
  readonly #stills: FilmStills;
  readonly #faces: FaceFinder;
  /** What was found in lessons that somebody looks at just now, by all that it depends on. */
  readonly #found = new LRUCache<string, Promise<Found>>({ max: 20 });

  constructor(maker: StillMaker, stills: FilmStills, faces: FaceFinder) {
    this.#maker = maker;
    this.#stills = stills;
    this.#faces = faces;
  }

  /**
   * A JPEG: the cover of a film that is handed out. Made once; the lesson is read for that alone.
   *
   * @param film names what the film is made of
   * @param lessonOf the lesson as the film has it
   * @returns its path
   * @throws AppError `footage-missing`
   */
  ofFilm(film: string, lessonOf: () => Promise<Lesson>): Promise<string> {
    return this.#maker.made(nameOf(film), async (draft) => {
      const lesson = await lessonOf();
      await this.#paint(lesson, lesson.decisions.cover, COVER_PX, draft);
    });
  }

  /** The same, out of the film's own file. @throws FfmpegError where it has none */
  outOf(film: string, path: string): Promise<string> {
    const file = { path, demuxer: 'mov' } as const;
    return this.#maker.made(nameOf(film), async (draft) => {
      await run(
        'ffmpeg',
        [
          ...[...openOptions(file), '-i', path, '-map', '0:v:1', '-frames:v', '1'],
          ...['-c', 'copy', '-f', 'mjpeg', draft],
        ],
        undefined,
        LIMITS,
      );
    });
  }

  /**
   * The same, of a lesson as it is now and with any cover: to choose from.
   *
   * @throws AppError `footage-missing`
   */
  ofLesson(lesson: Lesson, cover: Cover, widthPx: number): Promise<string> {
    const name = JSON.stringify(['cover', VERSION, lesson.id, lesson.revision, cover, widthPx]);
    return this.#maker.made(name, (draft) => this.#paint(lesson, cover, widthPx, draft));
  }

  async #paint(lesson: Lesson, cover: Cover, widthPx: number, draft: string): Promise<void> {
    const open = await this.#stills.open(lesson);
    const { film, scenes } = open;
    const foundUs = showsChosen(film, cover) ? 0 : await this.#momentOf(open);
    const canvas = await this.#stills.paint(open, coverScene(scenes, cover, foundUs), widthPx);
    await writeFile(draft, await canvas.encode('jpeg', QUALITY));
  }

  /** The first of the likely moments that shows enough, or the one that shows most. */
  async #momentOf(open: OpenFilm): Promise<Us> {
    const looked: LookedAt[] = [];
    for (const filmUs of coverTimes(open.film, open.scenes.inkOf)) {
      looked.push(await this.#lookAt(open, filmUs));
      const { full, eyesShut } = looked.at(-1)!;
      if (full >= FULL_ENOUGH && !eyesShut) break;
    }
    return takenOf(looked);
  }

  async #lookAt(open: OpenFilm, filmUs: Us): Promise<LookedAt> {
    const here = await this.#lookOnceAt(open, filmUs);
    if (!here.eyesShut) return here;
    for (const away of BESIDE_A_BLINK_US) {
      const nearUs = filmUs + away;
      if (nearUs < 0 || nearUs >= open.film.durationUs) continue;
      const near = await this.#lookOnceAt(open, nearUs);
      if (!near.eyesShut) return near;
    }
    return here;
  }

  async #lookOnceAt(open: OpenFilm, filmUs: Us): Promise<LookedAt> {
    const scene = open.scenes.sceneAt(filmUs);
    const small = await this.#stills.paint(open, scene, LOOK_PX);
    const looks = looksOf(small.data(), small.width, small.height);
    if (!scene || !showsLargeCamera(open, scene)) return { filmUs, ...looks };
    const large = await this.#stills.paint(open, scene, FACE_PX);
    const [widthPx, heightPx] = [large.width, large.height];
    const faces = await this.#faces.find({ pixels: large.data(), widthPx, heightPx });
    return { filmUs, ...looks, eyesShut: faces !== null && areEyesShut(faces) };
  }

  /**
   * What a lesson's cover may show as the lesson is now.
   *
   * @throws AppError `nothing-in-film`, `footage-missing`
   */
  async choices(lesson: Lesson): Promise<CoverChoices> {
    const open = await this.#stills.open(lesson);
    const { film, scenes } = open;
    if (film.frames === 0) throw new AppError('nothing-in-film');
    const { cover, ...others } = lesson.decisions;
    const key = createHash('sha256')
      .update(JSON.stringify([others, lesson.takes]))
      .digest('hex');
    let found = this.#found.get(key);
    if (!found) {
      found = this.#find(open);
      this.#found.set(key, found);
      found.catch(() => this.#found.delete(key));
    }
    const { moments, foundUs } = await found;
    const canvas = await this.#stills.paint(open, coverScene(scenes, cover, foundUs), LOOK_PX);
    const placed = (filmUs: Us) => {
      const { takeId, takeUs } = recordedAt(film, filmUs)!;
      return { takeId, atUs: Math.round(takeUs), filmUs };
    };
    return {
      found: placed(foundUs),
      proposed: moments.map(placed),
      isBlank: looksOf(canvas.data(), canvas.width, canvas.height).full < BLANK,
    };
  }

  async #find(open: OpenFilm): Promise<Found> {
    const { film, scenes } = open;
    // A card says what stands beside the cover anyway.
    const evenly = Array.from({ length: EVENLY }, (_, at) =>
      Math.round(((at + 0.5) / EVENLY) * film.durationUs),
    ).filter((filmUs) => !cardPlaceOf({ id: recordedAt(film, filmUs)!.takeId }));
    const likely = new Set(coverTimes(film, scenes.inkOf));
    const looked = await Promise.all(
      [...new Set([...likely, ...evenly])].map((filmUs) => this.#lookAt(open, filmUs)),
    );
    return {
      moments: proposed(looked, film.durationUs, MOST_PROPOSED).map(({ filmUs }) => filmUs),
      foundUs: takenOf(looked.slice(0, likely.size)),
    };
  }
}
