import { useState } from 'react';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import { cropOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { trackOf, type Take } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { PartPanel } from './part-panel';

/** Whether there is a surface of which only a part could be shown. */
export const canCrop = (take: Take): boolean => (trackOf(take, 'surface')?.widthPx ?? 0) > 0;

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly onDone: () => void;
}

/** Which part of a take's surface is shown; the rest is kept, and can be had back. */
export const CropPanel = ({ lesson, take, onDone }: Props) => {
  const { put } = useEdits();
  const crop = cropOf(lesson, take.id);
  const [drawn, setDrawn] = useState<Crop>(crop);
  if (!canCrop(take)) return null;
  const show = (part: Crop | null) => {
    put({ do: 'crop', takeId: take.id, crop: part });
    onDone();
  };
  return (
    <PartPanel
      {...{ lesson, take }}
      alt="The whole surface of this take"
      hint="Drag over the part to show. Each edge can also be moved with the arrow keys."
      part={drawn}
      onPart={setDrawn}
      label="Show this part"
      onShow={() => show(drawn)}
      onAll={crop === UNCROPPED ? null : () => show(null)}
      onLeave={onDone}
    />
  );
};
