import type { RecorderState } from '@under-chalk/core/record/recorder-state';
import type { Recorder } from '../../capture/recorder';
import { Button } from '../../ui/button';
import type { Live } from './use-live';

interface Props {
  readonly recorder: Recorder;
  readonly live: Live;
  /** A surface and a camera share the picture. */
  readonly both: boolean;
  readonly voiced: boolean;
  /** Whether what is captured is being written on; null where it can't be. */
  readonly write: { readonly on: boolean; readonly set: (on: boolean) => void } | null;
  readonly onMore: () => void;
}

/** What is pressed while talking. */
export const TalkingLine = ({ recorder, live, both, voiced, write, onMore }: Props) => (
  <>
    <Button
      grow
      small
      label={live.flubs > 0 ? `Flub (${live.flubs})` : 'Flub'}
      spoken={`Mark a flub; ${live.flubs} marked`}
      onPress={live.flub}
    />
    <Button
      grow
      small
      // Where there are five, each has room for a word.
      label={both && write ? 'Again' : 'Say that again'}
      spoken="Say that again"
      disabled={!voiced}
      onPress={() => void recorder.sayAgain()}
    />
    {both ? (
      <Button
        grow
        small
        label={live.cameraOff ? 'Camera on' : 'Camera off'}
        onPress={live.toggleCamera}
      />
    ) : null}
    {write ? (
      <Button
        grow
        small
        label="Write"
        spoken={write.on ? 'Write on it no more' : 'Write on what is captured'}
        expanded={write.on}
        onPress={() => write.set(!write.on)}
      />
    ) : null}
    <Button small label="More" spoken="More to do while recording" onPress={onMore} />
  </>
);

interface StopProps {
  readonly recorder: Recorder;
  readonly state: RecorderState;
  readonly onPause: () => void;
}

/** Pause and stop: always there, always in the same place. */
export const StopLine = ({ recorder, state, onPause }: StopProps) => {
  const recording = state.name === 'recording';
  const running = recording || state.name === 'paused';
  return (
    <>
      {running ? (
        <Button grow label={recording ? 'Pause' : 'Go on recording'} onPress={onPause} />
      ) : null}
      <Button
        kind="main"
        grow
        label={running || state.name === 'stopping' ? 'Stop' : 'Don’t start'}
        disabled={state.name === 'stopping'}
        onPress={() => recorder.stop()}
      />
    </>
  );
};
