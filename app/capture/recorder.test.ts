import type { NewTake } from '@under-chalk/core/contract/api';
import { TellableError } from '@under-chalk/core/errors/errors';
import type { FromRecorder, ToRecorder } from './recorder-messages';
import { Recorder, type RecorderOptions } from './recorder';

/** Stands in for the worker, which needs a real browser: notes what it is told, and answers on request. */
class FakeWorker {
  static last: FakeWorker;
  told: ToRecorder['do'][] = [];
  over = false;
  onmessage: ((event: { data: FromRecorder }) => void) | null = null;
  constructor() {
    FakeWorker.last = this;
  }
  postMessage(message: ToRecorder) {
    this.told.push(message.do);
  }
  terminate() {
    this.over = true;
  }
  say(message: FromRecorder) {
    this.onmessage?.({ data: message });
  }
}

class FakeTrack extends EventTarget {
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

const made: NewTake[] = [];
const finished: string[] = [];

const options = (change: Partial<RecorderOptions> = {}) => {
  const surface = new FakeTrack();
  const voice = new FakeTrack();
  const chosen: RecorderOptions = {
    source: 'screen',
    practice: false,
    tracks: { surface, voice } as never,
    countIn: 0,
    begin: async (take) => void made.push(take),
    finish: async (takeId) => void finished.push(takeId),
    ...change,
  };
  return { surface, voice, chosen };
};

const breathe = () => new Promise((resolve) => setTimeout(resolve, 0));

beforeEach(() => {
  made.length = 0;
  finished.length = 0;
  Object.assign(globalThis, {
    Worker: FakeWorker,
    MediaStreamTrackProcessor: class {
      readable = {};
    },
  });
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => jest.restoreAllMocks());

/** Begins, and lets the clocks settle and the take be made. */
const begun = async (change: Partial<RecorderOptions> = {}) => {
  const recorder = new Recorder();
  const parts = options(change);
  const running = recorder.begin(parts.chosen);
  FakeWorker.last.say({ is: 'ready' });
  await running;
  return { recorder, worker: FakeWorker.last, ...parts };
};

it('makes the take before anything is recorded, and says so only when all tracks have begun', async () => {
  const { recorder, worker } = await begun();
  expect(made).toHaveLength(1);
  expect(made[0]!.tracks.map((track) => track.kind)).toEqual(['surface', 'voice']);
  expect(worker.told).toEqual(['open', 'start']);
  const [surface, voice] = made[0]!.tracks;
  worker.say({ is: 'first', trackId: surface!.id });
  expect(recorder.view().state).toEqual({ name: 'starting', waitingFor: [voice!.id] });
  worker.say({ is: 'first', trackId: voice!.id });
  expect(recorder.view().state.name).toBe('recording');
});

it('records clones, so that the live view keeps its own, and lets go of them at the end', async () => {
  const { recorder, worker, surface, voice } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  recorder.stop();
  expect(worker.told.at(-1)).toBe('stop');
  worker.say({ is: 'all-sent', durationUs: 7_000_000 });
  await breathe();
  expect(finished).toEqual([made[0]!.id]);
  expect(recorder.view().state).toEqual({ name: 'stopped', durationUs: 7_000_000 });
  for (const track of [surface, voice]) {
    expect(track.stopped).toBe(false);
    expect(track.clones.every((clone) => clone.stopped)).toBe(true);
  }
  expect(worker.over).toBe(true);
});

it('tells why when the take can’t be made', async () => {
  const refuse = () => Promise.reject(new TellableError('disk-full'));
  const { recorder, worker } = await begun({ begin: refuse });
  expect(recorder.view().state).toEqual({ name: 'broken', problem: 'disk-full' });
  expect(worker.told).toEqual(['open']);
  expect(worker.over).toBe(true);
  recorder.again();
  expect(recorder.view().state.name).toBe('not-yet');
});

it('is stopped and safe even when the server does not hear of the stop', async () => {
  const deaf = () => Promise.reject(new TellableError('server-unreachable'));
  const { recorder, worker } = await begun({ finish: deaf });
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  recorder.stop();
  worker.say({ is: 'all-sent', durationUs: 1 });
  await breathe();
  expect(recorder.view().state.name).toBe('stopped');
});

it('names a device that stops in the middle, once, and goes on', async () => {
  const { recorder, worker, surface } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  surface.dispatchEvent(new Event('ended'));
  worker.say({ is: 'ended', kind: 'surface' });
  expect(recorder.view().ended).toEqual(['surface']);
  expect(recorder.view().state.name).toBe('recording');
});

it('holds the loudest of the last levels for the zone', async () => {
  const { recorder, worker } = await begun();
  for (const dbfs of [-60, -18, -50]) {
    worker.say({ is: 'level', level: { rmsDbfs: dbfs, peakDbfs: dbfs + 9 } });
  }
  expect(recorder.view().level).toEqual({
    now: { rmsDbfs: -50, peakDbfs: -41 },
    held: { rmsDbfs: -18, peakDbfs: -9 },
  });
});

it('can be called off while counting in, and then nothing was made', async () => {
  jest.useFakeTimers();
  const recorder = new Recorder();
  const running = recorder.begin(options({ countIn: 3 }).chosen);
  expect(recorder.view().state).toEqual({ name: 'count-in', left: 3 });
  recorder.stop();
  FakeWorker.last.say({ is: 'ready' });
  await jest.advanceTimersByTimeAsync(2_000);
  await running;
  jest.useRealTimers();
  expect(made).toHaveLength(0);
  expect(recorder.view().state.name).toBe('not-yet');
  expect(FakeWorker.last.over).toBe(true);
});
