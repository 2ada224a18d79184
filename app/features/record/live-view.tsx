import { useEffect, useRef, type ReactNode } from 'react';
import { StyleSheet, View } from 'react-native';
import { PAGE_PX } from '@under-chalk/core/ink/page';
import { DEFAULT_LAYOUT, type Layout } from '@under-chalk/core/lesson/layout';
import { UNCROPPED, type Crop } from '@under-chalk/core/lesson/crop';
import type { Track } from '@under-chalk/core/lesson/take';
import { layOut, type PictureBox, type Rect } from '@under-chalk/core/scene/geometry';
import { Words } from '../../ui/text';
import { RADIUS, useTheme } from '../../ui/theme';

const FRAME_ASPECT = 16 / 9;

/** A live picture as a track of the core, so that it is laid out as the film will be. */
export const liveTrack = (stream: MediaStream | null, kind: 'surface' | 'camera') => {
  const settings = stream?.getVideoTracks()[0]?.getSettings();
  if (!stream) return undefined;
  const track: Track = {
    id: `live-${kind}`,
    kind,
    durationUs: 0,
    widthPx: settings?.width ?? 16,
    heightPx: settings?.height ?? 9,
    digest: '',
  };
  return track;
};

/** A page of the board, likewise. */
const BOARD: Track = { id: 'live-ink', kind: 'ink', durationUs: 0, ...PAGE_PX, digest: '' };

const percent = (fraction: number) => `${fraction * 100}%`;

const Picture = ({ stream, label, from }: { stream: MediaStream; label: string; from: Rect }) => {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (video.current) video.current.srcObject = stream;
  }, [stream]);
  return (
    <video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label={label}
      style={{
        position: 'absolute',
        width: percent(1 / from.width),
        height: percent(1 / from.height),
        left: percent(-from.x / from.width),
        top: percent(-from.y / from.height),
        objectFit: 'fill',
        display: 'block',
      }}
    />
  );
};

interface Props {
  readonly screen: MediaStream | null;
  readonly camera: MediaStream | null;
  /** The board in place of a screen. */
  readonly board?: ReactNode;
  /** Lies over the screen, or over the camera where there is nothing else, in its place: what is written on it. */
  readonly over?: ((from: Rect) => ReactNode) | null;
  /** Shown where there is no picture. */
  readonly empty: string;
  readonly layout?: Layout;
  readonly crop?: Crop;
  /** Lies over the picture, for what can be moved there. */
  readonly children?: ReactNode;
}

/** What will be in the picture, live, laid out as it will be in the film. */
export const LiveView = ({
  screen,
  camera,
  board = null,
  over = null,
  empty,
  layout = DEFAULT_LAYOUT,
  crop = UNCROPPED,
  children,
}: Props) => {
  const theme = useTheme();
  const surface = board ? BOARD : liveTrack(screen, 'surface');
  const face = liveTrack(camera, 'camera');
  const kind = surface ? layout.kind : 'camera';
  const placed = layOut({ ...layout, kind }, surface, face, FRAME_ASPECT, crop);
  const boxOf = (placement: PictureBox, edged: boolean) => ({
    left: percent(placement.to.x),
    top: percent(placement.to.y),
    width: percent(placement.to.width),
    height: percent(placement.to.height),
    borderRadius: placement.radius === 0.5 ? 9999 : placement.radius > 0 ? RADIUS.small : 0,
    ...(edged ? { borderWidth: 1.5, borderColor: theme.chalk } : {}),
  });
  return (
    <View style={[styles.frame, { backgroundColor: '#20292f' }]}>
      {screen && placed.surface ? (
        <View style={[styles.box, boxOf(placed.surface, false) as object]}>
          <Picture stream={screen} label="What will be recorded" from={placed.surface.from} />
          {over?.(placed.surface.from)}
        </View>
      ) : null}
      {board && placed.surface ? (
        <View style={[styles.box, boxOf(placed.surface, false) as object]}>{board}</View>
      ) : null}
      {camera && placed.camera ? (
        <View style={[styles.box, boxOf(placed.camera, placed.camera.to.width < 0.98) as object]}>
          <Picture stream={camera} label="The camera" from={placed.camera.from} />
          {surface ? null : over?.(placed.camera.from)}
        </View>
      ) : null}
      {!screen && !camera && !board ? (
        <View style={styles.empty}>
          <Words style={{ color: '#f3eee0', textAlign: 'center' }}>{empty}</Words>
        </View>
      ) : null}
      {children}
    </View>
  );
};

const styles = StyleSheet.create({
  frame: { width: '100%', aspectRatio: 16 / 9, borderRadius: RADIUS.small, overflow: 'hidden' },
  box: { position: 'absolute', overflow: 'hidden' },
  empty: { flex: 1, alignItems: 'center', justifyContent: 'center', padding: 16 },
});
