import type { InkRecord } from '@under-chalk/core/ink/record';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import {
  isDark,
  nextRecorderState,
  NOT_YET,
  type RecorderEvent,
  type RecorderState,
} from '@under-chalk/core/record/recorder-state';
import { hear, NO_SILENCE, isLongSilence, type Silence } from '@under-chalk/core/record/silence';
import { pauseToGoBackTo } from '@under-chalk/core/sound/last-pause';
import { FLOOR_DBFS, loudest, type Level } from '@under-chalk/core/sound/level';
import { codeOf } from '../data/client';
import { LiveValue } from '../data/live-value';
import { playSound } from './play-sound';
import type { LastSeconds, Packets, RecorderFigures, Recovery } from './recorder-messages';
import {
  TakeRecording,
  type RecordingEvents,
  type TakeToRecord,
  type TracksToRecord,
} from './take-recording';

export type { TracksToRecord } from './take-recording';

const SILENT: Level = { rmsDbfs: FLOOR_DBFS, peakDbfs: FLOOR_DBFS };
/** Levels held for the zone: two seconds of them. */
const HELD = 30;
/** How far back is remembered for saying it again, and how much of it is played. */
const REWIND_SECONDS = 25;
const PLAYED_US = 4_000_000;

/** What is waited for, or null as soon as the signal is aborted. */
const unless = <T>(signal: AbortSignal, awaited: Promise<T>): Promise<T | null> =>
  Promise.race([
    awaited,
    new Promise<null>((resolve) => {
      if (signal.aborted) resolve(null);
      else signal.addEventListener('abort', () => resolve(null), { once: true });
    }),
  ]);

/** A computer that is silent may give no samples at all, and a hand may rest: they are not waited for. */
const NOT_AWAITED: readonly TrackKind[] = ['computer-sound', 'ink'];

/** Everything the recorder's screen shows, as one value. */
export interface RecorderView {
  readonly state: RecorderState;
  readonly figures: RecorderFigures;
  readonly level: { readonly now: Level; readonly held: Level };
  /** Nothing has been heard for some seconds. */
  readonly silent: boolean;
  /** Devices that stopped in the middle of the take. */
  readonly ended: readonly TrackKind[];
  /** Tracks whose encoder failed, and how it was followed. */
  readonly recovered: Readonly<Partial<Record<TrackKind, Recovery>>>;
  /** The browser had no more room, and the take ended there. */
  readonly storeFull: boolean;
  readonly takeId: string | null;
  /** Earlier takes that this one continues (“Say that again”), and how much of them is kept. */
  readonly before: { readonly takes: number; readonly keptUs: number };
  /** Whether a voice is being recorded. */
  readonly voiced: boolean;
  /** How the take sounded at its end. */
  readonly last: LastSeconds | null;
  /** What was encoded of a take that has ended. */
  readonly packets: Packets;
}

const NO_FIGURES: RecorderFigures = {
  elapsedUs: 0,
  unsentBytes: 0,
  halted: null,
  keptHere: true,
  droppedFrames: 0,
  frames: 0,
};

const NOTHING_BEFORE = { takes: 0, keptUs: 0 };

const INITIAL: RecorderView = {
  state: NOT_YET,
  figures: NO_FIGURES,
  level: { now: SILENT, held: SILENT },
  silent: false,
  ended: [],
  recovered: {},
  storeFull: false,
  takeId: null,
  before: NOTHING_BEFORE,
  voiced: false,
  last: null,
  packets: {},
};

export interface RecorderOptions extends TakeToRecord {
  /** Seconds counted before the start. */
  readonly countIn: number;
  /** A second of the count-in has begun; for its tick. */
  readonly onTick?: (left: number) => void;
  /** The take has begun. `after`: it says again what followed `untilUs` of that take. */
  readonly onTake: (takeId: string, after: { takeId: string; untilUs: number } | null) => void;
  /** A take has ended and is safe. */
  readonly onEnded: (takeId: string) => void;
}

/**
 * Records takes: walks through the recorder's states, and has a {@link TakeRecording} do each. The page
 * only shows what this tells.
 */
