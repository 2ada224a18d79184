import type { NewTake } from '@under-chalk/core/contract/takes';
import { takeOfLength } from '@under-chalk/core/testing/lessons';
import { AppError } from '@under-chalk/core/errors/errors';
import { FakeTrack, FakeWorker } from '../jest/fake-capture';
import { Recorder, type RecorderOptions } from './recorder';

/** Takes that the worker was told to record. */
const made: NewTake[] = FakeWorker.made;
const ended: string[] = [];
const takes: { takeId: string; after: { takeId: string; untilUs: number } | null }[] = [];

const options = (change: Partial<RecorderOptions> = {}) => {
  const surface = new FakeTrack();
  const voice = new FakeTrack();
  const chosen: RecorderOptions = {
    lessonId: 'lesson-one',
    lessonTitle: 'Tide heights',
    source: 'screen',
    practice: false,
    tracks: { surface, voice } as never,
    countIn: 0,
    onTake: (takeId, after) => void takes.push({ takeId, after }),
    onEnded: (takeId) => void ended.push(takeId),
    ...change,
  };
  return { surface, voice, chosen };
};

/** What the server answers to the stop of a take. */
const ready = (id: string) => ({ ...takeOfLength('take-one', 7_000_000), id });

const breathe = () => new Promise((resolve) => setTimeout(resolve, 0));

