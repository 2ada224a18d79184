import { isDark, nextRecorderState, NOT_YET, type RecorderEvent } from './recorder-state';

const after = (...events: RecorderEvent[]) => events.reduce(nextRecorderState, NOT_YET);
const begin = (countIn: number): RecorderEvent => ({ on: 'begin', countIn });
const opened: RecorderEvent = { on: 'opened', trackIds: ['surface', 'voice'] };
const first = (trackId: string): RecorderEvent => ({ on: 'first-arrived', trackId });

describe('the recorder', () => {
  it('counts in second by second', () => {
    expect(after(begin(3))).toEqual({ name: 'count-in', left: 3 });
    expect(after(begin(3), { on: 'tick' }, { on: 'tick' })).toEqual({ name: 'count-in', left: 1 });
    expect(after(begin(1), { on: 'tick' }).name).toBe('starting');
    expect(after(begin(0)).name).toBe('starting');
  });
  it('is recording only when every track has brought its first', () => {
    expect(after(begin(0), opened, first('surface'))).toEqual({
      name: 'starting',
      waitingFor: ['voice'],
    });
    expect(after(begin(0), opened, first('surface'), first('voice')).name).toBe('recording');
    expect(after(begin(0), opened, first('voice'), first('voice')).name).toBe('starting');
  });
  it('pauses, goes on, stops, and is done only when all has been sent', () => {
    const running = [begin(0), opened, first('surface'), first('voice')];
    expect(after(...running, { on: 'pause' }).name).toBe('paused');
    expect(after(...running, { on: 'pause' }, { on: 'resume' }).name).toBe('recording');
    expect(after(...running, { on: 'pause' }, { on: 'stop' }).name).toBe('stopping');
    const ended: RecorderEvent = { on: 'ended', durationUs: 5, safe: 'in-browser' };
    expect(after(...running, { on: 'stop' }, ended)).toEqual({
      name: 'stopped',
      durationUs: 5,
      safe: 'in-browser',
    });
    expect(after(...running, ended).name).toBe('recording');
  });
  it('rewinds to say something again, counts in and goes on', () => {
    const running = [begin(0), opened, first('surface'), first('voice')];
    const rewound = after(...running, { on: 'rewind' });
    expect(rewound.name).toBe('rewinding');
    expect(isDark(rewound)).toBe(true);
    expect(nextRecorderState(rewound, begin(3))).toEqual({ name: 'count-in', left: 3 });
    // What was recorded before is a take: it is not lost, and not said to be nothing.
    const ended: RecorderEvent = { on: 'ended', durationUs: 9, safe: 'on-server' };
    expect(nextRecorderState(rewound, { on: 'stop' })).toEqual({ name: 'stopping' });
    expect(after(...running, { on: 'rewind' }, ended, { on: 'stop' })).toEqual({
      name: 'stopped',
      durationUs: 9,
      safe: 'on-server',
    });
    expect(after(...running, { on: 'pause' }, { on: 'rewind' }).name).toBe('rewinding');
    expect(after(begin(3), { on: 'rewind' }).name).toBe('count-in');
  });
  it('can begin again straight from a take that has ended', () =>
    expect(
      nextRecorderState({ name: 'stopped', durationUs: 1, safe: 'on-server' }, begin(5)),
    ).toEqual({ name: 'count-in', left: 5 }));
  it('can be called off for as long as nothing is recorded', () => {
    expect(after(begin(3), { on: 'stop' })).toEqual(NOT_YET);
    expect(after(begin(0), { on: 'stop' })).toEqual(NOT_YET);
    expect(after(begin(0), opened, { on: 'stop' }).name).toBe('stopping');
  });
  it('ignores what makes no sense', () => {
    expect(after({ on: 'pause' })).toEqual(NOT_YET);
    expect(after(begin(3), begin(9))).toEqual({ name: 'count-in', left: 3 });
  });
  it('breaks from anywhere and can begin again', () => {
    const broken = after(begin(0), opened, { on: 'broke', problem: 'server-unreachable' });
    expect(broken).toEqual({ name: 'broken', problem: 'server-unreachable' });
    expect(nextRecorderState(broken, { on: 'again' })).toEqual(NOT_YET);
  });
  it('has the lights down from count-in until all is safe', () => {
    expect(isDark(NOT_YET)).toBe(false);
    expect(isDark({ name: 'stopping' })).toBe(true);
    expect(isDark({ name: 'stopped', durationUs: 1, safe: 'on-server' })).toBe(false);
  });
});
