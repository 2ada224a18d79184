import type { Recorder } from '../../capture/recorder';
import { usePart } from '../../data/live-value';
import { Button } from '../../ui/button';
import { Notice } from '../../ui/notice';
import { DeviceEnded } from './device-ended';
import { LimitNotice, type Growing } from './live-figures';
import { RecoveredNotices } from './recovered-notices';
import { StoreFullNotice } from './store-full-notice';
import type { Chosen, Sources } from './use-sources';
import type { Stay } from './use-stay';

interface Props {
  readonly recorder: Recorder;
  readonly stay: Stay;
  readonly growing: Growing;
  readonly chosen: Chosen;
  readonly choose: (change: Partial<Chosen>) => void;
  readonly sources: Sources;
}

/** What has to be known while it records: what failed, what ends, what is not heard. */
export const RecordingNotices = ({ recorder, stay, growing, chosen, choose, sources }: Props) => {
  const recording = usePart(recorder, (view) => view.state.name === 'recording');
  const voiced = usePart(recorder, (view) => view.voiced);
  const silent = usePart(recorder, (view) => view.silent);
  const storeFull = usePart(recorder, (view) => view.storeFull);
  const ended = usePart(recorder, (view) => view.ended);
  return (
    <>
      {stay.asked ? (
        <Notice
          tone="warn"
          urgent
          title={recording ? 'It goes on recording.' : 'The take has not ended.'}
          text="Going back ends it here. What has been recorded is kept."
        >
          <Button label="Stay here" onPress={stay.stay} />
          <Button
            label="Stop and go back"
            onPress={() => {
              stay.leave();
              recorder.stop();
            }}
          />
        </Notice>
      ) : null}
      <LimitNotice growing={growing} />
      {voiced ? null : <Notice tone="warn" title="Recording without sound." />}
      {voiced && silent ? (
        <Notice
          tone="bad"
          urgent
          title="Nothing has been heard for a while."
          text="It goes on recording. Is the microphone muted, or too far away?"
        />
      ) : null}
      {storeFull ? <StoreFullNotice /> : null}
      <RecoveredNotices recorder={recorder} />
      {ended.map((kind) => (
        <DeviceEnded key={kind} kind={kind} chosen={chosen} choose={choose} sources={sources} />
      ))}
    </>
  );
};
