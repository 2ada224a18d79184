import { formatSpoken, type Us } from '@under-chalk/core/time/us';
import { useTheme } from '../ui/theme';

interface Props {
  readonly label: string;
  readonly valueUs: Us;
  readonly mostUs: Us;
  readonly onSeek: (us: Us) => void;
}

/** A place in time to drag; with arrow keys a second at a time. The browser's own range input. */
export const SeekSlider = ({ label, valueUs, mostUs, onSeek }: Props) => {
  const theme = useTheme();
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={formatSpoken(valueUs)}
      min={0}
      max={Math.max(1, mostUs)}
      step={33_333}
      value={Math.min(valueUs, mostUs)}
      onChange={(event) => onSeek(Number(event.currentTarget.value))}
      onKeyDown={(event) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        onSeek(Math.min(mostUs, Math.max(0, valueUs + by * 1_000_000)));
      }}
      style={{ width: '100%', height: 44, margin: 0, accentColor: theme.action }}
    />
  );
};
