import { middleOf } from '@under-chalk/core/time/ranges';
import { useState } from 'react';
import { View } from 'react-native';
import { layoutAt } from '@under-chalk/core/film/sections';
import {
  LAYOUT_NAMES,
  type Layout,
  type LayoutKind,
  type Inset,
  type InsetEdge,
} from '@under-chalk/core/lesson/layout';
import type { Lesson } from '@under-chalk/core/lesson/lesson';
import { surfaceOf, trackOf, type Take } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { Choices } from '../../ui/choices';
import { CORNERS, placeOf } from '../../ui/corners';
import { Words } from '../../ui/text';
import { SPACE } from '../../ui/theme';
import { SavedLayouts } from '../layouts/saved-layouts';
import type { OpenStretch } from './open-stretch';

const KINDS = Object.entries(LAYOUT_NAMES).map(([value, label]) => ({
  value: value as LayoutKind,
  label,
}));

const SIZES = [
  { value: '0.2', label: 'small' },
  { value: '0.28', label: 'middling' },
  { value: '0.42', label: 'large' },
];
const SHAPES: { value: Inset['shape']; label: string }[] = [
  { value: 'rounded', label: 'rounded' },
  { value: 'circle', label: 'circle' },
  { value: 'square-cornered', label: 'square corners' },
];
const EDGES: { value: InsetEdge; label: string }[] = [
  { value: 'line', label: 'a line' },
  { value: 'shadow', label: 'a shadow' },
  { value: 'none', label: 'nothing' },
];
type Reach = 'phrase' | 'onward' | 'take';
const REACHES: { value: Reach; label: string }[] = [
  { value: 'phrase', label: 'what is chosen' },
  { value: 'onward', label: 'from here on' },
  { value: 'take', label: 'the whole take' },
];

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly stretch: OpenStretch;
}

/** How surface and camera share the picture from a phrase on: which of them, and where the inset is. */
export const LayoutPanel = ({ lesson, take, stretch }: Props) => {
  const { put } = useEdits();
  const [reach, setReach] = useState<Reach>('phrase');
  const both = surfaceOf(take) && trackOf(take, 'camera');
  if (!both) {
    return (
      <Words size="small" tone="soft">
        This take has only one picture, so there is nothing to changeLayout.
      </Words>
    );
  }
  const layout = layoutAt(lesson, take, middleOf(stretch));
  const { inset, kind } = layout;
  const changeLayout = (change: Partial<Layout>) =>
    put({
      do: 'set-layout',
      takeId: take.id,
      startUs: reach === 'take' ? 0 : stretch.startUs,
      endUs: reach === 'phrase' ? stretch.endUs : take.durationUs,
      layout: { ...layout, ...change },
    });
  const move = (change: Partial<Inset>) =>
    changeLayout({ kind: 'inset', inset: { ...inset, ...change } });
  return (
    <View style={{ gap: SPACE.medium }}>
      <Choices label="Change it for" choices={REACHES} value={reach} onChoose={setReach} />
      <Choices
        label="Layout"
        choices={KINDS}
        value={kind}
        onChoose={(chosen) => changeLayout({ kind: chosen })}
      />
      {kind === 'inset' ? (
        <>
          <Choices
            label="Place of the inset"
            choices={CORNERS}
            value={`${inset.placeX} ${inset.placeY}`}
            onChoose={(corner) => move(placeOf(corner))}
          />
          <Words size="small" tone="soft">
            Or drag it in the picture.
          </Words>
          <Choices
            label="Size of the inset"
            choices={SIZES}
            value={String(inset.size)}
            onChoose={(size) => move({ size: Number(size) })}
          />
          <Choices
            label="Shape of the inset"
            choices={SHAPES}
            value={inset.shape}
            onChoose={(shape) => move({ shape })}
          />
          <Choices
            label="Round the inset there is"
            choices={EDGES}
            value={inset.edge ?? 'line'}
            onChoose={(edge) => move({ edge })}
          />
        </>
      ) : null}
      <SavedLayouts now={layout} onChoose={changeLayout} />
    </View>
  );
};
