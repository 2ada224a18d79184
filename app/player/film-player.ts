import type { VideoSample } from 'mediabunny';
import { spanAt, type Film } from '@under-chalk/core/film/film';
import { recordedFrameIn, recordedIn, type Span } from '@under-chalk/core/film/span';
import { pathTo } from '@under-chalk/core/contract/api';
import { inkOfLesson, type InkOf } from '@under-chalk/core/ink/changed-track';
import { inkTrackOf, type InkTrack } from '@under-chalk/core/ink/ink-track';
import { readInk } from '@under-chalk/core/ink/record';
import { aspectOf } from '@under-chalk/core/lesson/layout';
import { ofMedium } from '@under-chalk/core/lesson/medium';
import type { SizePx } from '@under-chalk/core/destination/picture-size';
import { pictureSlots } from '@under-chalk/core/scene/layers';
import type { PictureLayer } from '@under-chalk/core/scene/layers/picture';
import { readScenes, type Scene, type SceneReader } from '@under-chalk/core/scene/scene';
import { clicksIn } from '@under-chalk/core/pointer/click-sound';
import { takesHeard } from '@under-chalk/core/sound/heard';
import { trackSoundsIn } from '@under-chalk/core/sound/track-sound';
import { frameAt, frameToUs } from '@under-chalk/core/time/frames';
import { fromSeconds, type Us } from '@under-chalk/core/time/us';
import { paint, type PictureOf } from '@under-chalk/paint';
import { textAt } from '../data/client';
import { pagePictures } from '../data/page-pictures';
import { makeSheet } from '../ui/canvas-sheet';
import { NoiseReducedSound } from './noise-reduced-sound';
import { LevelledSound } from './levelled-sound';
import { PictureFeed } from './picture-feed';
import { SeenPointers } from './seen-pointers';
import { SoundFeed } from './sound-feed';
import { TrackReader } from './track-reader';

export interface PlayerView {
  readonly playing: boolean;
  readonly filmUs: Us;
  readonly durationUs: Us;
  /** How long the last seek took until its picture was painted, ms; for measuring. */
  readonly seekMs: number | null;
}

/** Before playing begins, so that the first sounds can be scheduled, seconds. */
const LEAD = 0.12;
/** The next kept stretch is opened this long before it is reached. */
const OPEN_AHEAD_US = 900_000;

/** Whether two films are of the same footage in the same order, and sound alike: what is laid over it may differ. */
const sameSpans = (a: Film, b: Film): boolean => {
  const stretches = ({ spans, lesson: { decisions } }: Film) => [
    [decisions.muted, decisions.unlevelled, decisions.duckingDb, decisions.noiseReduction],
    [decisions.gains, decisions.voiceOvers],
    ...spans.map(({ take, ...where }) => [
      where,
      take.tracks.map(({ id, digest }) => [id, digest]),
    ]),
  ];
  return JSON.stringify(stretches(a)) === JSON.stringify(stretches(b));
};

/**
 * Plays a film as it will be: cuts skipped, pictures painted by the painter that paints the export,
 * sound in step. The clock is that of the sound.
 */
export class FilmPlayer {
  #scenes: SceneReader;
  #view: PlayerView;
  #canvas: HTMLCanvasElement | null = null;
  #audio: AudioContext | null = null;
  #sound: SoundFeed | null = null;
  #anchor: { time: number; filmUs: Us } | null = null;
  /** As loud as in the film. */
  readonly #levelled = new LevelledSound();
  /** Voices without their rooms. */
  readonly noiseReduced = new NoiseReducedSound();
  /** How much later than it is scheduled it is heard, seconds. */
  #latency = 0;
  readonly #readers = new Map<string, TrackReader>();
  readonly #feeds = new Map<string, PictureFeed>();
  readonly #listeners = new Set<() => void>();
  #raf = 0;
  #seeking = false;
  /** It was playing when a seek began, and plays again after it. */
  #goOn = false;
  #wanted: Us | null = null;
  /** Film time at which playing ends; null: at its end. */
  #untilUs: Us | null = null;
  /** The film itself, and where it stood, while another is tried out in its place. */
  #own: { readonly film: Film; readonly filmUs: Us } | null = null;
  #closed = false;

  readonly #stopPages: () => void;
  /** What was written while it was recorded, by its track; null while it is fetched, or can't be. */
  readonly #inks = new Map<string, InkTrack | null>();

