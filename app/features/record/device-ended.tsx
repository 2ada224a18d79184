import { errorText } from '@under-chalk/core/errors/errors';
import type { TrackKind } from '@under-chalk/core/lesson/take';
import { Button } from '../../ui/button';
import { ProblemNotice } from '../../ui/notice';
import { Words } from '../../ui/text';
import { ENDED_CODE } from './recorder-words';
import type { Chosen, Sources } from './use-sources';

interface Props {
  /** What the device gave. */
  readonly kind: TrackKind;
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
}

/** A device stopped in the middle of the take: what can take its place, or the same one plugged in again. */
export const DeviceEnded = ({ kind, chosen, choose, sources }: Props) => {
  const { cameras, microphones } = sources.devices;
  const others =
    kind === 'camera'
      ? cameras.filter((device) => device.id && device.id !== chosen.camera)
      : kind === 'voice'
        ? microphones.filter((device) => device.id && device.id !== chosen.microphone)
        : [];
  const isDevice = kind === 'camera' || kind === 'voice';
  // Tried again, and still not there.
  const problem = isDevice ? sources.problems[kind === 'camera' ? 'camera' : 'microphone'] : null;
  return (
    <ProblemNotice code={ENDED_CODE[kind]}>
      {problem ? <Words role="status">{errorText(problem).message}</Words> : null}
      {others.slice(0, 3).map(({ id, label }) => (
        <Button
          key={id}
          small
          label={`Use ${label}`}
          onPress={() =>
            choose(
              kind === 'camera'
                ? { camera: id, cameraName: label }
                : { microphone: id, microphoneName: label },
            )
          }
        />
      ))}
      {isDevice ? <Button small label="Try it again" onPress={sources.retry} /> : null}
    </ProblemNotice>
  );
};
