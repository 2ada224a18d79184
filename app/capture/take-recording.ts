import type { NewTake } from '@under-chalk/core/contract/takes';
import type { ErrorCode } from '@under-chalk/core/errors/errors';
import type { InkRecord } from '@under-chalk/core/ink/record';
import type { TakeSource, TrackKind } from '@under-chalk/core/lesson/take';
import type { Level } from '@under-chalk/core/sound/level';
import { codeOf } from '../data/client';
import { newId } from './new-id';
import type {
  FromRecorder,
  LastSeconds,
  Packets,
  RecorderFigures,
  Recovery,
  SourceToRecord,
  ToRecorder,
} from './recorder-messages';
import { readTrack } from './reading/read-track';
import { finishTake } from './sending/finish-take';
import { openStore } from './store/open-store';
import { holdTake } from './store/take-lock';

/** What is recorded: at most one track of each kind. */
export type TracksToRecord = Partial<Record<TrackKind, MediaStreamTrack>>;

/** What a take is of. */
export interface TakeToRecord {
  readonly lessonId: string;
  readonly lessonTitle: string;
  readonly source: TakeSource;
  readonly practice: boolean;
  readonly tracks: TracksToRecord;
  /** It stands beside the film, and not in it. */
  readonly beside?: boolean;
  /** What is written by hand is recorded too. */
  readonly written?: boolean;
}

/** Where a take is safe when it has ended. */
export type Safe = 'on-server' | 'in-browser';

/** What a recording tells while it goes on. */
export interface RecordingEvents {
  first(trackId: string): void;
  figures(figures: RecorderFigures): void;
  level(level: Level): void;
  deviceEnded(kind: TrackKind): void;
  recovered(kind: TrackKind, recovery: Recovery): void;
  storeFull(): void;
  broke(problem: ErrorCode): void;
  lastSeconds(last: LastSeconds): void;
  ended(durationUs: number, safe: Safe, packets: Packets): void;
}

/**
 * One take being recorded: a worker that reads clones of the devices' tracks, from before the start until
 * every byte is safe.
 */
export class TakeRecording {
  readonly takeId = newId();
  /** Resolves when the clocks of all devices are known, and recording can start at once. */
  readonly ready: Promise<void>;
  readonly tracks: NewTake['tracks'];
  readonly #take: TakeToRecord;
  readonly #events: RecordingEvents;
  readonly #worker: Worker;
  /** What is being read of each kind: a clone of the device's track. */
  readonly #read = new Map<TrackKind, { clone: MediaStreamTrack; close: () => void }>();
  readonly #hidden = new Set<TrackKind>();
  #isReady: () => void = () => undefined;
  #letGo: (() => void) | null = null;
  #stopped = false;

