import type { Us } from '../time/us';

/**
 * Where a recording stands. `recording` is only reached when the first picture or sound of every
 * track has really arrived: the sign that the teacher may speak is never shown before.
 */
export type RecorderState =
  | { readonly name: 'not-yet' }
  | { readonly name: 'count-in'; readonly left: number }
  | { readonly name: 'starting'; readonly waitingFor: readonly string[] }
  | { readonly name: 'recording' }
  | { readonly name: 'paused' }
  /** The last seconds are played, to say them again; the take so far is being brought to safety. */
  | { readonly name: 'rewinding' }
  /** Stop was pressed; the last pieces are being brought to safety. */
  | { readonly name: 'stopping' }
  | { readonly name: 'stopped'; readonly durationUs: Us; readonly safe: 'on-server' | 'in-browser' }
  | { readonly name: 'broken'; readonly problem: string };

export type RecorderEvent =
  | { readonly on: 'begin'; readonly countIn: number }
  | { readonly on: 'tick' }
  | { readonly on: 'opened'; readonly trackIds: readonly string[] }
  | { readonly on: 'first-arrived'; readonly trackId: string }
  | { readonly on: 'pause' }
  | { readonly on: 'resume' }
  | { readonly on: 'stop' }
  | { readonly on: 'rewind' }
  | { readonly on: 'ended'; readonly durationUs: Us; readonly safe: 'on-server' | 'in-browser' }
  | { readonly on: 'broke'; readonly problem: string }
  | { readonly on: 'again' };

export const NOT_YET: RecorderState = { name: 'not-yet' };

/** Waiting for tracks that have not been named yet. */
const UNOPENED = ['…'];

/** The next state. An event that means nothing in a state leaves it as it is. */
export const nextRecorderState = (state: RecorderState, event: RecorderEvent): RecorderState => {
  if (event.on === 'broke') return { name: 'broken', problem: event.problem };
  switch (state.name) {
    case 'not-yet':
    case 'rewinding':
      if (event.on === 'stop') return NOT_YET;
      if (event.on !== 'begin') return state;
      return event.countIn > 0
        ? { name: 'count-in', left: event.countIn }
        : { name: 'starting', waitingFor: UNOPENED };
    case 'count-in':
      if (event.on === 'stop') return NOT_YET;
      if (event.on !== 'tick') return state;
      return state.left > 1
        ? { name: 'count-in', left: state.left - 1 }
        : { name: 'starting', waitingFor: UNOPENED };
    case 'starting': {
      if (event.on === 'stop') return { name: 'stopping' };
      if (event.on === 'opened') return { name: 'starting', waitingFor: event.trackIds };
      if (event.on !== 'first-arrived') return state;
      const waitingFor = state.waitingFor.filter((id) => id !== event.trackId);
      return waitingFor.length > 0 ? { name: 'starting', waitingFor } : { name: 'recording' };
    }
    case 'recording':
      if (event.on === 'pause') return { name: 'paused' };
      if (event.on === 'rewind') return { name: 'rewinding' };
      return event.on === 'stop' ? { name: 'stopping' } : state;
    case 'paused':
      if (event.on === 'resume') return { name: 'recording' };
      if (event.on === 'rewind') return { name: 'rewinding' };
      return event.on === 'stop' ? { name: 'stopping' } : state;
    case 'stopping':
      return event.on === 'ended'
        ? { name: 'stopped', durationUs: event.durationUs, safe: event.safe }
        : state;
    case 'stopped':
    case 'broken':
      if (event.on === 'begin') return nextRecorderState(NOT_YET, event);
      return event.on === 'again' ? NOT_YET : state;
  }
};

/** Whether the lights are down: from the count-in until everything is safe. */
export const isDark = (state: RecorderState): boolean =>
  ['count-in', 'starting', 'recording', 'paused', 'rewinding', 'stopping'].includes(state.name);
