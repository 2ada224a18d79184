import type { InkColour } from '@under-chalk/core/ink/pen';
import {
  CLICK_LEVELS,
  POINTER_SIZES,
  type PointerLook,
  type PointerMark,
} from '@under-chalk/core/pointer/look';
import { Choices } from '../../ui/choices';

export interface MarkChoice {
  readonly value: PointerMark;
  readonly label: string;
}

const COLOURS: readonly InkColour[] = ['amber', 'red', 'blue', 'green', 'violet', 'main'];
type Size = keyof typeof POINTER_SIZES;
const SIZES = Object.keys(POINTER_SIZES) as Size[];
const LEVELS = Object.keys(CLICK_LEVELS) as (keyof typeof CLICK_LEVELS)[];
const GOES = [
  { value: '0', label: 'never' },
  { value: '1000000', label: 'after 1 s' },
  { value: '3000000', label: 'after 3 s' },
  { value: '10000000', label: 'after 10 s' },
];

const sizeOf = (mark: PointerMark, size: Size) =>
  POINTER_SIZES[size][mark === 'spotlight' ? 'light' : 'mark'];

const nearest = ({ mark, size }: PointerLook): Size =>
  SIZES.reduce((best, one) =>
    Math.abs(sizeOf(mark, one) - size) < Math.abs(sizeOf(mark, best) - size) ? one : best,
  );

interface YesOrNoProps {
  readonly label: string;
  readonly value: boolean;
  readonly onChoose: (value: boolean) => void;
}

const YesOrNo = ({ label, value, onChoose }: YesOrNoProps) => (
  <Choices
    label={label}
    choices={[
      { value: 'on', label: 'yes' },
      { value: 'off', label: 'no' },
    ]}
    value={value ? 'on' : 'off'}
    onChoose={(chosen) => onChoose(chosen === 'on')}
  />
);

interface Props {
  /** What is chosen here. */
  readonly label: string;
  readonly marks: readonly MarkChoice[];
  readonly look: PointerLook;
  readonly rings: string;
  /** When presses are offered to be seen and heard: never, with a mark only, or without one too. */
  readonly presses: 'never' | 'marked' | 'always';
  /** Whether presses are sure enough to hold a light in place. */
  readonly holds?: boolean;
  readonly onChange: (part: Partial<PointerLook>) => void;
}

/** What is drawn where something points: which mark, how large, in which colour, with rings, and for how long. */
export const LookChoices = ({ label, marks, look, rings, presses, holds, onChange }: Props) => {
  const size = nearest(look);
  const marked = look.mark !== 'none';
  const pressed = presses === 'always' || (presses === 'marked' && marked);
  return (
    <>
      <Choices
        label={label}
        hideLabel
        choices={marks}
        value={look.mark}
        onChoose={(mark) => onChange({ mark, size: sizeOf(mark, size) })}
      />
      {marked ? (
        <Choices
          label="Its size"
          choices={SIZES.map((value) => ({ value, label: value }))}
          value={size}
          onChoose={(chosen) => onChange({ size: sizeOf(look.mark, chosen) })}
        />
      ) : null}
      {look.mark === 'halo' || (look.rings && pressed) ? (
        <Choices
          label="Its colour"
          choices={COLOURS.map((value) => ({ value, label: value === 'main' ? 'chalk' : value }))}
          value={look.colour}
          onChoose={(colour) => onChange({ colour })}
        />
      ) : null}
      {pressed ? (
        <YesOrNo
          label={rings}
          value={look.rings}
          onChoose={(chosen) => onChange({ rings: chosen })}
        />
      ) : null}
      {pressed ? (
        <Choices
          label="A soft click is heard with it"
          choices={LEVELS.map((value) => ({ value, label: value }))}
          value={LEVELS.find((one) => CLICK_LEVELS[one] >= (look.clicks ?? 0)) ?? 'clear'}
          onChoose={(value) => onChange({ clicks: CLICK_LEVELS[value] })}
        />
      ) : null}
      {holds && look.mark === 'spotlight' ? (
        <YesOrNo
          label="A press holds it in place"
          value={look.holds === true}
          onChoose={(chosen) => onChange({ holds: chosen })}
        />
      ) : null}
      {marked ? (
        <Choices
          label="It goes when it is still"
          choices={GOES}
          value={String(look.goesAfterUs)}
          onChoose={(value) => onChange({ goesAfterUs: Number(value) })}
        />
      ) : null}
    </>
  );
};
