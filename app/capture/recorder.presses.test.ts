import * as fc from 'fast-check';
import { isDark } from '@under-chalk/core/record/recorder-state';
import { takeOfLength } from '@under-chalk/core/testing/lessons';
import { FakeTrack, FakeWorker } from '../jest/fake-capture';
import type { FromRecorder } from './recorder-messages';
import { Recorder, type RecorderOptions } from './recorder';

/** Everything that can be pressed, that a worker can answer (late, or never), and time passing. */
type Step =
  | { readonly press: 'begin'; readonly countIn: number }
  | { readonly press: 'stop' | 'pause' | 'resume' | 'sayAgain' | 'again' | 'leave' }
  | { readonly answer: Answer; readonly of: number }
  | { readonly passMs: number };
type Answer =
  'ready' | 'first' | 'last-seconds' | 'all-sent' | 'kept-here' | 'store-full' | 'broke';

const stepArb: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.record({
      press: fc.constant('begin' as const),
      countIn: fc.constantFrom(0, 1, 3),
    }),
  },
  {
    weight: 5,
    arbitrary: fc.record({
      press: fc.constantFrom('stop', 'pause', 'resume', 'sayAgain', 'again', 'leave'),
    }),
  },
  {
    weight: 8,
    arbitrary: fc.record({
      answer: fc.constantFrom<Answer>(
        'ready',
        'first',
        'last-seconds',
        'all-sent',
        'kept-here',
        'store-full',
        'broke',
      ),
      of: fc.nat(3),
    }),
  },
  { weight: 4, arbitrary: fc.record({ passMs: fc.constantFrom(0, 400, 1_000, 3_100) }) },
);

const LENGTH_US = 7_000_000;

/** One run: the recorder, the workers it has made, the devices it was given and the locks it holds. */
class Run {
  readonly recorder = new Recorder();
  readonly workers: FakeWorker[] = [];
  readonly devices: FakeTrack[] = [];
  readonly promises: Promise<void>[] = [];
  readonly ended: string[] = [];
  locks = 0;

  constructor() {
    const { workers } = this;
    FakeWorker.made.length = 0;
    Object.assign(globalThis, {
      Worker: class extends FakeWorker {
        constructor() {
          super();
          workers.push(this);
        }
      },
      MediaStreamTrackProcessor: class {
        readable = {};
      },
      fetch: async () => Response.json(takeOfLength('take-one', LENGTH_US)),
    });
    Object.assign(navigator, {
      locks: {
        request: async (_: string, held: () => Promise<void>) => {
          this.locks++;
          await held();
          this.locks--;
        },
      },
    });
  }

  do(step: Step): void {
    if ('press' in step) {
      const { recorder } = this;
      if (step.press === 'begin') this.promises.push(recorder.begin(this.#options(step.countIn)));
      else if (step.press === 'sayAgain') this.promises.push(recorder.sayAgain());
      else recorder[step.press]();
    } else if ('answer' in step) {
      const worker = this.workers[this.workers.length - 1 - step.of];
      if (worker && !worker.over) this.#say(worker, step.answer);
    }
  }

  #options(countIn: number): RecorderOptions {
    const devices = { surface: new FakeTrack(), voice: new FakeTrack() };
    this.devices.push(...Object.values(devices));
    return {
      lessonId: 'lesson-one',
      lessonTitle: 'Tide heights',
      source: 'screen',
      practice: false,
      tracks: devices as never,
      countIn,
      onTake: () => undefined,
      onEnded: (takeId) => void this.ended.push(takeId),
    };
  }

  /** Only what a worker that was told so much would answer. */
  #say(worker: FakeWorker, answer: Answer): void {
    const told = new Set(worker.told);
    const say = (message: FromRecorder) => worker.say(message);
    if (answer === 'ready' && told.has('open')) say({ is: 'ready' });
    if (answer === 'broke') say({ is: 'broke', problem: 'unexpected', detail: 'a test' });
    if (!told.has('start')) return;
    if (answer === 'first')
      worker.take!.tracks.forEach(({ id }) => say({ is: 'first', trackId: id }));
    if (answer === 'store-full') say({ is: 'store-full' });
    if (answer === 'last-seconds' && (told.has('look-back') || told.has('stop'))) {
      const sound = { fromUs: 0, sampleRate: 48_000, samples: new Float32Array(0) };
      say({ is: 'last-seconds', last: { sound, levels: new Uint8Array(100), atUs: LENGTH_US } });
    }
    if (!told.has('stop')) return;
    const end = { durationUs: LENGTH_US, packets: {} };
    if (answer === 'all-sent' || answer === 'kept-here') say({ is: answer, ...end });
  }

  /** What must be true at every moment. */
  check(): void {
    const { state } = this.recorder.view();
    const going = this.workers.filter((worker) => !worker.over && !worker.told.includes('stop'));
    const recording = going.filter((worker) => worker.told.includes('start'));
    expect(recording.length).toBeLessThanOrEqual(1);
    expect(going.length).toBeLessThanOrEqual(1);
    for (const { told } of this.workers) {
      expect(told.filter((what) => what === 'start' || what === 'stop').length).toBeLessThanOrEqual(
        2,
      );
    }
    // Dark while anything can still be recorded, and never said to be over when it isn't.
    if (!isDark(state)) expect(going).toHaveLength(0);
    if (state.name === 'recording' || state.name === 'paused') expect(recording).toHaveLength(1);
    if (state.name === 'stopped') {
      expect(state.durationUs).toBe(LENGTH_US);
      expect(this.ended.length).toBeGreaterThan(0);
    }
    if (state.name === 'not-yet' || state.name === 'count-in') expect(recording).toHaveLength(0);
  }

  /** The page is left, and every worker answers at last. */
  async end(): Promise<void> {
    this.recorder.leave();
    for (let times = 0; times < 3; times++) {
      await jest.advanceTimersByTimeAsync(4_000);
      for (const worker of this.workers) if (!worker.over) this.#say(worker, 'all-sent');
    }
    await jest.advanceTimersByTimeAsync(4_000);
    // Hangs here if a beginning or a saying again never processes.
    await Promise.all(this.promises);
    this.check();
    expect(isDark(this.recorder.view().state)).toBe(false);
    expect(this.workers.every((worker) => worker.over)).toBe(true);
    expect(this.devices.flatMap(({ clones }) => clones).every(({ stopped }) => stopped)).toBe(true);
    expect(this.devices.some(({ stopped }) => stopped)).toBe(false);
    expect(this.locks).toBe(0);
    // Every take that was begun has been told of, but those whose recorder broke.
    expect(new Set(this.ended).size).toBe(this.ended.length);
  }
}

beforeEach(() => {
  jest.useFakeTimers();
  jest.spyOn(console, 'error').mockImplementation(() => undefined);
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

it('whatever is pressed and however late the answers: one recording, nothing held, nothing said that is not so', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(stepArb, { minLength: 1, maxLength: 24 }), async (steps) => {
      const run = new Run();
      for (const step of steps) {
        run.do(step);
        await jest.advanceTimersByTimeAsync('passMs' in step ? step.passMs : 0);
        run.check();
      }
      await run.end();
    }),
    { seed: 8, numRuns: 300 },
  );
}, 120_000);
