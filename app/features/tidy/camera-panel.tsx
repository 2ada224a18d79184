import { useState } from 'react';
import { MOST_NEAR, PLAIN_CAMERA, type CameraLook } from '@under-chalk/core/lesson/camera-look';
import type { Crop } from '@under-chalk/core/lesson/crop';
import { cameraLookOf, type Lesson } from '@under-chalk/core/lesson/lesson';
import { surfaceOf, trackOf, type Take } from '@under-chalk/core/lesson/take';
import { useEdits } from '../../data/edits';
import { Choices } from '../../ui/choices';
import { PartPanel } from './part-panel';

const SIDES = [
  { value: 'seen', label: 'as others see it' },
  { value: 'mirrored', label: 'as in a mirror' },
];

/** Whether there is a camera to be shown differently. */
export const hasCamera = (take: Take): boolean => (trackOf(take, 'camera')?.widthPx ?? 0) > 0;

/** The part that a look shows of all of the picture, before it is fitted into a shape. */
const partOf = ({ x, y, near }: CameraLook): Crop => {
  const size = 1 / near;
  const start = (middle: number) => Math.min(1 - size, Math.max(0, middle - size / 2));
  return { x: start(x), y: start(y), width: size, height: size };
};

/** How to look so that a part stands in the middle, as near as all of it can be seen. */
const lookAt = ({ x, y, width, height }: Crop): Pick<CameraLook, 'x' | 'y' | 'near'> => ({
  x: x + width / 2,
  y: y + height / 2,
  near: Math.min(MOST_NEAR, Math.max(1, 1 / Math.max(width, height))),
});

interface Props {
  readonly lesson: Lesson;
  readonly take: Take;
  readonly onDone: () => void;
}

/** Which part of a take's camera is shown: the face in the middle; and whether as in a mirror. */
export const CameraPanel = ({ lesson, take, onDone }: Props) => {
  const { put } = useEdits();
  const look = cameraLookOf(lesson, take.id);
  const [drawn, setDrawn] = useState<Crop>(partOf(look));
  const [mirrored, setMirrored] = useState(look.mirrored);
  const show = (wanted: CameraLook | null) => {
    put({ do: 'show-camera', takeId: take.id, look: wanted });
    onDone();
  };
  // What is written on a face would no longer lie where it was pointed at.
  const canMirror = surfaceOf(take) !== undefined || trackOf(take, 'ink') === undefined;
  return (
    <PartPanel
      {...{ lesson, take, of: 'camera' }}
      alt="All that the camera saw"
      hint="Draw round what is to stand in the middle. Each edge can also be moved with the arrow keys."
      part={drawn}
      onPart={setDrawn}
      label="Show it so"
      onShow={() => show({ ...lookAt(drawn), mirrored })}
      onAll={look === PLAIN_CAMERA ? null : () => show(null)}
      onLeave={onDone}
    >
      {canMirror ? (
        <Choices
          label="The camera is shown"
          choices={SIDES}
          value={mirrored ? 'mirrored' : 'seen'}
          onChoose={(side) => setMirrored(side === 'mirrored')}
        />
      ) : null}
    </PartPanel>
  );
};
