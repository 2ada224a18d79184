import type { FrameShape } from '@under-chalk/core/lesson/layout';
import { PLAIN_GROUND, type Background, type Ground } from '@under-chalk/core/lesson/frame';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { calledName } from '@under-chalk/core/material/material';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { usePictures } from '../materials/use-pictures';

const SHAPES: { value: FrameShape; label: string }[] = [
  { value: '16:9', label: 'wide, 16:9' },
  { value: '4:3', label: 'less wide, 4:3' },
  { value: '1:1', label: 'square, 1:1' },
  { value: '9:16', label: 'upright, 9:16' },
];
const MARGINS = [
  { value: '0', label: 'none' },
  { value: '0.03', label: 'narrow' },
  { value: '0.07', label: 'wide' },
];
const ROUNDINGS = [
  { value: '0', label: 'square' },
  { value: '0.04', label: 'rounded' },
];
/** What can lie behind, besides pictures of the lesson. */
const GROUNDS: { label: string; ground: Ground; swatch: string }[] = [
  { label: 'slate', ground: PLAIN_GROUND, swatch: '#20292f' },
  { label: 'paper', ground: { is: 'colour', colour: '#f4efe4' }, swatch: '#f4efe4' },
  { label: 'sea', ground: { is: 'colour', colour: '#1f5b66' }, swatch: '#1f5b66' },
  {
    label: 'evening',
    ground: { is: 'gradient', from: '#22384d', to: '#8a4f4a' },
    swatch: '#56434b',
  },
  {
    label: 'morning',
    ground: { is: 'gradient', from: '#dfeaf0', to: '#f6dfc2' },
    swatch: '#ebe5d9',
  },
];

const sameGround = (a: Ground, b: Ground): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The output picture: its shape, the room round what it shows, and what lies behind. */
export const FrameChoice = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const pictures = usePictures(lesson.id);
  const { shape, ground, margin, rounding } = lesson.decisions.frame;
  const background = (change: Partial<Background>) =>
    put({ do: 'set-background', background: { ground, margin, rounding, ...change } });
  const grounds = [
    ...GROUNDS.map((one) => ({ ...one, value: one.label })),
    ...pictures.map(({ id, name, of }) => ({
      ...{ value: id, label: calledName(name), swatch: undefined },
      ground: { is: 'page' as const, of },
    })),
  ];
  const behind = grounds.find((one) => sameGround(one.ground, ground));
  const room = MARGINS.find(({ value }) => Number(value) === margin)?.label ?? 'some';
  const called = SHAPES.find(({ value }) => value === shape)!.label;
  return (
    <ChoiceLine label="The frame is" value={margin > 0 ? `${called}, room: ${room}` : called}>
      <Choices
        label="Its shape"
        choices={SHAPES}
        value={shape}
        onChoose={(chosen) => put({ do: 'set-frame-shape', shape: chosen })}
      />
      <Choices
        label="Margin round the picture"
        choices={MARGINS}
        value={String(margin)}
        onChoose={(chosen) => background({ margin: Number(chosen) })}
      />
      <Choices
        label="Corners of the picture"
        choices={ROUNDINGS}
        value={String(rounding)}
        onChoose={(chosen) => background({ rounding: Number(chosen) })}
      />
      <Choices
        label="Behind it"
        choices={grounds.map(({ value, label, swatch }) => ({
          ...{ value, label },
          ...(swatch ? { swatch } : {}),
        }))}
        value={behind?.value ?? null}
        onChoose={(chosen) =>
          background({ ground: grounds.find((one) => one.value === chosen)!.ground })
        }
      />
    </ChoiceLine>
  );
};
