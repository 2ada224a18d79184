import type { TrackKind } from '@under-chalk/core/lesson/take';
import type { RecorderState } from '@under-chalk/core/record/recorder-state';
import type { ErrorCode } from '@under-chalk/core/errors/errors';
import type { RecorderFigures } from '../../capture/recorder-messages';
import type { ChalkLine } from '../../ui/chalk-frame';

type StateName = RecorderState['name'];

/** The line round the picture, by state. */
export const LINE: Record<StateName, ChalkLine> = {
  'not-yet': 'none',
  'count-in': 'dashed',
  starting: 'dashed',
  recording: 'whole',
  paused: 'broken',
  rewinding: 'broken',
  stopping: 'broken',
  stopped: 'none',
  broken: 'none',
};

const SIGN: Record<StateName, string> = {
  'not-yet': 'Not recording',
  'count-in': 'Not yet',
  starting: 'Not yet: waiting for the first picture and sound',
  recording: 'Recording',
  paused: 'Paused: nothing is being recorded',
  rewinding: 'Not recording: listen, then say it again',
  stopping: 'Stopped: bringing the last of it to safety',
  stopped: 'Stopped',
  broken: 'Stopped',
};

/** The sign that can't be misread. */
export const signOf = (state: RecorderState): string =>
  state.name === 'count-in' ? `${SIGN['count-in']}: ${state.left}` : SIGN[state.name];

/** What is told of a device that has ended, by what was recorded from it. */
export const ENDED_CODE: Record<TrackKind, ErrorCode> = {
  surface: 'screen-ended',
  camera: 'camera-ended',
  voice: 'microphone-ended',
  'computer-sound': 'screen-ended',
  // A hand is no device, and never ends.
  ink: 'unexpected',
};

/** The same, as a screen reader says it: only when it is another place. */
export const safetySaid = ({ halted, keptHere }: RecorderFigures): string => {
  if (!halted) return '';
  const why = halted === 'away' ? 'Under Chalk can’t be reached' : 'The server’s disk is full';
  return `${why}; what is recorded waits ${keptHere ? 'safely in this browser' : 'in this tab'}. Go on.`;
};

/** Where what was recorded is safe by now. */
export const safetyWords = ({ unsentBytes, halted, keptHere }: RecorderFigures): string => {
  const megabytes = `${(unsentBytes / 1e6).toFixed(1)} MB`;
  if (halted) {
    const why = {
      away: ['Under Chalk can’t be reached', 'when it is back'],
      'disk-full': ['The server’s disk is full', 'when there is room'],
    }[halted];
    return keptHere
      ? `${why[0]}; ${megabytes} wait here, safe in this browser, and are sent ${why[1]}. Go on.`
      : `${why[0]}; ${megabytes} wait in this tab and are sent ${why[1]}. Leave it open, and go on.`;
  }
  return `Safe on the server but for the last ${megabytes}${keptHere ? ', which is safe in this browser' : ''}.`;
};