beforeEach(() => {
  made.length = 0;
  ended.length = 0;
  takes.length = 0;
  Object.assign(globalThis, {
    Worker: FakeWorker,
    MediaStreamTrackProcessor: class {
      readable = {};
    },
    fetch: async () => Response.json(ready(made.at(-1)!.id)),
  });
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => jest.restoreAllMocks());

/** Begins, and lets the clocks process and the take be made. */
const begun = async (change: Partial<RecorderOptions> = {}) => {
  const recorder = new Recorder();
  const parts = options(change);
  const running = recorder.begin(parts.chosen);
  FakeWorker.last.say({ is: 'ready' });
  await running;
  return { recorder, worker: FakeWorker.last, ...parts };
};

it('says that it records only when all tracks have begun', async () => {
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
  worker.say({ is: 'all-sent', durationUs: 7_000_000, packets: {} });
  await breathe();
  expect(ended).toEqual([made[0]!.id]);
  expect(recorder.view().state).toEqual({
    name: 'stopped',
    durationUs: 7_000_000,
    safe: 'on-server',
  });
  for (const track of [surface, voice]) {
    expect(track.stopped).toBe(false);
    expect(track.clones.every((clone) => clone.stopped)).toBe(true);
  }
  expect(worker.over).toBe(true);
});

it('tells why when a device can’t be read', async () => {
  Object.assign(globalThis, {
    MediaStreamTrackProcessor: class {
      constructor() {
        throw new AppError('device-busy');
      }
    },
  });
  const recorder = new Recorder();
  await recorder.begin(options().chosen);
  expect(recorder.view().state).toEqual({ name: 'broken', problem: 'device-busy' });
  recorder.again();
  expect(recorder.view().state.name).toBe('not-yet');
});

it('is stopped and safe even when the server does not hear of the stop', async () => {
  Object.assign(globalThis, { fetch: () => Promise.reject(new TypeError('no way through')) });
  const { recorder, worker } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  recorder.stop();
  worker.say({ is: 'all-sent', durationUs: 1, packets: {} });
  await breathe();
  expect(recorder.view().state.name).toBe('stopped');
});

it('says where the take is safe when the server could not be reached', async () => {
  const { recorder, worker } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  recorder.stop();
  worker.say({ is: 'kept-here', durationUs: 9, packets: {} });
  expect(recorder.view().state).toEqual({ name: 'stopped', durationUs: 9, safe: 'in-browser' });
  expect(worker.over).toBe(true);
});

it('ends the take, and says why, when the browser has no more room', async () => {
  const { recorder, worker } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  worker.say({ is: 'store-full' });
  expect(recorder.view().storeFull).toBe(true);
  expect(recorder.view().state.name).toBe('stopping');
  expect(worker.told.at(-1)).toBe('stop');
});

it('says it again: ends at the pause before the phrase and goes on as another take', async () => {
  jest.useFakeTimers();
  const recorder = new Recorder();
  const running = recorder.begin(options().chosen);
  const first = FakeWorker.last;
  first.say({ is: 'ready' });
  await running;
  for (const track of made[0]!.tracks) first.say({ is: 'first', trackId: track.id });
  const again = recorder.sayAgain();
  expect(recorder.view().state.name).toBe('rewinding');
  // Two phrases, 1 to 4 s and 6 to 9 s.
  const levels = new Uint8Array(450).fill(20);
  levels.fill(80, 50, 200).fill(80, 300, 450);
  const sound = { fromUs: 0, sampleRate: 48_000, samples: new Float32Array(0) };
  first.say({ is: 'last-seconds', last: { sound, levels, atUs: 9_000_000 } });
  await jest.advanceTimersByTimeAsync(0);
  expect(first.told).toEqual(['open', 'start', 'look-back', 'stop']);
  expect(recorder.view().state).toEqual({ name: 'count-in', left: 3 });
  const second = FakeWorker.last;
  second.say({ is: 'ready' });
  await jest.advanceTimersByTimeAsync(3_000);
  await again;
  jest.useRealTimers();
  expect(takes[1]).toEqual({
    takeId: made[1]!.id,
    after: { takeId: made[0]!.id, untilUs: expect.any(Number) },
  });
  expect(takes[1]!.after!.untilUs).toBeGreaterThan(4_000_000);
  expect(takes[1]!.after!.untilUs).toBeLessThan(6_000_000);
  // The part of the first take that stays is added to the second.
  expect(recorder.view().before).toEqual({ takes: 1, keptUs: takes[1]!.after!.untilUs });
  // The first is brought to safety meanwhile, and changes nothing on the screen.
  first.say({ is: 'kept-here', durationUs: 9_000_000, packets: {} });
  expect(ended).toEqual([made[0]!.id]);
  expect(recorder.view().state.name).toBe('starting');
});

it('records another device in place of the first, in the same track', async () => {
  const { recorder, worker } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  expect(recorder.replace('surface', new FakeTrack() as never)).toBe(true);
  expect(worker.told.at(-1)).toBe('replace');
  expect(recorder.replace('camera', new FakeTrack() as never)).toBe(false);
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

it('called off before the clocks are known, with no count-in, has recorded nothing and says nothing else', async () => {
  const recorder = new Recorder();
  const running = recorder.begin(options().chosen);
  expect(recorder.view().state).toEqual({ name: 'starting', waitingFor: null });
  recorder.stop();
  await running;
  FakeWorker.last.say({ is: 'ready' });
  await breathe();
  expect(recorder.view().state.name).toBe('not-yet');
  expect([made, ended, FakeWorker.last.told, FakeWorker.last.over]).toEqual([
    [],
    [],
    ['open'],
    true,
  ]);
});

it('called off and begun again within the second, records one take, and stops it', async () => {
  jest.useFakeTimers();
  const recorder = new Recorder();
  const first = recorder.begin(options({ countIn: 3 }).chosen);
  const calledOff = FakeWorker.last;
  recorder.stop();
  const second = recorder.begin(options({ countIn: 3 }).chosen);
  const worker = FakeWorker.last;
  for (const one of [calledOff, worker]) one.say({ is: 'ready' });
  await jest.advanceTimersByTimeAsync(4_000);
  await Promise.all([first, second]);
  jest.useRealTimers();
  expect([calledOff.over, worker.over, made.length]).toEqual([true, false, 1]);
  recorder.stop();
  expect(worker.told).toEqual(['open', 'start', 'stop']);
});

it('stopped while it waits to look back, ends the take and says where it is', async () => {
  const { recorder, worker } = await begun();
  for (const track of made[0]!.tracks) worker.say({ is: 'first', trackId: track.id });
  const again = recorder.sayAgain();
  recorder.stop();
  await again;
  expect(recorder.view().state.name).toBe('stopping');
  expect(worker.told).toEqual(['open', 'start', 'look-back', 'stop']);
  worker.say({ is: 'kept-here', durationUs: 4_000_000, packets: {} });
  expect(recorder.view().state).toEqual({
    name: 'stopped',
    durationUs: 4_000_000,
    safe: 'in-browser',
  });
});
