import type { Us } from '../time/us';

/** How a take came to its end, and where it is safe. */
export interface TakeEnd {
  readonly durationUs: Us;
  readonly safe: 'on-server' | 'in-browser';
}

/**
 * Where a recording stands. `recording` is only reached when the first picture or sound of every
 * track has really arrived: the sign that the teacher may speak is never shown before.
 */
export type RecorderState =
  | { readonly name: 'not-yet' }
  | { readonly name: 'count-in'; readonly left: number }
  /** `waitingFor`: tracks of which nothing has arrived. Null: nothing is being recorded, for their clocks aren't known yet. */
  | { readonly name: 'starting'; readonly waitingFor: readonly string[] | null }
  | { readonly name: 'recording' }
  | { readonly name: 'paused' }
  /** The last seconds are played, to say them again. `ended`: the take so far, once it is safe. */
  | { readonly name: 'rewinding'; readonly ended: TakeEnd | null }
  /** Stop was pressed; the last pieces are being brought to safety. */
  | { readonly name: 'stopping' }
  | ({ readonly name: 'stopped' } & TakeEnd)
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
  | ({ readonly on: 'ended' } & TakeEnd)
  | { readonly on: 'broke'; readonly problem: string }
  | { readonly on: 'again' };

export const NOT_YET: RecorderState = { name: 'not-yet' };

const begun = (countIn: number): RecorderState =>
  countIn > 0 ? { name: 'count-in', left: countIn } : { name: 'starting', waitingFor: null };

const endOf = ({ durationUs, safe }: TakeEnd): TakeEnd => ({ durationUs, safe });

/** The next state. An event that means nothing in a state leaves it as it is. */
export const nextRecorderState = (state: RecorderState, event: RecorderEvent): RecorderState => {
  if (event.on === 'broke') return { name: 'broken', problem: event.problem };
  switch (state.name) {
    case 'not-yet':
      return event.on === 'begin' ? begun(event.countIn) : state;
    case 'rewinding':
      // What is to be said again is a take already: a stop keeps it.
      if (event.on === 'stop')
        return state.ended ? { name: 'stopped', ...state.ended } : { name: 'stopping' };
      if (event.on === 'ended') return { name: 'rewinding', ended: endOf(event) };
      return event.on === 'begin' ? begun(event.countIn) : state;
    case 'count-in':
      if (event.on === 'stop') return NOT_YET;
      return event.on === 'tick' ? begun(state.left - 1) : state;
    case 'starting': {
      if (event.on === 'stop') return state.waitingFor ? { name: 'stopping' } : NOT_YET;
      if (event.on === 'opened') return { name: 'starting', waitingFor: event.trackIds };
      if (event.on !== 'first-arrived' || !state.waitingFor) return state;
      const waitingFor = state.waitingFor.filter((id) => id !== event.trackId);
      return waitingFor.length > 0 ? { name: 'starting', waitingFor } : { name: 'recording' };
    }
    case 'recording':
      if (event.on === 'pause') return { name: 'paused' };
      if (event.on === 'rewind') return { name: 'rewinding', ended: null };
      return event.on === 'stop' ? { name: 'stopping' } : state;
    case 'paused':
      if (event.on === 'resume') return { name: 'recording' };
      if (event.on === 'rewind') return { name: 'rewinding', ended: null };
      return event.on === 'stop' ? { name: 'stopping' } : state;
    case 'stopping':
      return event.on === 'ended' ? { name: 'stopped', ...endOf(event) } : state;
    case 'stopped':
    case 'broken':
      if (event.on === 'begin') return nextRecorderState(NOT_YET, event);
      return event.on === 'again' ? NOT_YET : state;
  }
};

/** Whether the lights are down: from the count-in until everything is safe. */
export const isDark = (state: RecorderState): boolean =>
  ['count-in', 'starting', 'recording', 'paused', 'rewinding', 'stopping'].includes(state.name);