  constructor(take: TakeToRecord, events: RecordingEvents) {
    this.#take = take;
    this.#events = events;
    this.ready = new Promise((resolve) => {
      this.#isReady = resolve;
    });
    this.#worker = new Worker(new URL('../workers/recorder.worker.ts', location.href));
    this.#worker.onmessage = ({ data }: MessageEvent<FromRecorder>) => this.#heard(data);
    this.#worker.onerror = (event) => {
      console.error('the recorder’s worker failed', event.message);
      this.release();
      this.#events.broke('unexpected');
    };
    const opened = (Object.entries(take.tracks) as [TrackKind, MediaStreamTrack][]).map(
      ([kind, track]) => this.#open(newId(), kind, track),
    );
    const inkTrackId = take.written ? newId() : null;
    this.tracks = [
      ...opened.map(({ source }) => ({ id: source.trackId, kind: source.kind })),
      ...(inkTrackId === null ? [] : [{ id: inkTrackId, kind: 'ink' as const }]),
    ];
    this.#send(
      { do: 'open', sources: opened.map(({ source }) => source), inkTrackId },
      opened.flatMap(({ transfer }) => transfer),
    );
  }

  #open(
    trackId: string,
    kind: TrackKind,
    track: MediaStreamTrack,
  ): { source: SourceToRecord; transfer: Transferable[] } {
    // Its own clone, so that the live view and the recording don't take frames from each other.
    const clone = track.clone();
    clone.enabled = !this.#hidden.has(kind);
    this.#close(kind);
    const { given, transfer, close } = readTrack(clone);
    this.#read.set(kind, { clone, close });
    track.addEventListener(
      'ended',
      () => {
        if (this.#read.get(kind)?.clone === clone) this.#events.deviceEnded(kind);
      },
      { once: true },
    );
    return { source: { trackId, kind, given }, transfer };
  }

  #close(kind: TrackKind): void {
    const read = this.#read.get(kind);
    read?.close();
    read?.clone.stop();
    this.#read.delete(kind);
  }

  start(): void {
    const { lessonId, lessonTitle, source, practice, beside } = this.#take;
    this.#letGo = holdTake(this.takeId);
    // A browser that is short of room then spares what was recorded.
    void navigator.storage?.persist?.().catch(() => false);
    this.#send({
      do: 'start',
      apiOrigin: location.origin,
      kept: {
        lessonId,
        lessonTitle,
        take: {
          ...{ id: this.takeId, source, practice, tracks: this.tracks },
          ...(beside ? { beside } : {}),
        },
        startedAt: new Date().toISOString(),
        recordedUs: 0,
        stopped: false,
      },
    });
  }

  /** From now on a track is recorded from another device. A kind that the take has no track of can't be. */
  replace(kind: TrackKind, track: MediaStreamTrack): boolean {
    const present = this.tracks.find((candidate) => candidate.kind === kind);
    if (!present) return false;
    const { source, transfer } = this.#open(present.id, kind, track);
    this.#send({ do: 'replace', source }, transfer);
    return true;
  }

  /** Black from now on, or the device's picture again. Nothing of what is hidden leaves this page. */
  hide(kind: TrackKind, hidden: boolean): void {
    if (hidden) this.#hidden.add(kind);
    else this.#hidden.delete(kind);
    const read = this.#read.get(kind);
    if (read) read.clone.enabled = !hidden;
  }

  /** Records what was written, with its times on the common clock. */
  write(records: readonly InkRecord[]): void {
    this.#send({ do: 'write', records });
  }

  pause(): void {
    this.#send({ do: 'pause' });
  }
  resume(): void {
    this.#send({ do: 'resume' });
  }
  /** Ends the take; asked again it changes nothing. */
  stop(): void {
    if (this.#stopped) return;
    this.#stopped = true;
    this.#send({ do: 'stop' });
  }
  /** Has `lastSeconds` told. */
  lookBack(seconds: number): void {
    this.#send({ do: 'look-back', seconds });
  }

  /** Ends everything at once; what was written is kept and sent by the catch-up. */
  release(): void {
    this.#worker.terminate();
    [...this.#read.keys()].forEach((kind) => this.#close(kind));
    this.#letGo?.();
    this.#letGo = null;
  }

  #heard(message: FromRecorder): void {
    switch (message.is) {
      case 'ready':
        return this.#isReady();
      case 'first':
        return this.#events.first(message.trackId);
      case 'figures':
        return this.#events.figures(message.figures);
      case 'level':
        return this.#events.level(message.level);
      case 'ended':
        return this.#events.deviceEnded(message.kind);
      case 'recovered':
        return this.#events.recovered(message.kind, message.recovery);
      case 'last-seconds':
        return this.#events.lastSeconds(message.last);
      case 'store-full':
        return this.#events.storeFull();
      case 'broke':
        console.error('the recorder', message.detail);
        this.release();
        return this.#events.broke(message.problem);
      case 'kept-here':
        this.release();
        return this.#events.ended(message.durationUs, 'in-browser', message.packets);
      case 'all-sent':
        void this.#finish(message.durationUs, message.packets);
    }
  }

  async #finish(durationUs: number, packets: Packets): Promise<void> {
    let safe: Safe = 'on-server';
    try {
      await finishTake(await openStore(), this.takeId, false);
    } catch (error) {
      // Every byte is there, and the take is still kept here: the catch-up tells the server later.
      console.error('the stop was not heard', error);
      // Unless the server says that something is missing: then it is what is kept here that counts.
      if (codeOf(error) === 'not-ready') safe = 'in-browser';
    }
    this.release();
    this.#events.ended(durationUs, safe, packets);
  }

  #send(message: ToRecorder, transfer: Transferable[] = []): void {
    this.#worker.postMessage(message, transfer);
  }
}
