import type { Edit } from '@under-chalk/core/edit/edit';
import type { ErrorCode } from '@under-chalk/core/errors/errors';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { isDark } from '@under-chalk/core/record/recorder-state';
import type { Us } from '@under-chalk/core/time/us';
import { openMicrophone } from '../../../capture/devices';
import { Recorder } from '../../../capture/recorder';
import { codeOf } from '../../../data/client';
import { LiveValue } from '../../../data/live-value';
import type { PlayerView } from '../../../player/film-player';
import type { OpenStretch } from '../open-stretch';

/** How it stands with speaking over a stretch. */
export type SpeakingState =
  | { readonly is: 'not-yet' }
  /** The microphone is being opened, and seconds are counted. */
  | { readonly is: 'beginning' }
  /** The picture plays, and what is said is recorded; so much of it is left. */
  | { readonly is: 'speaking'; readonly leftUs: Us }
  /** What was said is being brought to safety. */
  | { readonly is: 'ending' }
  | { readonly is: 'spoken' }
  | { readonly is: 'failed'; readonly why: ErrorCode };

/** What plays the picture. */
export interface Shows {
  view(): PlayerView;
  subscribe(listener: () => void): () => void;
  /** Plays a stretch of the film without a sound. @returns film time at which it ends */
  playSilently(stretch: OpenStretch): Us;
  pause(): void;
}

/** What is said about whom. */
export interface ToSpeak {
  readonly lesson: Lesson;
  readonly stretch: OpenStretch;
  /** Seconds counted before the start. */
  readonly countIn: number;
  /** The microphone; empty: the one that the browser gives. */
  readonly microphone: string;
  readonly put: (edit: Edit) => void;
  /** Another take has come to the lesson. */
  readonly onEnded: () => void;
}

/** A picture that hasn't begun to play so long after the recording has, doesn't. ms */
const MOST_WAIT_MS = 6_000;
/** Recorded on after the picture has ended, so that the last word is whole. ms */
const ON_MS = 200;
/** Less was no speaking. µs */
const LEAST_US = 300_000;

/**
 * Speaks over a stretch of the film: its picture plays, without a sound, and what is said meanwhile becomes a take of its own
 * beside the film. A recording like any other, and as safe.
 */
export class SpeakingOver {
  readonly state = new LiveValue<SpeakingState>({ is: 'not-yet' });
  readonly recorder = new Recorder();
  readonly #shows: Shows;
  #stream: MediaStream | null = null;
  #stop: (() => void) | null = null;
  /** Ends watching the recorder. */
  #forget: () => void = () => undefined;
  /** Which beginning this is: one that was called off goes no further. */
  #turn = 0;

  constructor(shows: Shows) {
    this.#shows = shows;
  }

  async begin(what: ToSpeak): Promise<void> {
    if (this.#stop || isDark(this.recorder.view().state)) return;
    if (this.state.view().is === 'beginning') return;
    this.state.set({ is: 'beginning' });
    const turn = ++this.#turn;
    try {
      const stream = await openMicrophone(what.microphone);
      if (turn !== this.#turn) return stopAll(stream);
      this.#stream = stream;
    } catch (error) {
      if (turn === this.#turn) this.#fail(codeOf(error) as ErrorCode);
      return;
    }
    const [voice] = this.#stream.getAudioTracks();
    const { lesson, stretch, countIn } = what;
    this.#forget();
    this.#forget = this.recorder.subscribe(() => {
      const now = this.recorder.view().state;
      if (now.name === 'broken') this.#fail(now.problem as ErrorCode);
    });
    this.recorder.again();
    await this.recorder.begin({
      ...{ lessonId: lesson.id, lessonTitle: lesson.decisions.plan.title },
      ...{ source: 'sound', practice: false, beside: true },
      ...{ tracks: voice ? { voice } : {}, countIn },
      onTake: (takeId) => this.#speak(takeId, stretch, what),
      onEnded: () => {
        this.#release();
        what.onEnded();
        if (this.state.view().is === 'ending') this.state.set({ is: 'spoken' });
      },
    });
  }

  /** Ends it here: what was said until now is heard. */
  end(): void {
    if (this.#stop) this.#stop();
    else if (this.state.view().is === 'beginning') {
      this.#turn++;
      this.recorder.stop();
      this.#release();
      this.state.set({ is: 'not-yet' });
    }
  }

  close(): void {
    this.end();
    this.#turn++;
    this.recorder.leave();
  }

  /** The take has begun: the picture is played, and when it has ended the take is laid over it. */
  #speak(takeId: string, stretch: OpenStretch, { put }: ToSpeak): void {
    const beganAt = performance.now();
    const shows = this.#shows;
    let fromUs: Us | null = null;
    let startedUs: Us = 0;
    let shownUs: Us = 0;
    const untilUs = shows.playSilently(stretch);
    const { takeId: over, startUs, endUs } = stretch;
    const stop = () => {
      this.#stop = null;
      unsubscribe();
      clearTimeout(late);
      shows.pause();
      this.state.set({ is: 'ending' });
      if (fromUs !== null && shownUs >= LEAST_US) {
        const by = { takeId, fromUs: Math.round(fromUs), sinceUs: startUs };
        put({ do: 'set-voice-over', takeId: over, startUs, endUs, by });
      }
      setTimeout(() => this.recorder.stop(), ON_MS);
    };
    const late = setTimeout(() => {
      if (fromUs !== null) return;
      stop();
      this.#fail('unexpected');
    }, MOST_WAIT_MS);
    const unsubscribe = shows.subscribe(() => {
      const { playing, filmUs } = shows.view();
      if (fromUs === null) {
        if (!playing) return;
        startedUs = filmUs;
        // What was recorded when the picture began to move.
        fromUs = (performance.now() - beganAt) * 1000;
      }
      if (!playing) return stop();
      shownUs = filmUs - startedUs;
      this.state.set({ is: 'speaking', leftUs: Math.max(0, untilUs - filmUs) });
    });
    this.#stop = stop;
  }

  #fail(why: ErrorCode): void {
    this.#release();
    this.state.set({ is: 'failed', why });
  }

  #release(): void {
    this.#forget();
    this.#forget = () => undefined;
    stopAll(this.#stream);
    this.#stream = null;
  }
}

const stopAll = (stream: MediaStream | null): void =>
  stream?.getTracks().forEach((track) => track.stop());