export class Recorder {
  readonly #shown = new LiveValue<RecorderView>(INITIAL);
  /** The take being recorded, or the last one. */
  #recording: TakeRecording | null = null;
  /** Calls off what is under way: a beginning, or a saying again. Each has its own. */
  #callOff: AbortController | null = null;
  #options: RecorderOptions | null = null;
  #levels: Level[] = [];
  #silence: Silence = NO_SILENCE;
  #figuresAt = 0;
  #onLast: ((last: LastSeconds) => void) | null = null;

  readonly subscribe = this.#shown.subscribe;
  readonly view = this.#shown.view;

  /** Counts in and starts, unless a take is being recorded. Problems show as the state `broken`. */
  async begin(options: RecorderOptions): Promise<void> {
    if (isDark(this.view().state)) return;
    this.#set({ ...INITIAL, voiced: options.tracks.voice !== undefined });
    await this.#begin(options, { on: 'begin', countIn: options.countIn }, null);
  }

  async #begin(
    options: RecorderOptions,
    event: RecorderEvent,
    after: { takeId: string; untilUs: number } | null,
  ): Promise<void> {
    const signal = this.#underWay();
    this.#options = options;
    this.#levels = [];
    this.#silence = NO_SILENCE;
    this.#on(event);
    try {
      const recording: TakeRecording = new TakeRecording(
        options,
        this.#eventsOf(() => recording),
      );
      this.#recording = recording;
      for (;;) {
        const { state } = this.view();
        if (state.name !== 'count-in') break;
        options.onTick?.(state.left);
        await unless(signal, new Promise((resolve) => setTimeout(resolve, 1000)));
        if (signal.aborted) return;
        this.#on({ on: 'tick' });
      }
      await unless(signal, recording.ready);
      if (signal.aborted) return;
      this.#callOff = null;
      const { takes, keptUs } = this.view().before;
      const before = after ? { takes: takes + 1, keptUs: keptUs + after.untilUs } : NOTHING_BEFORE;
      this.#set({ takeId: recording.takeId, figures: NO_FIGURES, before });
      this.#figuresAt = performance.now();
      const awaited = recording.tracks.filter(({ kind }) => !NOT_AWAITED.includes(kind));
      this.#on({ on: 'opened', trackIds: awaited.map((track) => track.id) });
      recording.start();
      options.onTake(recording.takeId, after);
    } catch (error) {
      if (signal.aborted) return;
      console.error('the recording could not start', error);
      this.#break(codeOf(error));
    }
  }

  /** Something begins that a stop can call off. What was under way before is not any more. */
  #underWay(): AbortSignal {
    this.#callOff?.abort();
    this.#callOff = new AbortController();
    return this.#callOff.signal;
  }

  /** Nothing is under way any more, and what had not begun lets go of its devices. */
  #forgetBeginning(): void {
    this.#callOff?.abort();
    this.#callOff = null;
    this.#recording?.release();
    this.#recording = null;
  }

  #break(problem: string): void {
    this.#forgetBeginning();
    this.#on({ on: 'broke', problem });
  }

  /** Events of a recording that is no longer the present one change nothing on the screen. */
  #eventsOf(recording: () => TakeRecording): RecordingEvents {
    const mine = <A extends unknown[]>(told: (...given: A) => void) => {
      return (...given: A) => {
        if (this.#recording === recording()) told(...given);
      };
    };
    return {
      first: mine((trackId) => this.#on({ on: 'first-arrived', trackId })),
      figures: mine((figures) => {
        this.#figuresAt = performance.now();
        this.#set({ figures });
      }),
      level: mine((level) => this.#hearLevel(level)),
      deviceEnded: mine((kind) => this.deviceEnded(kind)),
      recovered: mine((kind, recovery) =>
        this.#set({ recovered: { ...this.view().recovered, [kind]: recovery } }),
      ),
      storeFull: mine(() => {
        this.#set({ storeFull: true });
        this.stop();
      }),
      broke: mine((problem) => this.#break(problem)),
      lastSeconds: mine((last) => {
        this.#onLast?.(last);
        this.#set({ last });
      }),
      // Told of every take, also of one that another has followed.
      ended: (durationUs, safe, packets) => {
        const { takeId } = recording();
        this.#options?.onEnded(takeId);
        if (this.#recording?.takeId !== takeId) return;
        this.#set({ packets });
        this.#on({ on: 'ended', durationUs, safe });
      },
    };
  }

  pause(): void {
    this.#recording?.pause();
    this.#on({ on: 'pause' });
  }

  resume(): void {
    this.#recording?.resume();
    this.#on({ on: 'resume' });
    this.#figuresAt = performance.now();
  }

  /** Ends the take; one that has not begun is called off. */
  stop(): void {
    this.#on({ on: 'stop' });
    const { name } = this.view().state;
    if (name === 'not-yet') this.#forgetBeginning();
    else if (name === 'stopping' || name === 'stopped') {
      this.#callOff?.abort();
      this.#callOff = null;
      this.#recording?.stop();
    }
  }

  /**
   * Says the last phrase again: ends the take at the pause before it, plays what came before that, counts
   * in and goes on as a new take.
   */
  async sayAgain(): Promise<void> {
    const recording = this.#recording;
    const options = this.#options;
    if (!recording || !options) return;
    const before = this.view().state;
    this.#on({ on: 'rewind' });
    if (this.view().state === before || this.view().state.name !== 'rewinding') return;
    const signal = this.#underWay();
    const looked = new Promise<LastSeconds>((resolve) => {
      this.#onLast = resolve;
      recording.lookBack(REWIND_SECONDS);
    });
    const last = await unless(signal, looked);
    this.#onLast = null;
    // It goes on by itself until everything of it is safe.
    recording.stop();
    if (!last) return;
    const untilUs = pauseToGoBackTo(last.levels, last.atUs);
    await playSound(last.sound, untilUs - PLAYED_US, untilUs, signal);
    if (signal.aborted) return;
    await this.#begin(
      options,
      { on: 'begin', countIn: Math.max(3, options.countIn) },
      { takeId: recording.takeId, untilUs },
    );
  }

  /** From now on a track comes from another device. */
  replace(kind: TrackKind, track: MediaStreamTrack): boolean {
    const replaced = this.#recording?.replace(kind, track) ?? false;
    if (replaced && this.#options) {
      const tracks: TracksToRecord = { ...this.#options.tracks, [kind]: track };
      this.#options = { ...this.#options, tracks };
      this.#set({ ended: this.view().ended.filter((ended) => ended !== kind) });
    }
    return replaced;
  }

  /** Records what was written by hand, with its times on the common clock. Before and after a take it is nobody's. */
  write(records: readonly InkRecord[]): void {
    this.#recording?.write(records);
  }

  /** Hides a picture from the recording, or shows it again. */
  hide(kind: TrackKind, hidden: boolean): void {
    this.#recording?.hide(kind, hidden);
  }

  /** The page is being left: what is being recorded ends here, and is brought to safety. */
  leave(): void {
    if (isDark(this.view().state) && this.view().state.name !== 'stopping') this.stop();
  }

  /** Ready for another take. */
  again(): void {
    this.#on({ on: 'again' });
  }

  /** Recorded time at this moment, µs. */
  nowUs(): number {
    const { state, figures } = this.view();
    const passedMs = state.name === 'recording' ? performance.now() - this.#figuresAt : 0;
    return Math.round(figures.elapsedUs + Math.min(1_000, passedMs) * 1000);
  }

  /** A device stopped giving; told by the page, which sees the tracks themselves. */
  deviceEnded(kind: TrackKind): void {
    if (!isDark(this.view().state) || this.view().ended.includes(kind)) return;
    this.#set({ ended: [...this.view().ended, kind] });
  }

  #hearLevel(level: Level): void {
    this.#levels = [...this.#levels, level].slice(-HELD);
    const nowUs = performance.now() * 1000;
    this.#silence = hear(this.#silence, level, nowUs, this.view().state.name === 'recording');
    this.#set({
      level: { now: level, held: loudest(this.#levels) },
      silent: isLongSilence(this.#silence, nowUs),
    });
  }

  #on(event: RecorderEvent): void {
    const state = nextRecorderState(this.view().state, event);
    if (state !== this.view().state) this.#set({ state });
  }

  #set(change: Partial<RecorderView>): void {
    this.#shown.set({ ...this.view(), ...change });
  }
}
