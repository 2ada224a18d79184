import { Choices } from '../../ui/choices';
import { CORNERS, placeOf } from '../../ui/corners';
import type { Live } from './use-live';

const ARRANGEMENTS = [
  { value: 'inset', label: 'inset' },
  { value: 'surface', label: 'no camera' },
  { value: 'side', label: 'side by side' },
  { value: 'camera', label: 'camera only' },
] as const;

/** How surface and camera share the picture from this moment on, at the thumb. */
export const LiveArrangement = ({ live }: { live: Live }) => (
  <Choices
    label="In the picture from now on"
    hideLabel
    segments
    choices={ARRANGEMENTS}
    value={live.arrangement.kind}
    onChoose={(chosen) => live.arrange({ kind: chosen })}
  />
);

/** In which corner the inset is. */
export const LiveCorner = ({ live }: { live: Live }) => {
  const { inset, kind } = live.arrangement;
  return kind === 'inset' ? (
    <Choices
      label="Where the camera is"
      choices={CORNERS}
      value={
        CORNERS.find(({ value }) => value === `${inset.placeX} ${inset.placeY}`)?.value ?? null
      }
      onChoose={(corner) => live.arrange({ inset: { ...inset, ...placeOf(corner) } })}
    />
  ) : null;
};
