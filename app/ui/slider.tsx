import { isMirrored } from './mirrored';
import { useTheme } from './theme';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  /** What dragging snaps to. */
  readonly step: number;
  /** How far an arrow key goes; Page Up and Page Down go ten times as far, Home and End to the ends. */
  readonly keyStep: number;
  /** The value as it would be said. */
  readonly inWords: (value: number) => string;
  readonly onChange: (value: number) => void;
}

/** A place on a line, dragged or moved by keys (WAI-ARIA APG, slider). The browser's own range input. */
export const Slider = (props: Props) => {
  const { label, value, least, most, step, keyStep, inWords, onChange } = props;
  const theme = useTheme();
  const inside = (to: number) => Math.min(most, Math.max(least, to));
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={inWords(value)}
      min={least}
      max={Math.max(least + step, most)}
      step={step}
      value={inside(value)}
      onChange={(event) => onChange(Number(event.currentTarget.value))}
      onKeyDown={(event) => {
        const by = {
          ArrowRight: 1,
          ArrowUp: 1,
          ArrowLeft: -1,
          ArrowDown: -1,
          PageUp: 10,
          PageDown: -10,
        }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        const mirrored = isMirrored(event.currentTarget, event.key);
        onChange(inside(value + (mirrored ? -by : by) * keyStep));
      }}
      style={{ width: '100%', height: 44, margin: 0, accentColor: theme.action }}
    />
  );
};
