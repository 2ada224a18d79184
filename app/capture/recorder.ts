import type { NewTake } from '@under-chalk/core/contract/api';
import type { TakeSource, TrackKind } from '@under-chalk/core/lesson/take';
import {
  nextRecorderState,
  NOT_YET,
  type RecorderEvent,
  type RecorderState,
} from '@under-chalk/core/record/recorder-state';
import { FLOOR_DBFS, loudest, type Level } from '@under-chalk/core/sound/level';
import { codeOf } from '../data/client';
import { newId } from './new-id';
import type {
  FromRecorder,
  RecorderFigures,
  SourceToRecord,
  ToRecorder,
} from './recorder-messages';

const SILENT: Level = { rmsDbfs: FLOOR_DBFS, peakDbfs: FLOOR_DBFS };
/** Levels held for the zone: two seconds of them. */
const HELD = 30;

/** What is recorded: at most one track of each kind. */
export type TracksToRecord = Partial<Record<TrackKind, MediaStreamTrack>>;

/** Everything the recorder's screen shows, as one value. */
export interface RecorderView {
  readonly state: RecorderState;
  readonly figures: RecorderFigures;
  readonly level: { readonly now: Level; readonly held: Level };
  /** Devices that stopped in the middle of the take. */
  readonly ended: readonly TrackKind[];
  readonly takeId: string | null;
}

const NO_FIGURES: RecorderFigures = {
  elapsedUs: 0,
  unsentBytes: 0,
  offline: false,
  droppedFrames: 0,
  frames: 0,
};

const INITIAL: RecorderView = {
  state: NOT_YET,
  figures: NO_FIGURES,
  level: { now: SILENT, held: SILENT },
  ended: [],
  takeId: null,
};

export interface RecorderOptions {
  readonly source: TakeSource;
  readonly practice: boolean;
  readonly tracks: TracksToRecord;
  /** Seconds counted before the start. */
  readonly countIn: number;
  /** Makes the take on the server. Rejects when it can't be reached. */
  readonly begin: (take: NewTake) => Promise<unknown>;
  /** All bytes have arrived there. */
  readonly finish: (takeId: string) => Promise<unknown>;
}

/**
 * Records one take: walks through the recorder's states, and has the worker read, encode and send. The
 * page only shows what this tells.
 */
export class Recorder {
  #view: RecorderView = INITIAL;
  readonly #listeners = new Set<() => void>();
  #worker: Worker | null = null;
  #levels: Level[] = [];
  #clones: MediaStreamTrack[] = [];
  #lock: (() => void) | null = null;
  #options: RecorderOptions | null = null;
  #onReady: (() => void) | null = null;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly view = (): RecorderView => this.#view;