  /** Pointers that were seen in captured screens. */
  readonly pointers = new SeenPointers(() => {
    this.#scenes = this.#read(this.film);
    if (!this.#view.playing) void this.#seekTo(this.#view.filmUs);
  });

  constructor(film: Film) {
    this.#scenes = this.#read(film);
    this.#fetch(film);
    this.#stopPages = pagePictures.onCome(() => {
      if (this.#showsPages() && !this.#view.playing) void this.#seekTo(this.#view.filmUs);
    });
    this.#view = { playing: false, filmUs: 0, durationUs: film.durationUs, seekMs: null };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly view = (): PlayerView => this.#view;

  get film(): Film {
    return this.#scenes.film;
  }

  /** Shows another version of the film, at the nearest place it still has. One with the same stretches plays on. */
  setFilm(film: Film, filmUs: Us): void {
    // What is being tried out in its place goes on, unless what it was made of has changed.
    if (this.#own && this.#view.playing && sameSpans(film, this.#own.film)) {
      this.#own = { ...this.#own, film };
      return;
    }
    this.#own = null;
    this.#showFilm(film, filmUs);
  }

  /**
   * Plays a part of another film in this one's place, as it would be, and then shows this one again where it stood.
   * Whatever else is asked of it meanwhile ends that.
   */
  tryOut(film: Film, fromUs: Us, untilUs: Us): void {
    this.pause();
    const own = { film: this.film, filmUs: this.#view.filmUs };
    this.#showFilm(film, fromUs);
    this.#own = own;
    this.#goOn = true;
    this.#untilUs = untilUs;
    void this.#seekTo(fromUs);
  }

  #endTrial(): void {
    const own = this.#own;
    if (!own) return;
    this.#own = null;
    this.#goOn = false;
    this.#halt();
    this.#showFilm(own.film, own.filmUs);
  }

  #showFilm(film: Film, filmUs: Us): void {
    const goesOn = this.#view.playing && sameSpans(film, this.film);
    if (!goesOn) this.pause();
    this.#scenes = this.#read(film);
    this.#fetch(film);
    this.#set({ durationUs: film.durationUs });
    if (!goesOn) void this.#seekTo(Math.min(filmUs, film.durationUs));
  }

  #read(film: Film): SceneReader {
    return readScenes(
      film,
      inkOfLesson(film.lesson, (trackId) => this.#inks.get(trackId) ?? null),
      this.pointers.of,
    );
  }

  /** What is written on the takes of the film. */
  get inkOf(): InkOf {
    return this.#scenes.inkOf;
  }

