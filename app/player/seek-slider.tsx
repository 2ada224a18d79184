import { FILM_FPS } from '@under-chalk/core/time/frames';
import { US_PER_SECOND, type Us } from '@under-chalk/core/time/us';
import { useText } from '../messages/use-text';
import { Slider } from '../ui/slider';

/** A picture, µs: not rounded, or the further on the more it would be beside. */
const STEP_US = US_PER_SECOND / FILM_FPS;

interface Props {
  readonly label: string;
  readonly valueUs: Us;
  readonly mostUs: Us;
  readonly onSeek: (us: Us) => void;
}

/** A place in time to drag; with arrow keys a second at a time. Time runs to the right in every script's players. */
export const SeekSlider = ({ label, valueUs, mostUs, onSeek }: Props) => {
  const { length } = useText();
  return (
    <div dir="ltr">
      <Slider
        label={label}
        value={valueUs}
        least={0}
        most={Math.max(1, mostUs)}
        step={STEP_US}
        keyStep={US_PER_SECOND}
        inWords={length}
        onChange={onSeek}
      />
    </div>
  );
};
