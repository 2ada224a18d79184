import { Choices } from '../../ui/choices';
import { CORNERS, placeOf } from '../../ui/corners';
import type { Live } from './use-live';

const LAYOUTS = [
  { value: 'inset', label: 'inset' },
  { value: 'surface', label: 'no camera' },
  { value: 'side', label: 'side by side' },
  { value: 'camera', label: 'camera only' },
] as const;

/** How surface and camera share the picture from this moment on, at the thumb. */
export const LiveLayout = ({ live }: { live: Live }) => (
  <Choices
    label="In the picture from now on"
    hideLabel
    segments
    choices={LAYOUTS}
    value={live.layout.kind}
    onChoose={(chosen) => live.changeLayout({ kind: chosen })}
  />
);

/** In which corner the inset is. */
export const LiveCorner = ({ live }: { live: Live }) => {
  const { inset, kind } = live.layout;
  return kind === 'inset' ? (
    <Choices
      label="Where the camera is"
      choices={CORNERS}
      value={
        CORNERS.find(({ value }) => value === `${inset.placeX} ${inset.placeY}`)?.value ?? null
      }
      onChoose={(corner) => live.changeLayout({ inset: { ...inset, ...placeOf(corner) } })}
    />
  ) : null;
};