  #fetch(film: Film): void {
    void this.#fetchInk(film);
    const takes = takesHeard(film);
    this.pointers.fetch(takes);
    this.#levelled.fetch(takes);
    this.noiseReduced.fetch(film.lesson, takes);
  }

  /** Fetches what was written in a film, as far as it isn't there, and shows it. */
  async #fetchInk(film: Film): Promise<void> {
    const takes = new Set(film.spans.map(({ take }) => take));
    const missing = [...takes].flatMap((take) =>
      ofMedium(take.tracks, 'events').filter(({ id }) => !this.#inks.has(id)),
    );
    if (missing.length === 0) return;
    missing.forEach(({ id }) => this.#inks.set(id, null));
    for (const { id } of missing) {
      try {
        const { records } = readInk(await textAt(pathTo('media', { trackId: id })));
        this.#inks.set(id, inkTrackOf(records));
      } catch (error) {
        this.#inks.delete(id);
        console.error('what was written can’t be fetched', error);
      }
    }
    if (this.#closed) return;
    this.#scenes = this.#read(this.film);
    if (!this.#view.playing) await this.#seekTo(this.#view.filmUs);
  }

  /** Paints on this canvas from now on, at the size it is shown. Null when it has gone. */
  attach(canvas: HTMLCanvasElement | null): void {
    this.#canvas = canvas;
    if (canvas) void this.#seekTo(this.#view.filmUs);
  }

  /** Goes to a moment; while one is being fetched only the last one asked for is remembered. */
  async seek(filmUs: Us): Promise<void> {
    this.#endTrial();
    await this.#seekTo(filmUs);
  }

  async #seekTo(filmUs: Us): Promise<void> {
    const inside = Math.min(Math.max(0, filmUs), this.#scenes.film.durationUs);
    if (this.#view.playing) {
      this.#halt();
      this.#goOn = true;
    }
    this.#set({ filmUs: inside });
    this.#wanted = inside;
    if (this.#seeking) return;
    this.#seeking = true;
    try {
      while (this.#wanted !== null && !this.#closed) {
        const at: Us = this.#wanted;
        this.#wanted = null;
        const began = performance.now();
        await this.#show(at);
        this.#set({ seekMs: performance.now() - began });
      }
    } catch (error) {
      if (!this.#closed) console.error('the picture can’t be shown', error);
    } finally {
      this.#seeking = false;
    }
    // Unless it was paused or closed meanwhile.
    if (this.#goOn) this.play();
  }

  play(): void {
    this.#goOn = false;
    if (this.#closed || this.#view.playing || this.#scenes.film.frames === 0) return;
    const from = this.#view.filmUs >= this.#scenes.film.durationUs - 50_000 ? 0 : this.#view.filmUs;
    if (!this.#audio) {
      this.#audio = new AudioContext();
      this.#levelled.prepare(this.#audio);
    }
    void this.#audio.resume();
    const time = this.#audio.currentTime + LEAD;
    this.#anchor = { time, filmUs: from };
    const { film, inkOf } = this.#scenes;
    const { decisions } = film.lesson;
    const clicksOf = clicksIn(decisions, inkOf, this.pointers.of);
    const out = this.#levelled.out(this.#audio);
    this.#latency = out.latency;
    this.#sound = new SoundFeed(
      ...([this.#audio, film, from, time] as const),
      (track, reduction, fromUs) =>
        (reduction && this.noiseReduced.of(track, reduction, fromUs)) ?? this.#readerOf(track.id),
      clicksOf,
      trackSoundsIn(film.lesson, this.#levelled.levelsIn(decisions)),
      out.node,
    );
    this.#set({ playing: true, filmUs: from });
    this.#raf = requestAnimationFrame(this.#tick);
  }

  pause(): void {
    this.#endTrial();
    this.#goOn = false;
    if (!this.#view.playing) return;
    this.#halt();
    this.#set({ playing: false });
  }

  close(): void {
    this.#closed = true;
    this.#stopPages();
    this.pointers.close();
    this.noiseReduced.close();
    this.#goOn = false;
    this.#halt();
    this.#readers.forEach((reader) => reader.close());
    this.#readers.clear();
    void this.#audio?.close();
  }

  #halt(): void {
    this.#untilUs = null;
    cancelAnimationFrame(this.#raf);
    this.#sound?.close();
    this.#sound = null;
    this.#anchor = null;
    this.#feeds.forEach((feed) => feed.close());
    this.#feeds.clear();
    if (this.#view.playing) this.#set({ playing: false });
  }

  readonly #tick = (): void => {
    if (!this.#anchor || !this.#audio) return;
    const { film } = this.#scenes;
    // What is heard now was scheduled a little earlier.
    const late = (this.#audio.outputLatency || 0) + this.#latency;
    const heard = this.#audio.currentTime - late;
    const filmUs = Math.max(
      this.#anchor.filmUs,
      this.#anchor.filmUs + fromSeconds(heard - this.#anchor.time),
    );
    const untilUs = Math.min(film.durationUs, this.#untilUs ?? film.durationUs);
    if (filmUs >= untilUs) {
      this.#halt();
      this.#set({ playing: false, filmUs: untilUs });
      this.#endTrial();
      return;
    }
    const scene = this.#scenes.sceneAt(filmUs);
    const span = spanAt(film, frameAt(filmUs));
    if (scene && span) {
      const slots = pictureSlots(scene.layers);
      this.#openFeeds(span, filmUs, slots);
      const held = new Map<PictureLayer, VideoSample>();
      let whole = true;
      for (const [slot, layer] of slots) {
        const sample = this.#feeds.get(`${span.filmFrame} ${slot}`)?.at(layer.takeUs);
        if (sample) held.set(layer, sample);
        else whole = false;
      }
      // A picture that isn't decoded yet leaves the last one standing, rather than a hole.
      if (whole) this.#paint(scene, held);
    }
    this.#set({ filmUs });
    this.#raf = requestAnimationFrame(this.#tick);
  };

  /** Opens what is shown now and what comes next, closes what has passed. */
  #openFeeds(span: Span, filmUs: Us, slots: readonly [string, PictureLayer][]): void {
    const { film } = this.#scenes;
    const endUs = frameToUs(span.filmFrame + span.frames);
    const next =
      endUs - filmUs < OPEN_AHEAD_US ? film.spans[film.spans.indexOf(span) + 1] : undefined;
    const wanted = new Map<string, { span: Span; trackId: string; fromUs: Us }>();
    // What isn't seen yet too: it may come into the picture in the next moment.
    const want = (of: Span, fromUs: Us) => {
      for (const { id } of ofMedium(of.take.tracks, 'picture')) {
        wanted.set(`${of.filmFrame} ${id} 0`, { span: of, trackId: id, fromUs });
      }
    };
    for (const [slot, { trackId, takeUs }] of slots) {
      wanted.set(`${span.filmFrame} ${slot}`, { span, trackId, fromUs: takeUs });
    }
    want(span, recordedIn(span, Math.max(span.filmFrame, frameAt(filmUs))));
    if (next) {
      want(next, frameToUs(recordedFrameIn(next, next.filmFrame)));
      // What stands still from before while one picture goes over into the other.
      for (const [slot, { trackId, takeUs }] of pictureSlots(
        this.#scenes.sceneOf(next.filmFrame)?.layers ?? [],
      )) {
        wanted.set(`${next.filmFrame} ${slot}`, { span: next, trackId, fromUs: takeUs });
      }
    }
    for (const [key, feed] of this.#feeds) {
      if (wanted.has(key)) continue;
      feed.close();
      this.#feeds.delete(key);
    }
    for (const [key, { span: of, trackId, fromUs }] of wanted) {
      if (this.#feeds.has(key)) continue;
      // Other footage than the span's own is over when it is.
      const own = of.take.tracks.some(({ id }) => id === trackId);
      const endUs = own ? frameToUs(of.endFrame) : Infinity;
      const feed = new PictureFeed(this.#readerOf(trackId), fromUs, endUs);
      this.#feeds.set(key, feed);
    }
  }

  /** Whether pages of materials can be in it. */
  #showsPages(): boolean {
    const { cutaways, watermark } = this.film.lesson.decisions;
    if (cutaways.length > 0 || watermark) return true;
    return [...this.#inks.values()].some((track) => track?.turns.some(({ of }) => of));
  }

  /** Fetches and paints the picture of one moment. */
  async #show(filmUs: Us): Promise<void> {
    const { film } = this.#scenes;
    const last = Math.max(0, film.durationUs - frameToUs(1));
    const scene = this.#scenes.sceneAt(Math.min(filmUs, last));
    if (!scene) return this.#blank();
    const samples = await Promise.all(
      pictureSlots(scene.layers).map(
        async ([, layer]) =>
          [layer, await this.#readerOf(layer.trackId).pictureAt(layer.takeUs)] as const,
      ),
    );
    const held = new Map<PictureLayer, VideoSample>();
    for (const [layer, sample] of samples) if (sample) held.set(layer, sample);
    if (this.#wanted === null && !this.#view.playing) this.#paint(scene, held);
    held.forEach((sample) => sample.close());
  }

  #paint(scene: Scene, samples: ReadonlyMap<PictureLayer, VideoSample>): void {
    const canvas = this.#canvas;
    const context = canvas?.getContext('2d', { alpha: false });
    if (!canvas || !context) return;
    const frames: VideoFrame[] = [];
    const pictureOf: PictureOf<CanvasImageSource> = (layer) => {
      const sample = samples.get(layer);
      if (!sample) return undefined;
      const frame = sample.toVideoFrame();
      frames.push(frame);
      return { image: frame, widthPx: sample.displayWidth, heightPx: sample.displayHeight };
    };
    paint<CanvasImageSource>(context, this.#sizeOf(canvas), scene, {
      pictureOf,
      inkOf: this.inkOf,
      pageOf: pagePictures.of,
      makeSheet,
    });
    frames.forEach((frame) => frame.close());
  }

  #blank(): void {
    const canvas = this.#canvas;
    // Where it is shown may be gone by now, or not be there yet.
    if (!canvas) return;
    const context = canvas.getContext('2d', { alpha: false });
    const { widthPx, heightPx } = this.#sizeOf(canvas);
    context?.clearRect(0, 0, widthPx, heightPx);
  }

  /** The canvas in px: as large as it is shown, 1280 across at most. Set here, so that it never lags. */
  #sizeOf(canvas: HTMLCanvasElement): SizePx {
    const aspect = aspectOf(this.#scenes.film.lesson.decisions.frame.shape);
    const shown = canvas.clientWidth * (globalThis.devicePixelRatio || 1);
    const widthPx = Math.round(Math.min(1280, Math.max(320, shown)) / 2) * 2;
    const heightPx = Math.round(widthPx / aspect / 2) * 2;
    if (canvas.width !== widthPx || canvas.height !== heightPx) {
      canvas.width = widthPx;
      canvas.height = heightPx;
    }
    return { widthPx, heightPx };
  }

  #readerOf(trackId: string): TrackReader {
    let reader = this.#readers.get(trackId);
    if (!reader) {
      reader = new TrackReader(trackId);
      this.#readers.set(trackId, reader);
    }
    return reader;
  }

  #set(change: Partial<PlayerView>): void {
    this.#view = { ...this.#view, ...change };
    this.#listeners.forEach((listener) => listener());
  }
}
