import { useState } from 'react';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import {
  FIRST_WATERMARK,
  pageOfWatermark,
  type Watermark,
} from '@under-chalk/core/lesson/watermark';
import { calledName } from '@under-chalk/core/material/material';
import { useEdits } from '../../data/edits';
import { ChoiceLine } from '../../ui/choice-line';
import { Choices } from '../../ui/choices';
import { CORNERS, placeOf } from '../../ui/corners';
import { Field } from '../../ui/field';
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
const WORDS = 'words';

/** What lies over all of the film: words, or a picture of the lesson's materials; and how. */
export const WatermarkChoice = ({ lesson }: { lesson: Lesson }) => {
  const { put } = useEdits();
  const pictures = usePictures(lesson.id);
  const { plan, watermark } = lesson.decisions;
  const page = watermark && pageOfWatermark(watermark);
  const laid = pictures.find(({ of }) => of.content === page?.content);
  const mark = (change: Partial<Watermark>) => {
    if (watermark) put({ do: 'set-watermark', watermark: { ...watermark, ...change } });
  };
  const lay = (of: Watermark['of'] | undefined) =>
    put({ do: 'set-watermark', watermark: of ? { ...FIRST_WATERMARK, ...watermark, of } : null });
  const choose = (id: string) =>
    lay(
      id === WORDS
        ? { text: (plan.className || plan.title || 'Only for my class').slice(0, 80) }
        : pictures.find((one) => one.id === id)?.of,
    );
  const label = 'Over all of the film there is';
  const words = watermark && 'text' in watermark.of ? watermark.of.text : null;
  return (
    <ChoiceLine
      label={label}
      value={watermark ? (words ?? (laid ? calledName(laid.name) : 'a picture')) : NOTHING}
    >
      <Choices
        label={label}
        hideLabel
        choices={[
          { value: NOTHING, label: NOTHING },
          { value: WORDS, label: 'a few words' },
          ...pictures.map(({ id, name }) => ({ value: id, label: calledName(name) })),
        ]}
        value={watermark ? (words === null ? (laid?.id ?? null) : WORDS) : NOTHING}
        onChoose={choose}
      />
      {words === null ? null : (
        <MarkWords key={words} words={words} onWords={(text) => lay({ text })} />
      )}
      {pictures.length === 0 ? (
        <Words size="small" tone="soft">
          A picture among the materials, under Plan, can lie over the film, too. What a PNG or SVG
          lets through, it lets through here.
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

/** The words, to be written: what is left empty is left as it was. */
const MarkWords = ({ words, onWords }: { words: string; onWords: (words: string) => void }) => {
  const [text, setText] = useState(words);
  const put = () => {
    const clean = text.trim();
    if (clean === '') setText(words);
    else if (clean !== words) onWords(clean);
  };
  return (
    <Field
      label="The words"
      maxLength={80}
      value={text}
      onChangeText={setText}
      onBlur={put}
      onSubmitEditing={put}
    />
  );
};
