import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { FIRST_WATERMARK, type Watermark } from '@under-chalk/core/lesson/watermark';
import { calledName } from '@under-chalk/core/material/material';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { CORNERS, placeOf } from '../../ui/corners';
import { Words } from '../../ui/text';
import { usePictures } from '../materials/use-pictures';

const SIZES = [
  { value: '0.06', label: 'small' },
  { value: '0.1', label: 'middling' },
  { value: '0.18', label: 'large' },
];
const STRENGTHS = [
  { value: '0.35', label: 'faint' },
  { value: '0.7', label: 'quiet' },
  { value: '1', label: 'full' },
];
const NOTHING = 'nothing';

/** What lies over all of the film: a picture of the lesson's materials, and how. */
export const WatermarkChoice = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const pictures = usePictures(lesson.id);
  const { watermark } = lesson.decisions;
  const laid = pictures.find(({ of }) => of.content === watermark?.of.content);
  const mark = (change: Partial<Watermark>) => {
    if (watermark) put({ do: 'mark-film', watermark: { ...watermark, ...change } });
  };
  const choose = (id: string) => {
    const of = pictures.find((one) => one.id === id)?.of;
    put({ do: 'mark-film', watermark: of ? { ...FIRST_WATERMARK, ...watermark, of } : null });
  };
  const label = 'Over all of the film there is';
  return (
    <ChoiceLine
      label={label}
      value={watermark ? (laid ? calledName(laid.name) : 'a picture') : NOTHING}
    >
      <Choices
        label={label}
        hideLabel
        choices={[
          { value: NOTHING, label: NOTHING },
          ...pictures.map(({ id, name }) => ({ value: id, label: calledName(name) })),
        ]}
        value={watermark ? (laid?.id ?? null) : NOTHING}
        onChoose={choose}
      />
      {pictures.length === 0 ? (
        <Words size="small" tone="soft">
          Bring a picture in among the materials, under Plan; then it can lie over the film. What a
          PNG or SVG lets through, it lets through here too.
        </Words>
      ) : null}
      {watermark ? (
        <>
          <Choices
            label="Its place"
            choices={CORNERS}
            value={`${watermark.placeX} ${watermark.placeY}`}
            onChoose={(corner) => mark(placeOf(corner))}
          />
          <Choices
            label="Its size"
            choices={SIZES}
            value={String(watermark.size)}
            onChoose={(size) => mark({ size: Number(size) })}
          />
          <Choices
            label="Its strength"
            choices={STRENGTHS}
            value={String(watermark.strength)}
            onChoose={(strength) => mark({ strength: Number(strength) })}
          />
        </>
      ) : null}
    </ChoiceLine>
  );
};
