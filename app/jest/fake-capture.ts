import type { NewTake } from '@under-chalk/core/contract/takes';
import type { FromRecorder, ToRecorder } from '../capture/recorder-messages';

/** Stands in for the worker, which needs a real browser: notes what it is told, and answers on request. */
export class FakeWorker {
  static last: FakeWorker;
  /** Takes that any of them was told to record. */
  static readonly made: NewTake[] = [];
  told: ToRecorder['do'][] = [];
  /** The take it was told to record. */
  take: NewTake | null = null;
  over = false;
  onmessage: ((event: { data: FromRecorder }) => void) | null = null;
  constructor() {
    FakeWorker.last = this;
  }
  postMessage(message: ToRecorder) {
    this.told.push(message.do);
    if (message.do === 'start') FakeWorker.made.push((this.take = message.kept.take));
  }
  terminate() {
    this.over = true;
  }
  say(message: FromRecorder) {
    this.onmessage?.({ data: message });
  }
}

/** A device's track; its clones are what is recorded. */
export class FakeTrack extends EventTarget {
  stopped = false;
  clones: FakeTrack[] = [];
  clone() {
    const clone = new FakeTrack();
    this.clones.push(clone);
    return clone;
  }
  stop() {
    this.stopped = true;
  }
}