  /** Counts in, makes the take on the server and starts. Problems show as the state `broken`. */
  async begin(options: RecorderOptions): Promise<void> {
    this.#options = options;
    this.#set({ ...INITIAL });
    this.#on({ on: 'begin', countIn: options.countIn });
    try {
      const ready = new Promise<void>((resolve) => {
        this.#onReady = resolve;
      });
      const tracks = this.#open(options.tracks);
      while (this.#view.state.name === 'count-in') {
        await new Promise((resolve) => setTimeout(resolve, 1000));
        this.#on({ on: 'tick' });
      }
      await ready;
      if (this.#view.state.name === 'starting') await this.#start(options, tracks);
      else this.#release();
    } catch (error) {
      console.error('the recording could not start', error);
      this.#on({ on: 'broke', problem: codeOf(error) });
      this.#release();
    }
  }

  pause(): void {
    this.#send({ do: 'pause' });
    this.#on({ on: 'pause' });
  }

  resume(): void {
    this.#send({ do: 'resume' });
    this.#on({ on: 'resume' });
  }

  stop(): void {
    this.#on({ on: 'stop' });
    if (this.#view.state.name === 'stopping') this.#send({ do: 'stop' });
  }

  /** Ready for another take. */
  again(): void {
    this.#on({ on: 'again' });
  }

  /** A device stopped giving; told by the page, which sees the tracks themselves. */
  deviceEnded(kind: TrackKind): void {
    if (!this.#view.ended.includes(kind)) this.#set({ ended: [...this.#view.ended, kind] });
  }

  /** Has the worker read the devices, so that their clocks are known when the take begins. */
  #open(live: TracksToRecord): NewTake['tracks'] {
    const worker = new Worker(new URL('../workers/recorder.worker.ts', import.meta.url));
    this.#worker = worker;
    worker.onmessage = ({ data }: MessageEvent<FromRecorder>) => this.#heard(data);
    worker.onerror = (event) => {
      console.error('the recorder’s worker failed', event.message);
      this.#on({ on: 'broke', problem: 'unexpected' });
    };
    const entries = Object.entries(live) as [TrackKind, MediaStreamTrack][];
    const sources = entries.map(([kind, track]): SourceToRecord => {
      // Its own clone, so that the live view and the recording don't take frames from each other.
      const clone = track.clone();
      this.#clones.push(clone);
      track.addEventListener('ended', () => this.deviceEnded(kind), { once: true });
      const processor = new MediaStreamTrackProcessor({ track: clone as MediaStreamVideoTrack });
      const readable = processor.readable as SourceToRecord['readable'];
      return { trackId: newId(), kind, readable };
    });
    this.#send(
      { do: 'open', sources },
      sources.map((source) => source.readable),
    );
    return sources.map(({ trackId, kind }) => ({ id: trackId, kind }));
  }

  async #start(options: RecorderOptions, tracks: NewTake['tracks']): Promise<void> {
    const takeId = newId();
    // Created first: from here on a crash leaves a take on the server, and not nothing.
    await options.begin({ id: takeId, source: options.source, practice: options.practice, tracks });
    this.#set({ takeId });
    this.#hold(takeId);
    this.#on({ on: 'opened', trackIds: tracks.map((track) => track.id) });
    this.#send({ do: 'start', takeId, apiOrigin: location.origin });
  }

  #heard(message: FromRecorder): void {
    switch (message.is) {
      case 'ready':
        return this.#onReady?.();
      case 'first':
        return this.#on({ on: 'first-arrived', trackId: message.trackId });
      case 'figures':
        return this.#set({ figures: message.figures });
      case 'level': {
        this.#levels = [...this.#levels, message.level].slice(-HELD);
        return this.#set({ level: { now: message.level, held: loudest(this.#levels) } });
      }
      case 'ended':
        return this.deviceEnded(message.kind);
      case 'broke':
        console.error('the recorder', message.detail);
        this.#on({ on: 'broke', problem: message.problem });
        return this.#release();
      case 'all-sent':
        void this.#finished(message.durationUs);
    }
  }

  async #finished(durationUs: number): Promise<void> {
    const takeId = this.#view.takeId;
    this.#release();
    try {
      if (takeId) await this.#options?.finish(takeId);
    } catch (error) {
      // Every byte is there: the server settles it by itself when it hears no more of it.
      console.error('the stop was not heard', error);
    }
    this.#on({ on: 'all-sent', durationUs });
  }

  /** Holds a lock while recording, by which other tabs tell a take that is being recorded from one that was torn. */
  #hold(takeId: string): void {
    if (!('locks' in navigator)) return;
    void navigator.locks.request(`take ${takeId}`, () => {
      return new Promise<void>((resolve) => {
        this.#lock = resolve;
      });
    });
  }

  #release(): void {
    this.#worker?.terminate();
    this.#worker = null;
    this.#clones.forEach((clone) => clone.stop());
    this.#clones = [];
    this.#levels = [];
    this.#lock?.();
    this.#lock = null;
  }

  #send(message: ToRecorder, transfer: Transferable[] = []): void {
    this.#worker?.postMessage(message, transfer);
  }

  #on(event: RecorderEvent): void {
    const state = nextRecorderState(this.#view.state, event);
    if (state !== this.#view.state) this.#set({ state });
  }

  #set(change: Partial<RecorderView>): void {
    this.#view = { ...this.#view, ...change };
    this.#listeners.forEach((listener) => listener());
  }
}

/** Whether a take is being recorded in some tab of this browser. */
export const isRecordedHere = async (takeId: string): Promise<boolean> => {
  if (!('locks' in navigator)) return false;
  const { held = [] } = await navigator.locks.query();
  return held.some((lock) => lock.name === `take ${takeId}`);
};
