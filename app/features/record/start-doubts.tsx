import { HEARD_WORDS } from '@under-chalk/core/sound/voice-check';
import { Button } from '../../ui/button';
import { useFocusWhen } from '../../ui/focus';
import { Notice } from '../../ui/notice';

export type Doubt = 'none' | 'no-microphone' | 'dead';

interface Props {
  readonly doubt: Exclude<Doubt, 'none'>;
  readonly onWithout: () => void;
  readonly onBack: () => void;
}

/** What is asked after *Start*, where the thumb is: whether it is really meant to have no sound. */
export const StartDoubt = ({ doubt, onWithout, onBack }: Props) => {
  const back = useFocusWhen(true);
  return doubt === 'no-microphone' ? (
    <Notice
      tone="warn"
      urgent
      title="No microphone is chosen: this take will have no voice."
      text="Choose one above, or record without sound on purpose."
    >
      <Button small ref={back} label="Not like this" onPress={onBack} />
      <Button small label="Record without sound" onPress={onWithout} />
    </Notice>
  ) : (
    <Notice
      tone="bad"
      urgent
      title="Nothing at all has come from the microphone."
      text={HEARD_WORDS.nothing.next}
    >
      <Button small ref={back} label="Listen again" onPress={onBack} />
      <Button small label="Record without sound" onPress={onWithout} />
    </Notice>
  );
};
